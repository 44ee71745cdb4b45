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
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Greatest difference between a node's turn and scale in the world and none at all. A caution where the scale is uneven or the
 * two sides of a pair differ.
 */
final class TransformUnfrozen implements Check
{
    public function about(): About
    {
        return new About(
            code: 'transform-unfrozen',
            station: Station::Intake,
            row: 90,
            severity: Severity::Note,
            title: 'Node turned or scaled',
            measured: 'Greatest difference between a node\'s turn and scale in the world and none at all. A caution where the scale of a low part is uneven: its normals lean.',
            limit: 1e-5,
            unit: 'ratio',
            limitWords: '1e-5',
            afterBake: 'nothing, until a program ignores the transform of one side',
            remedy: 'freeze the transforms (apply rotation and scale) before export',
            many: 'are turned or scaled by their node',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $partner = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            foreach ($tie->low as $part) {
                $partner[spl_object_id($part)] = $tie->high[0] ?? null;
            }
            foreach ($tie->high as $part) {
                $partner[spl_object_id($part)] = $tie->low[0] ?? null;
            }
        }
        $findings = [];
        $any = false;
        foreach ($measures->asset->judged() as $part) {
            $placement = $part->part->facts->placement;
            if ($placement === null) {
                continue;
            }
            $any = true;
            $off = $placement->offIdentity();
            // A mirror by itself is told of as that.
            if ($off <= $limit || $placement->isPlainMirror($limit)) {
                continue;
            }
            // Of the low poly: its normals lean, and with them the rays.
            $uneven = $part->role === Role::Low && $placement->unevenness() > $limit;
            $other = ($partner[spl_object_id($part)] ?? null)?->part->facts->placement;
            $differs = $other !== null && $placement->linearDifference($other) > $limit;
            $why = $uneven ? ', and its scale is uneven' : ($differs ? ', and its partner\'s node is not so' : '');
            $findings[] = Finding::onPart('transform-unfrozen', $uneven ? Severity::Caution : Severity::Note, $part, "the node of {$part->part->name} is turned or scaled$why", 'freeze the transforms (apply rotation and scale) before export', new Measured($off, $limit, 'ratio'));
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('these formats have no nodes');
    }
}
