<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Pairs whose high and low surfaces lie within 1e-4 of the pair's diagonal both ways, and parts baked on themselves by
 * choice.
 */
final class PairSelf implements Check
{
    public function about(): About
    {
        return new About(
            code: 'pair-self',
            station: Station::Intake,
            row: 290,
            severity: Severity::Note,
            title: 'Baked on itself',
            measured: 'Pairs whose high and low surfaces lie within 1e-4 of the pair\'s diagonal both ways, and parts baked on themselves by choice.',
            limit: 0.0001,
            limitWords: '1e-4 d',
            afterBake: 'no detail: the map is flat there',
            remedy: 'nothing, if it is meant',
            beside: [Rays::class],
            many: 'are baked on themselves',
            symptoms: ['flat bake'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        foreach ($measures->asset->sets as $set) {
            if ($set->low === []) {
                continue;
            }
            $part = $set->low[0];
            if ($set->high === [] && $set->onItself) {
                $findings[] = new Finding('pair-self', Severity::Note, "{$part->part->name} is baked on itself, by choice", 'nothing, if it is meant', ['part' => $part->part->name, 'file' => $part->path, 'set' => $set->name]);
            } elseif (($measures->clearanceOf($set)->coincides ?? false) && $set->high !== [] && ! $measures->clearanceOf($set)?->isMasked()) {
                $findings[] = new Finding('pair-self', Severity::Note, "{$part->part->name} and {$set->high[0]->part->name} are the same surface: nothing but its own shape will be baked", 'nothing, if it is meant; else hand in the high poly', ['part' => $part->part->name, 'other' => $set->high[0]->part->name, 'file' => $part->path]);
            }
        }

        return Outcome::of($findings);
    }
}
