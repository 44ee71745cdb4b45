<?php

declare(strict_types=1);

namespace Anvil\Checks\Pairing;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Pairing\SuffixState;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * High parts whose base no low part has, letter case and suffix aside; parts baked on themselves or left out by choice
 * are exempt.
 */
final class PairNoLow implements Check
{
    public function about(): About
    {
        return new About(
            code: 'pair-no-low',
            station: Station::Pairing,
            row: 330,
            severity: Severity::Blocker,
            title: 'No low part of that name',
            measured: 'High parts whose base no low part has, letter case and suffix aside; parts baked on themselves or left out by choice are exempt.',
            limit: null,
            limitWords: 'none',
            afterBake: 'detail that is on no map',
            remedy: 'hand in the low part, rename it, or leave the part out by choice',
            many: 'have no low part',
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->judged(Role::High) === []) {
            return Outcome::notApplicable('there is no high poly');
        }
        $findings = [];
        $pairs = $measures->asset->standard->isOff('pair-no-high') ? [] : self::pairedByPlace($measures);
        foreach ($measures->asset->pairing->ties as $tie) {
            if ($tie->low !== [] || $tie->high === [] || $tie->kind === TieKind::Self || PartnerElsewhere::isInNamedSet($tie->base, $measures) || PartnerElsewhere::isMixedInElsewhere($tie->base, Role::Low, $measures)) {
                continue;
            }
            $part = $tie->high[0];
            if (isset($pairs[spl_object_id($part)])) {
                continue;
            }
            $wanted = $tie->base.$measures->asset->standard->suffixFor(Role::Low);
            $findings[] = new Finding('pair-no-low', Severity::Blocker, "{$part->part->name} has no low part: no $wanted was handed in", 'hand it in, rename the part that is meant, or leave the high part out by choice', ['part' => $part->part->name, 'file' => $part->path]);
        }

        $unread = $findings === [] ? null : PartnerElsewhere::thatMayHold(Role::Low, $measures);

        return $unread === null ? Outcome::of($findings) : Outcome::notRun("$unread holds no part that could be read, so it cannot be told what is missing");
    }

    /**
     * High parts that stand where a low one without a suffix stands: that pair is one cause, which pair-no-high reports with both names.
     *
     * @return array<int, true> by object number
     */
    private static function pairedByPlace(Measures $measures): array
    {
        $out = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            if ($tie->kind === TieKind::Open && $tie->low !== [] && $tie->low[0]->suffixState() !== SuffixState::Exact) {
                foreach ($tie->better as $part) {
                    $out[spl_object_id($part)] = true;
                }
            }
        }

        return $out;
    }
}
