<?php

declare(strict_types=1);

namespace Anvil\Checks\Handoff;

use Anvil\Changes\PartChange;
use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Changed;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Severity;

/**
 * Ties of which one side moved or changed its shape since the last delivery while the other stayed as it was.
 */
final class TieHalfMoved implements Check
{
    public function about(): About
    {
        return new About(
            code: 'tie-half-moved',
            station: Station::HandOff,
            row: 940,
            severity: Severity::Caution,
            title: 'Only one side changed',
            measured: 'How far one side of a tie moved, or its surface went, since the last delivery, as a share of the diagonal of its low parts, where the other side went less than the limit.',
            limit: 1e-4,
            limitWords: '0.01 % of the low part\'s size',
            afterBake: 'details beside their place, or those of the last version',
            remedy: 'export the other side as well, from the same scene',
            unit: 'share',
            measures: [Changed::class],
            many: 'changed on one side only',
            symptoms: ['offset details', 'details shifted', 'old version'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $reason = PartGone::notCompared($measures);
        if ($reason !== null) {
            return Outcome::notApplicable($reason);
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $changes = PartGone::changes($measures);
        $findings = [];
        foreach ($measures->asset->pairing->ties as $tie) {
            $d = RoledPart::boundsOf($tie->low)?->diagonal() ?? 0.0;
            if ($tie->low === [] || $tie->high === [] || $d <= 0.0) {
                continue;
            }
            [$low, $high] = [self::farthest($tie->low, $changes), self::farthest($tie->high, $changes)];
            if ($low === null || $high === null || ($low->greatest() > $limit * $d) === ($high->greatest() > $limit * $d)) {
                continue;
            }
            [$went, $stayed, $other] = $low->greatest() > $high->greatest() ? [$low, 'high', $tie->high[0]->part->name] : [$high, 'low', $tie->low[0]->part->name];
            $findings[] = Finding::onTie(
                'tie-half-moved', Severity::Caution, $tie->low[0], $tie->high[0]->part->name,
                "$went->name ".self::words($went, $measures)." since the last delivery; its $stayed poly $other did not change",
                "export the $stayed poly $other as well, from the same scene; go on where only the other side was to change", new Measured($went->greatest() / $d, $limit, 'share'),
            );
        }

        return Outcome::of($findings);
    }

    private static function words(PartChange $change, Measures $measures): string
    {
        if (! $change->is('moved')) {
            return 'changed its shape by up to '.Words::length($change->greatest(), $measures->asset);
        }
        $out = [];
        $factor = $change->measure['factor'] ?? 1.0;
        if (abs($factor - 1) > 1e-4) {
            $out[] = 'was scaled by '.sprintf('%.4g', $factor);
        }
        if (($change->measure['turn'] ?? 0.0) > 0.01) {
            $out[] = 'turned by '.Words::degrees($change->measure['turn'] ?? 0.0);
        }

        return $out === [] ? 'moved by '.Words::length($change->measure['distance'] ?? 0.0, $measures->asset) : implode(' and ', $out).', its surface up to '.Words::length($change->greatest(), $measures->asset);
    }

    /**
     * The one of a side that went farthest; null where one of them was not there before.
     *
     * @param  list<RoledPart>  $parts
     * @param  array<string, PartChange>  $changes
     */
    private static function farthest(array $parts, array $changes): ?PartChange
    {
        $best = null;
        foreach ($parts as $part) {
            $change = $changes["{$part->role?->value} {$part->part->name}"] ?? null;
            if ($change === null || $change->is('added')) {
                return null;
            }
            $best = $best === null || $change->greatest() > $best->greatest() ? $change : $best;
        }

        return $best;
    }
}
