<?php

declare(strict_types=1);

namespace Anvil\Surface;

/**
 * Least distances between the borders of UV islands in a tile of a page, and between arms of one island (METHODS, "Padding"). In pages.
 *
 * Two segments are as far apart as the nearest of their four ends is from the other one (C. Ericson, "Real-Time Collision Detection", 2005, 5.1.9), in the
 * plane, where they do not cross.
 */
final class UvGaps
{
    /** Islands further apart than this are not told how far. */
    public const FAR = 1 / 16;

    /** Arms count that are further apart along the border than so many times their gap. */
    private const ARMS = 8.0;

    /** Pairs of segments that are looked at, at most: some ten seconds. */
    private const MOST_PAIRS = 40_000_000;

    /** Pairs of islands that are told, the nearest. */
    private const PAIRS = 1000;

    private const SAME = 1e-6;

    /** A slit whose sides are nearer than this, in pages (1 px of 2048), and one place on the model, is no gap. */
    private const SLIT = 1 / 2048;

    /** @var list<float> u and v of both ends, four a segment; the island lies to the left */
    private array $seg = [];

    /** @var list<int> segment → island */
    private array $island = [];

    /** @var list<int> segment → triangle, as the tile counts them */
    private array $of = [];

    /** @var list<int> segment → edge of that triangle */
    private array $edge = [];

    /** @var list<int> segment → the one that follows on the border */
    private array $next = [];

    /** @var array<int, int> segment → the one before it */
    private array $before = [];

    /** @var array<int, int> segment → its loop */
    private array $loop = [];

    /** @var array<int, float> segment → where it begins along its loop */
    private array $along = [];

    /** @var list<float> loop → its length */
    private array $round = [];

    /** @var array<int, float> island → the least gap to another or between its own arms */
    public array $nearest = [];

    /**
     * Pairs of islands nearer than was asked for, the nearest first; `ends`: both ends of the gap.
     *
     * @var list<array{one: int, two: int, gap: float, ends: array{float, float, float, float}, at: array{int, int}}>
     */
    public array $pairs = [];

    /** @var array<int, array<int, array{one: int, two: int, gap: float, ends: array{float, float, float, float}, at: array{int, int}}>> */
    private array $found = [];

    /** Whether all that lies near each other was looked at. */
    public bool $isWhole = true;

    private int $looked = 0;

    private int $cells = 1;

    /** @var array<int, int> cell → its first item */
    private array $starts = [];

    /** @var list<int> */
    private array $items = [];

    private function __construct(private readonly PageTile $tile, private readonly UvOverlaps $overlaps)
    {
    }

    /**
     * @param  float  $wanted  all pairs of islands nearer than this are told, in pages
     */
    public static function of(PageTile $tile, UvOverlaps $overlaps, float $wanted): self
    {
        $out = new self($tile, $overlaps);
        $out->segments();
        $out->loops();
        $out->fill($wanted);
        for ($within = $wanted, $islands = null; $out->isWhole; $within *= 2) {
            $out->search($within, $islands);
            if ($within >= self::FAR) {
                break;
            }
            $islands = [];
            foreach ($out->island as $one) {
                if (! isset($out->nearest[$one])) {
                    $islands[$one] = true;
                }
            }
            if ($islands === []) {
                break;
            }
        }
        foreach ($out->found as $more) {
            foreach ($more as $pair) {
                if ($pair['gap'] < $wanted) {
                    $out->pairs[] = $pair;
                }
            }
        }
        usort($out->pairs, static fn (array $a, array $b): int => [$a['gap'], $a['one'], $a['two']] <=> [$b['gap'], $b['one'], $b['two']]);
        $out->pairs = array_slice($out->pairs, 0, self::PAIRS);
        $out->found = [];

        return $out;
    }

    private function segments(): void
    {
        foreach ($this->tile->border as $border) {
            $t = $border >> 2;
            $k = $border & 3;
            $from = 6 * $t + 2 * $k;
            $to = $k === 2 ? 6 * $t : $from + 2;
            $uv = $this->tile->uv;
            if ($uv[$from] === $uv[$to] && $uv[$from + 1] === $uv[$to + 1]) {
                continue;
            }
            array_push($this->seg, $uv[$from], $uv[$from + 1], $uv[$to], $uv[$to + 1]);
            $this->island[] = $this->tile->island[$t];
            $this->of[] = $t;
            $this->edge[] = $k;
        }
    }

