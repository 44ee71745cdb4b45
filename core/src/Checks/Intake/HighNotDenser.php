<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Severity;

/**
 * High triangles over low triangles of a pair.
 */
final class HighNotDenser implements Check
{
    public function about(): About
    {
        return new About(
            code: 'high-not-denser',
            station: Station::Intake,
            row: 280,
            severity: Severity::Note,
            title: 'High hardly denser than low',
            measured: 'High triangles over low triangles of a pair.',
            limit: 1.2,
            unit: 'ratio',
            limitWords: 'under 1.2',
            afterBake: 'little or no detail in the maps',
            remedy: 'hand in the high poly, if there is one',
            beside: [Rays::class],
            many: 'have a high poly that is hardly denser',
            symptoms: ['flat bake', 'missing detail', 'jagged or pixelated edges'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ($measures->asset->sets as $set) {
            // What is baked on itself is told of as that.
            if ($set->onItself || ($measures->clearanceOf($set)->coincides ?? false)) {
                continue;
            }
            foreach ($measures->asset->tiesOf($set) as $tie) {
                $low = RoledPart::triangles($tie->low);
                $any = true;
                if ($low > 0 && RoledPart::triangles($tie->high) / $low < $limit && $tie->kind !== TieKind::Crossed) {
                    $ratio = RoledPart::triangles($tie->high) / $low;
                    $findings[] = Finding::onTie('high-not-denser', Severity::Note, $tie->low[0], $tie->high[0]->part->name, "the high poly of {$tie->low[0]->part->name} has ".sprintf('%.3g', $ratio).' times its triangles', 'hand in the high poly, if there is one', new Measured($ratio, $limit, 'ratio'));
                }
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no low part has a high part of its own');
    }
}
