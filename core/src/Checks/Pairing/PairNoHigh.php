<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Low parts whose base no high part has, letter case and suffix aside; parts baked on themselves or left out by choice
 * are exempt.
 */
final class PairNoHigh implements Check
{
    public function about(): About
    {
        return new About(
            code: 'pair-no-high',
            station: Station::Pairing,
            row: 320,
            severity: Severity::Blocker,
            title: 'No high part of that name',
            measured: 'Low parts whose base no high part has, letter case and suffix aside; parts baked on themselves or left out by choice are exempt.',
            limit: null,
            limitWords: 'none',
            afterBake: 'the part bakes flat, or onto its neighbour',
            remedy: 'hand in the high part, rename it, or bake the part on itself by choice',
            many: 'have no high part',
            symptoms: ['flat bake', 'missing detail', 'empty'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->judged(Role::Low) === []) {
            return Outcome::notApplicable('there is no low poly');
        }
        $findings = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            if ($tie->high !== [] || $tie->low === [] || $tie->kind === TieKind::Self || PartnerElsewhere::isInNamedSet($tie->base, $measures) || PartnerElsewhere::isMixedInElsewhere($tie->base, Role::High, $measures)) {
                continue;
            }
            $part = $tie->low[0];
            $wanted = $tie->base.$measures->asset->standard->suffixFor(Role::High);
            $findings[] = new Finding('pair-no-high', Severity::Blocker, "{$part->part->name} has no high part: no $wanted was handed in", self::remedy($measures, $tie), ['part' => $part->part->name, 'file' => $part->path]);
        }

        $unread = $findings === [] ? null : PartnerElsewhere::thatMayHold(Role::High, $measures);

        return $unread === null ? Outcome::of($findings) : Outcome::notRun("$unread holds no part that could be read, so it cannot be told what is missing");
    }

    /** The partner that place and size know, where they do. */
    private static function remedy(Measures $measures, Tie $tie): string
    {
        $renames = [];
        foreach ($measures->asset->pairing->suggestions as $suggestion) {
            if (in_array($suggestion->part, [...$tie->low, ...$tie->better], true)) {
                $renames[] = "rename {$suggestion->part->part->name} to $suggestion->rename";
            }
        }
        $better = $tie->better === [] ? '' : ": {$tie->better[0]->part->name} stands where {$tie->low[0]->part->name} stands";

        return $renames !== [] ? implode(' and ', $renames).$better : 'hand it in, rename the part that is meant, or bake the low part on itself by choice';
    }
}