    /** Follows each border with its island to the left; where several go on from a corner, the one that keeps the same outside. */
    private function loops(): void
    {
        $from = [];
        $key = static fn (int $island, float $u, float $v): string => $island.' '.round($u / self::SAME).' '.round($v / self::SAME);
        foreach ($this->island as $s => $island) {
            $from[$key($island, $this->seg[4 * $s], $this->seg[4 * $s + 1])][] = $s;
        }
        foreach ($this->island as $s => $island) {
            $on = $from[$key($island, $this->seg[4 * $s + 2], $this->seg[4 * $s + 3])] ?? [];
            $best = $on[0] ?? -1;
            if (count($on) > 1) {
                $back = atan2($this->seg[4 * $s + 1] - $this->seg[4 * $s + 3], $this->seg[4 * $s] - $this->seg[4 * $s + 2]);
                $least = INF;
                foreach ($on as $other) {
                    $angle = atan2($this->seg[4 * $other + 3] - $this->seg[4 * $other + 1], $this->seg[4 * $other + 2] - $this->seg[4 * $other]) - $back;
                    $angle -= 2 * M_PI * floor($angle / (2 * M_PI));
                    // Straight back is a slit: all the way round.
                    $angle = $angle < 1e-9 ? 2 * M_PI : $angle;
                    if ($angle < $least) {
                        $least = $angle;
                        $best = $other;
                    }
                }
            }
            $this->next[] = $best;
        }
        foreach ($this->next as $s => $next) {
            $this->before[$next] = $s;
        }
        foreach ($this->next as $s => $_) {
            if (isset($this->loop[$s])) {
                continue;
            }
            $number = count($this->round);
            $length = 0.0;
            for ($at = $s; $at >= 0 && ! isset($this->loop[$at]); $at = $this->next[$at]) {
                $this->loop[$at] = $number;
                $this->along[$at] = $length;
                $length += $this->length($at);
            }
            $this->round[] = $length;
        }
    }

    private function length(int $s): float
    {
        return hypot($this->seg[4 * $s + 2] - $this->seg[4 * $s], $this->seg[4 * $s + 3] - $this->seg[4 * $s + 1]);
    }

    /** A grid over the tile, with each segment in the cells that it goes through. */
    private function fill(float $wanted): void
    {
        $count = count($this->island);
        $this->cells = (int) max(1, min(512, sqrt($count), 1.0 / max(1e-9, $wanted)));
        $cells = $this->cells;
        $at = [];
        foreach ($this->island as $s => $_) {
            foreach ($this->through($s) as $cell) {
                $at[] = $cell << 32 | $s;
            }
        }
        sort($at);
        $this->starts = array_fill(0, $cells * $cells + 1, 0);
        foreach ($at as $one) {
            $this->starts[($one >> 32) + 1]++;
            $this->items[] = $one & 0xFFFFFFFF;
        }
        for ($cell = 0; $cell < $cells * $cells; $cell++) {
            $this->starts[$cell + 1] += $this->starts[$cell];
        }
    }

    /**
     * @return list<int> cells; what lies outside the tile is in the cells of its border
     */
    private function through(int $s): array
    {
        $cells = $this->cells;
        [$au, $av, $bu, $bv] = [$this->seg[4 * $s] * $cells, $this->seg[4 * $s + 1] * $cells, $this->seg[4 * $s + 2] * $cells, $this->seg[4 * $s + 3] * $cells];
        if ($au > $bu) {
            [$au, $av, $bu, $bv] = [$bu, $bv, $au, $av];
        }
        $out = [];
        $clamp = static fn (float $x): int => (int) max(0.0, min($cells - 1.0, floor($x)));
        $to = $clamp($bu);
        for ($u = $clamp($au); $u <= $to; $u++) {
            // Between the sides of this column.
            $s0 = $bu > $au ? max(0.0, min(1.0, ($u - $au) / ($bu - $au))) : 0.0;
            $s1 = $bu > $au ? max(0.0, min(1.0, ($u + 1 - $au) / ($bu - $au))) : 1.0;
            $u === $clamp($au) ? $s0 = 0.0 : null;
            $u === $to ? $s1 = 1.0 : null;
            $v0 = $av + $s0 * ($bv - $av);
            $v1 = $av + $s1 * ($bv - $av);
            for ($v = $clamp(min($v0, $v1) - 1e-9), $end = $clamp(max($v0, $v1) + 1e-9); $v <= $end; $v++) {
                $out[] = $v * $cells + $u;
            }
        }

        return $out;
    }

