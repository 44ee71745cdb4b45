<?php

declare(strict_types=1);

namespace Anvil\Explode;

use Anvil\Asset\Asset;
use Anvil\Clearance\Bleed;
use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\SetClearance;
use Anvil\Geometry\Bounds;
use Anvil\Occlusion\Occlusion;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;

/**
 * One translation a set that takes it out of every other set's rays (METHODS, "Explode vector").
 *
 * Sets in no conflict stay. Of each conflict the set whose move resolves most for the least way goes first; a moved box, low ∪ high ∪
 * cage grown by the reach and half the clearance, stands apart from every other set's. Moves are along an axis, each way tried.
 * Proved by shooting the rays again.
 */
final readonly class ExplodePlan
{
    private const OCCLUSION_POINTS = 128;

    /** Up to so many sets bleed and occlusion after the move are shot for every set, beyond it for those in conflict. */
    private const ALL_UP_TO = 40;

    /** Up to so many sets in conflict every move is weighed against all others' anew. */
    private const EXACT_UP_TO = 100;

    /**
     * @param  array<string, array{float, float, float}>  $vectors  of every set, 0 for those that stay
     * @param  array<string, list<string>>  $conflicts  set → sets that it meets first or that meet it first
     * @param  array<string, float>  $bleedBefore  share of the set's seen low area
     * @param  array<string, float>  $bleedAfter
     * @param  array<string, float>  $occlusionBefore  share of directions over its faces that other sets' high poly stands in
     * @param  array<string, float>  $occlusionAfter
     */
    private function __construct(
        public float $clearance,
        public array $vectors,
        public array $conflicts,
        public array $bleedBefore,
        public array $bleedAfter,
        public array $occlusionBefore,
        public array $occlusionAfter,
    ) {
    }

    /**
     * @param  array<string, SetClearance>  $clearances  by set
     * @param  float|null  $clearance  gap between boxes, in file units; null: 2 % of D
     * @param  bool  $all  move every set apart, in conflict or not
     */
    public static function of(Asset $asset, array $clearances, ?float $clearance = null, bool $all = false): self
    {
        [$clearance, $conflicts, $vectors] = self::layout($asset, $clearances, $clearance, $all);
        $surfaces = [];
        foreach ($asset->sets as $set) {
            if ($set->isWhole()) {
                $surfaces[$set->name] = SetSurfaces::of($set, $asset->standard->rays->smooth);
            }
        }
        $assembled = Visibility::assembled(array_values($surfaces));
        $before = $after = $occBefore = $occAfter = [];
        foreach ($asset->sets as $set) {
            $measured = $clearances[$set->name] ?? null;
            if ($measured === null) {
                continue;
            }
            $before[$set->name] = array_sum(array_map(static fn (Bleed $bleed): float => $bleed->share, $measured->bleeds));
            if (count($asset->sets) > self::ALL_UP_TO && ! isset($conflicts[$set->name])) {
                // Nothing in its way moves; shooting hundreds of sets at hundreds would take minutes to say so.
                $after[$set->name] = $before[$set->name];

                continue;
            }
            $moved = self::others($surfaces, $set, $vectors);
            $after[$set->name] = array_sum(array_map(static fn (Bleed $bleed): float => $bleed->share,
                ClearanceMeasure::bleedOnly($surfaces[$set->name], $moved, $assembled, $asset->standard, $measured)));
            $shades = static fn (SetSurfaces $other): bool => $asset->choices->mayShade($set->name, $other->name);
            $occBefore[$set->name] = Occlusion::of($surfaces[$set->name]->low(), array_values(array_filter(self::others($surfaces, $set, []), $shades)), self::OCCLUSION_POINTS);
            $occAfter[$set->name] = Occlusion::of($surfaces[$set->name]->low(), array_values(array_filter($moved, $shades)), self::OCCLUSION_POINTS);
        }

        return new self($clearance, $vectors, $conflicts, $before, $after, $occBefore, $occAfter);
    }

    /**
     * Which sets are in each other's way, moved or not.
     *
     * @param  array<string, SetClearance>  $clearances
     * @return array<string, list<string>>
     */
    public static function inTheWay(Asset $asset, array $clearances): array
    {
        return self::conflicts($asset, $clearances, null);
    }

    /**
     * The vectors alone, not proved.
     *
     * @param  array<string, SetClearance>  $clearances
     * @return array<string, array{float, float, float}>
     */
    public static function vectorsOf(Asset $asset, array $clearances): array
    {
        return self::layout($asset, $clearances, null, false)[2];
    }

    /**
     * @param  array<string, SetClearance>  $clearances
     * @return array{float, array<string, list<string>>, array<string, array{float, float, float}>} clearance, conflicts, vectors
     */
    private static function layout(Asset $asset, array $clearances, ?float $clearance, bool $all): array
    {
        $d = $asset->diagonal();
        $clearance ??= self::roundedUp(0.02 * $d, $d);
        $boxes = [];
        foreach ($asset->sets as $set) {
            $box = $set->bounds();
            if ($box !== null) {
                $reach = ($clearances[$set->name] ?? null)?->inUse();
                $boxes[$set->name] = $box->grown(($reach === null ? 0.0 : max($reach->out, $reach->in)) + $clearance / 2);
            }
        }
        $conflicts = self::conflicts($asset, $clearances, $all ? array_keys($boxes) : null);
        $vectors = self::moves($boxes, $conflicts, $d);

        return [$clearance, $conflicts, $vectors];
    }

    /**
     * @return list<string>
     */
    public function moved(): array
    {
        return array_values(array_map(strval(...), array_keys(array_filter($this->vectors, static fn (array $v): bool => $v !== [0.0, 0.0, 0.0]))));
    }

    /**
     * For a store; `kept` takes it back.
     *
     * @return array<string, mixed>
     */
    public function toKeep(): array
    {
        return [
            'clearance' => $this->clearance, 'vectors' => $this->vectors, 'conflicts' => $this->conflicts, 'bleedBefore' => $this->bleedBefore, 'bleedAfter' => $this->bleedAfter,
            'occlusionBefore' => $this->occlusionBefore, 'occlusionAfter' => $this->occlusionAfter,
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toKeep`
     */
    public static function kept(array $stored): self
    {
        /** @var array{clearance: float, vectors: array<string, array{float, float, float}>, conflicts: array<string, list<string>>, bleedBefore: array<string, float>, bleedAfter: array<string, float>, occlusionBefore: array<string, float>, occlusionAfter: array<string, float>} $stored */
        return new self($stored['clearance'], $stored['vectors'], $stored['conflicts'], $stored['bleedBefore'], $stored['bleedAfter'], $stored['occlusionBefore'], $stored['occlusionAfter']);
    }

    /**
     * As `explode.json` has it.
     *
     * @return array<string, mixed>
     */
    public function toArray(Asset $asset): array
    {
        return [
            'clearance' => $this->clearance,
            'sets' => array_map(fn (BakeSet $set): array => [
                'set' => $set->name,
                'vector' => $this->vectors[$set->name] ?? [0.0, 0.0, 0.0],
                'parts' => array_map(static fn ($part): string => $part->part->name, [...$set->low, ...$set->high, ...$set->id, ...$set->cage]),
                'occlusionBefore' => $this->occlusionBefore[$set->name] ?? null,
                'occlusionAfter' => $this->occlusionAfter[$set->name] ?? null,
            ], $asset->sets),
            'bleedBefore' => $this->worst($this->bleedBefore),
            'bleedAfter' => $this->worst($this->bleedAfter),
        ];
    }

    /**
     * The greatest bleed of the sets in conflict; what stays under the limit elsewhere is no conflict and moves nothing.
     *
     * @param  array<string, float>  $bleeds
     */
    public function worst(array $bleeds): float
    {
        return max([0.0, ...array_values(array_intersect_key($bleeds, $this->conflicts))]);
    }

    public function isProved(): bool
    {
        return $this->worst($this->bleedAfter) === 0.0;
    }

    /**
     * @param  array<string, SetClearance>  $clearances
     * @param  list<string|int>|null  $all
     * @return array<string, list<string>>
     */
    private static function conflicts(Asset $asset, array $clearances, ?array $all): array
    {
        $joined = [];
        if ($all !== null) {
            foreach ($all as $one) {
                foreach ($all as $other) {
                    if ($one !== $other) {
                        $joined[(string) $one][(string) $other] = true;
                    }
                }
            }
        }
        $limit = $asset->standard->limitInForce('sets-bleed');
        foreach ($clearances as $name => $clearance) {
            foreach ($clearance->bleeds as $bleed) {
                if ($bleed->share > $limit) {
                    $joined[$name][$bleed->other] = true;
                    $joined[$bleed->other][$name] = true;
                }
            }
        }
        ksort($joined, SORT_STRING);
        $out = [];
        foreach ($joined as $name => $others) {
            ksort($others, SORT_STRING);
            $out[(string) $name] = array_map(strval(...), array_keys($others));
        }

        return $out;
    }

    /**
     * @param  array<string, Bounds>  $boxes
     * @param  array<string, list<string>>  $conflicts
     * @return array<string, array{float, float, float}>
     */
    private static function moves(array $boxes, array $conflicts, float $d): array
    {
        $vectors = array_fill_keys(array_keys($boxes), [0.0, 0.0, 0.0]);
        $placed = $boxes;
        // Of each set, how many conflicts it still stands in.
        $open = array_map(count(...), $conflicts);
        $fixed = $known = [];
        while (true) {
            $best = null;
            foreach ($open as $name => $solved) {
                if ($solved === 0 || isset($fixed[$name])) {
                    continue;
                }
                $vector = $known[$name] ??= self::leastMove($boxes[$name], array_diff_key($placed, [$name => true]), $d);
                $cost = (abs($vector[0]) + abs($vector[1]) + abs($vector[2])) / $solved;
                if ($best === null || $cost < $best[0] - 1e-12) {
                    $best = [$cost, $name, $vector];
                }
            }
            if ($best === null) {
                break;
            }
            // Of very many sets only the best is looked at anew after each move, until it stays the same.
            $now = self::leastMove($boxes[$best[1]], array_diff_key($placed, [$best[1] => true]), $d);
            if ($now !== $best[2]) {
                $known[$best[1]] = $now;

                continue;
            }
            if (count($open) <= self::EXACT_UP_TO) {
                $known = [];
            }
            [, $name, $vector] = $best;
            $fixed[$name] = true;
            $vectors[$name] = $vector;
            $placed[$name] = $boxes[$name]->moved($vector);
            $open[$name] = 0;
            foreach ($conflicts[$name] as $other) {
                if (! isset($fixed[$other])) {
                    $open[$other]--;
                }
            }
        }

        return $vectors;
    }

    /**
     * The shortest way along an axis that brings a box apart from all others.
     *
     * @param  array<string, Bounds>  $others
     * @return array{float, float, float}
     */
    private static function leastMove(Bounds $box, array $others, float $d): array
    {
        $best = [INF, [0.0, 0.0, 0.0]];
        for ($axis = 0; $axis < 3; $axis++) {
            foreach ([1.0, -1.0] as $sign) {
                // The others in the lane of the move, as blocked stretches of way.
                $blocked = [];
                foreach ($others as $other) {
                    for ($k = 0, $inLane = true; $k < 3; $k++) {
                        $inLane = $inLane && ($k === $axis || ($box->min[$k] < $other->max[$k] && $other->min[$k] < $box->max[$k]));
                    }
                    if ($inLane) {
                        $blocked[] = $sign > 0
                            ? [$other->min[$axis] - $box->max[$axis], $other->max[$axis] - $box->min[$axis]]
                            : [$box->min[$axis] - $other->max[$axis], $box->max[$axis] - $other->min[$axis]];
                    }
                }
                sort($blocked);
                $way = 0.0;
                foreach ($blocked as [$from, $to]) {
                    if ($from < $way && $to > $way) {
                        $way = $to;
                    }
                }
                $way = self::roundedUp($way, $d);
                if ($way < $best[0] - 1e-12) {
                    $vector = [0.0, 0.0, 0.0];
                    $vector[$axis] = $sign * $way;
                    $best = [$way, [$vector[0], $vector[1], $vector[2]]];
                }
            }
        }

        return $best[1];
    }

    /** Up to a round number of about a thousandth of D, so that files hold it exactly. */
    private static function roundedUp(float $length, float $d): float
    {
        if ($length <= 0.0 || $d <= 0.0) {
            return 0.0;
        }
        $digits = 3 - (int) floor(log10($d));
        $scale = 10.0 ** $digits;

        return round(ceil($length * $scale - 1e-9) / $scale, max(0, $digits));
    }

    /**
     * The other sets as one set sees them when all have moved.
     *
     * @param  array<string, SetSurfaces>  $surfaces
     * @param  array<string, array{float, float, float}>  $vectors
     * @return list<SetSurfaces>
     */
    private static function others(array $surfaces, BakeSet $own, array $vectors): array
    {
        $mine = $vectors[$own->name] ?? [0.0, 0.0, 0.0];
        $out = [];
        foreach ($surfaces as $name => $surface) {
            if ($name === $own->name) {
                continue;
            }
            $its = $vectors[$name] ?? [0.0, 0.0, 0.0];
            $shift = [$its[0] - $mine[0], $its[1] - $mine[1], $its[2] - $mine[2]];
            $out[] = $shift === [0.0, 0.0, 0.0] ? $surface : $surface->moved($shift);
        }

        return $out;
    }
}
