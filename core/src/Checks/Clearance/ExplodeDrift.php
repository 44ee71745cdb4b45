<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * How far low, high, ID and cage of one set are moved by other vectors than the low part against the assembled original, as a share
 * of D.
 */
final class ExplodeDrift implements Check
{
    public function about(): About
    {
        return new About(
            code: 'explode-drift',
            station: Station::Clearance,
            row: 540,
            severity: Severity::Blocker,
            title: 'Parts of a set moved apart',
            measured: 'How far low, high, ID and cage of one set are moved by other vectors than the low part against the assembled original, as a share of the asset\'s size.',
            limit: 0.0001,
            unit: 'share',
            limitWords: '0.01 % of the asset\'s size',
            afterBake: 'an offset bake: details beside where they belong',
            remedy: 'move all parts of the set by one vector',
            many: 'have parts moved apart',
            symptoms: ['offset detail', 'shifted detail'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $assembled = $measures->assembled;
        if ($assembled === null || ! $assembled->isOriginal()) {
            return Outcome::notApplicable($assembled === null ? 'these files are no exploded layout' : 'there is no original to hold it against; the offset of each pair is looked at');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $d = max(1e-30, $measures->asset->diagonal());
        $findings = [];
        foreach ($measures->asset->sets as $set) {
            $first = null;
            $worst = 0.0;
            $who = null;
            foreach ([...$set->low, ...$set->high, ...$set->id, ...$set->cage] as $part) {
                $move = $assembled->moveOf($part, $set->name);
                if ($move === null) {
                    continue;
                }
                $first ??= $move;
                $off = sqrt(($move[0] - $first[0]) ** 2 + ($move[1] - $first[1]) ** 2 + ($move[2] - $first[2]) ** 2) / $d;
                if ($off > $worst) {
                    $worst = $off;
                    $who = $part->part->name;
                }
            }
            if ($worst > $limit && $first !== null) {
                $findings[] = new Finding(
                    'explode-drift', Severity::Blocker, "$set->name: $who is moved ".Words::percent($worst).' of the asset\'s size otherwise than '.($set->low[0] ?? $set->high[0])->part->name,
                    'move all parts of the set by '.Words::vector($first, $measures->asset), ['set' => $set->name], new Measured($worst, $limit, 'share'),
                );
            }
        }

        return Outcome::of($findings);
    }
}