    /**
     * @param  array<int, true>|null  $islands  whose nearest is looked for; null: all pairs
     */
    private function search(float $within, ?array $islands): void
    {
        $cells = $this->cells;
        $seg = $this->seg;
        $last = $cells - 1.0;
        $stamp = array_fill(0, max(1, count($this->island)), -1);
        foreach ($this->island as $s => $island) {
            if ($islands !== null && ! isset($islands[$island])) {
                continue;
            }
            $k = 4 * $s;
            $au = $seg[$k];
            $av = $seg[$k + 1];
            $bu = $seg[$k + 2];
            $bv = $seg[$k + 3];
            $lowU = ($au < $bu ? $au : $bu) - $within;
            $highU = ($au > $bu ? $au : $bu) + $within;
            $lowV = ($av < $bv ? $av : $bv) - $within;
            $highV = ($av > $bv ? $av : $bv) + $within;
            $toU = (int) max(0.0, min($last, floor($highU * $cells)));
            $toV = (int) max(0.0, min($last, floor($highV * $cells)));
            $fromU = (int) max(0.0, min($last, floor($lowU * $cells)));
            for ($y = (int) max(0.0, min($last, floor($lowV * $cells))); $y <= $toV; $y++) {
                for ($x = $fromU; $x <= $toU; $x++) {
                    $cell = $y * $cells + $x;
                    $end = $this->starts[$cell + 1];
                    $this->looked += $end - $this->starts[$cell];
                    for ($i = $this->starts[$cell]; $i < $end; $i++) {
                        $o = $this->items[$i];
                        if ($stamp[$o] === $s || $o === $s || ($islands === null && $o < $s)) {
                            continue;
                        }
                        $stamp[$o] = $s;
                        $m = 4 * $o;
                        $cu = $seg[$m];
                        $cv = $seg[$m + 1];
                        $du = $seg[$m + 2];
                        $dv = $seg[$m + 3];
                        if (($cu < $lowU && $du < $lowU) || ($cu > $highU && $du > $highU) || ($cv < $lowV && $dv < $lowV) || ($cv > $highV && $dv > $highV)) {
                            continue;
                        }
                        $this->pair($s, $o, $within);
                    }
                }
            }
            if ($this->looked > self::MOST_PAIRS) {
                $this->isWhole = false;

                return;
            }
        }
    }

    private function pair(int $s, int $o, float $within): void
    {
        $one = $this->island[$s];
        $two = $this->island[$o];
        if ($one === $two ? isset($this->overlaps->onItself[$one]) || $this->next[$s] === $o || $this->next[$o] === $s : $this->overlaps->pileOf($one) === $this->overlaps->pileOf($two)) {
            return;
        }
        [$gap, $at, $beside] = $this->between($s, $o);
        if ($gap > $within) {
            return;
        }
        $k = 4 * $s;
        $m = 4 * $o;
        $ends = [
            $this->seg[$k] + $at * ($this->seg[$k + 2] - $this->seg[$k]), $this->seg[$k + 1] + $at * ($this->seg[$k + 3] - $this->seg[$k + 1]),
            $this->seg[$m] + $beside * ($this->seg[$m + 2] - $this->seg[$m]), $this->seg[$m + 1] + $beside * ($this->seg[$m + 3] - $this->seg[$m + 1]),
        ];
        if ($one === $two && ! $this->areArms($s, $at, $o, $beside, $gap, $ends)) {
            return;
        }
        if ($gap < ($this->nearest[$one] ?? INF)) {
            $this->nearest[$one] = $gap;
        }
        if ($gap < ($this->nearest[$two] ?? INF)) {
            $this->nearest[$two] = $gap;
        }
        [$a, $b] = $one <= $two ? [$one, $two] : [$two, $one];
        if ($gap < ($this->found[$a][$b]['gap'] ?? INF)) {
            $this->found[$a][$b] = $one <= $two
                ? ['one' => $a, 'two' => $b, 'gap' => $gap, 'ends' => $ends, 'at' => [$this->of[$s], $this->of[$o]]]
                : ['one' => $a, 'two' => $b, 'gap' => $gap, 'ends' => [$ends[2], $ends[3], $ends[0], $ends[1]], 'at' => [$this->of[$o], $this->of[$s]]];
        }
    }

