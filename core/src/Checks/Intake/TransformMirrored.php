<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Nodes whose matrix has a negative determinant; the winding is put right on reading.
 */
final class TransformMirrored implements Check
{
    public function about(): About
    {
        return new About(
            code: 'transform-mirrored',
            station: Station::Intake,
            row: 100,
            severity: Severity::Caution,
            title: 'Node mirrored',
            measured: 'Nodes whose matrix has a negative determinant; the winding is put right on reading.',
            limit: null,
            unit: 'ratio',
            limitWords: 'no mirrored node',
            afterBake: 'inverted green or inside-out shading where another program does not put the winding right',
            remedy: 'freeze the transforms, then put the face direction right',
            many: 'are mirrored by their node',
            ofFile: true,
            symptoms: ['inverted green', 'green or red patches', 'inside out'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        $any = false;
        foreach ($measures->asset->judged() as $part) {
            $placement = $part->part->facts->placement;
            $any = $any || $placement !== null;
            if ($placement !== null && $placement->determinant() < 0.0) {
                $findings[] = Finding::onPart('transform-mirrored', Severity::Caution, $part, "the node of {$part->part->name} mirrors it", 'freeze the transforms (apply scale), then put the face direction right', new Measured($placement->determinant(), 0.0, 'ratio', true));
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('these formats have no nodes');
    }
}