    /**
     * Whether two places on one border face each other over the outside, and are far apart along it.
     *
     * @param  array{float, float, float, float}  $ends
     */
    private function areArms(int $s, float $at, int $o, float $beside, float $gap, array $ends): bool
    {
        $u = $ends[2] - $ends[0];
        $v = $ends[3] - $ends[1];
        if ($gap <= self::SAME) {
            // An island that touches itself in a corner or along a slit has no gap there.
            return false;
        }
        if ($this->loop[$s] === $this->loop[$o]) {
            $way = abs($this->along[$s] + $at * $this->length($s) - $this->along[$o] - $beside * $this->length($o));
            $way = min($way, $this->round[$this->loop[$s]] - $way);
            if ($way <= self::ARMS * $gap) {
                return false;
            }
        }

        if ($gap < self::SLIT) {
            $a = $this->tile->place($this->of[$s], $this->edge[$s], $at);
            $b = $this->tile->place($this->of[$o], $this->edge[$o], $beside);
            if (sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2) < 0.25 * max($gap, 1e-5) * $this->tile->lengthOf($this->of[$s])) {
                return false;
            }
        }

        return $this->isOutside($s, $at, $u, $v) && $this->isOutside($o, $beside, -$u, -$v);
    }

    /** Whether a direction from a place of a border leads out of its island, which lies to the left. */
    private function isOutside(int $s, float $at, float $u, float $v): bool
    {
        $right = fn (int $one): bool => ($this->seg[4 * $one + 2] - $this->seg[4 * $one]) * $v - ($this->seg[4 * $one + 3] - $this->seg[4 * $one + 1]) * $u < 0.0;
        $other = $at <= 0.0 ? $this->before[$s] ?? -1 : ($at >= 1.0 ? $this->next[$s] : -1);
        if ($other < 0) {
            return $right($s);
        }
        [$in, $out] = $at <= 0.0 ? [$other, $s] : [$s, $other];
        $turn = ($this->seg[4 * $in + 2] - $this->seg[4 * $in]) * ($this->seg[4 * $out + 3] - $this->seg[4 * $out + 1]) - ($this->seg[4 * $in + 3] - $this->seg[4 * $in + 1]) * ($this->seg[4 * $out + 2] - $this->seg[4 * $out]);

        return $turn >= 0.0 ? $right($in) || $right($out) : $right($in) && $right($out);
    }

    /**
     * @return array{float, float, float} distance, and where on either segment, 0–1
     */
    private function between(int $s, int $o): array
    {
        $k = 4 * $s;
        $m = 4 * $o;
        $seg = $this->seg;
        [$au, $av, $bu, $bv, $cu, $cv, $du, $dv] = [$seg[$k], $seg[$k + 1], $seg[$k + 2], $seg[$k + 3], $seg[$m], $seg[$m + 1], $seg[$m + 2], $seg[$m + 3]];
        $eu = $bu - $au;
        $ev = $bv - $av;
        $fu = $du - $cu;
        $fv = $dv - $cv;
        $cross = $eu * $fv - $ev * $fu;
        if ($cross !== 0.0) {
            $x = (($cu - $au) * $fv - ($cv - $av) * $fu) / $cross;
            $y = (($cu - $au) * $ev - ($cv - $av) * $eu) / $cross;
            if ($x >= 0.0 && $x <= 1.0 && $y >= 0.0 && $y <= 1.0) {
                return [0.0, $x, $y];
            }
        }
        $ee = $eu * $eu + $ev * $ev;
        $ff = $fu * $fu + $fv * $fv;
        $best = INF;
        $at = $beside = 0.0;
        foreach ([[$cu, $cv, 0.0], [$du, $dv, 1.0]] as [$pu, $pv, $y]) {
            $x = max(0.0, min(1.0, (($pu - $au) * $eu + ($pv - $av) * $ev) / $ee));
            $d = ($au + $x * $eu - $pu) ** 2 + ($av + $x * $ev - $pv) ** 2;
            if ($d < $best) {
                [$best, $at, $beside] = [$d, $x, $y];
            }
        }
        foreach ([[$au, $av, 0.0], [$bu, $bv, 1.0]] as [$pu, $pv, $x]) {
            $y = max(0.0, min(1.0, (($pu - $cu) * $fu + ($pv - $cv) * $fv) / $ff));
            $d = ($cu + $y * $fu - $pu) ** 2 + ($cv + $y * $fv - $pv) ** 2;
            if ($d < $best) {
                [$best, $at, $beside] = [$d, $x, $y];
            }
        }

        return [sqrt($best), $at, $beside];
    }
}
