<?php

declare(strict_types=1);

namespace Anvil\Surface;

/**
 * UV area of a page's tile that is covered more than once: over all pairs of its triangles the area of their intersection, by exact clipping (METHODS, "UV overlap").
 *
 * Triangles in one place are one with a count, so that a pile of them costs no more than one. Clipping: I. Sutherland, G. Hodgman, "Reentrant Polygon
 * Clipping", 1974.
 */
final class UvOverlaps
{
    /** Pairs of triangles that are looked at, at most: some ten seconds. One that is clipped costs as much as so many that are not. */
    private const MOST_PAIRS = 100_000_000;

    private const CLIP = 30;

    /** Outlines of what is covered twice that are kept for people to look at, the largest. */
    private const REGIONS = 300;

    /** What is smaller is an edge that two triangles share, by the last digits of its numbers. */
    private const LEAST = 1e-12;

    /** @var array<string, array{one: int, two: int, area: float, count: int, at: list<int>}> parts → what they share; `at`: triangles of `one` */
    public array $pairs = [];

    /** @var list<array{area: float, outline: list<float>}> */
    public array $regions = [];

    /** @var array<int, int> island → an island that it lies on, as a union-find */
    public array $piles = [];

    /** @var array<int, true> islands that lie on themselves */
    public array $onItself = [];

    public float $area = 0.0;

    /** Area that is covered at all. */
    public float $covered = 0.0;

    /** Whether all pairs were looked at. */
    public bool $isWhole = true;

    private int $looked = 0;

    /** @var list<float> */
    private array $polygon = [];

    private function __construct(private readonly PageTile $tile)
    {
    }

    public static function of(PageTile $tile): self
    {
        $out = new self($tile);
        $out->run();
        usort($out->regions, static fn (array $a, array $b): int => $b['area'] <=> $a['area']);
        $out->regions = array_slice($out->regions, 0, self::REGIONS);

        return $out;
    }

    private function run(): void
    {
        [$at, $members] = $this->distinct();
        $count = count($at);
        $once = $twice = 0.0;
        foreach ($at as $i => $t) {
            $area = self::areaOf($this->tile->uv, 6 * $t);
            $once += $area;
            if (count($members[$i]) > 1) {
                $this->pile($members[$i], $area, $t);
            }
        }
        $uv = $this->tile->uv;
        $minU = $minV = $maxU = $maxV = [];
        [$lowU, $lowV, $highU, $highV] = [INF, INF, -INF, -INF];
        $wide = 0.0;
        foreach ($at as $t) {
            $k = 6 * $t;
            $minU[] = $a = min($uv[$k], $uv[$k + 2], $uv[$k + 4]);
            $maxU[] = $b = max($uv[$k], $uv[$k + 2], $uv[$k + 4]);
            $minV[] = $c = min($uv[$k + 1], $uv[$k + 3], $uv[$k + 5]);
            $maxV[] = $d = max($uv[$k + 1], $uv[$k + 3], $uv[$k + 5]);
            $lowU = min($lowU, $a);
            $highU = max($highU, $b);
            $lowV = min($lowV, $c);
            $highV = max($highV, $d);
            $wide += max($b - $a, $d - $c);
        }
        if ($count < 2) {
            $this->covered = $once;

            return;
        }
        $size = max($highU - $lowU, $highV - $lowV, 1e-30);
        // Cells about as wide as a triangle, and not many more than there are triangles.
        $cells = (int) max(1, min(1024, sqrt($count), 1.5 * $size / max(1e-30, $wide / $count)));
        $scale = $cells / $size * (1 - 1e-12);
        [$starts, $items] = self::grid($minU, $minV, $maxU, $maxV, $lowU, $lowV, $scale, $cells);
        for ($cell = 0; $cell < $cells * $cells; $cell++) {
            $from = $starts[$cell];
            $to = $starts[$cell + 1];
            for ($i = $from; $i < $to; $i++) {
                $this->looked += $i - $from;
                if ($this->looked > self::MOST_PAIRS) {
                    $this->isWhole = false;
                    break 2;
                }
                $a = $items[$i];
                for ($j = $from; $j < $i; $j++) {
                    $b = $items[$j];
                    if ($maxU[$a] <= $minU[$b] || $maxU[$b] <= $minU[$a] || $maxV[$a] <= $minV[$b] || $maxV[$b] <= $minV[$a]) {
                        continue;
                    }
                    // A pair belongs to the cell of the least corner of both boxes' intersection.
                    $u = $minU[$a] > $minU[$b] ? $minU[$a] : $minU[$b];
                    $v = $minV[$a] > $minV[$b] ? $minV[$a] : $minV[$b];
                    if ((int) (($v - $lowV) * $scale) * $cells + (int) (($u - $lowU) * $scale) !== $cell) {
                        continue;
                    }
                    if (self::areApart($uv, 6 * $at[$a], 6 * $at[$b])) {
                        continue;
                    }
                    $this->looked += self::CLIP;
                    $area = $this->common(6 * $at[$a], 6 * $at[$b]);
                    if ($area > self::LEAST) {
                        $twice += $area;
                        $this->add($members[$a], $members[$b], $area);
                    }
                }
            }
        }
        $this->covered = max(0.0, $once - $twice);
    }

    /**
     * Triangles in different places, and of each all that are in its place.
     *
     * @return array{list<int>, list<list<int>>}
     */
    private function distinct(): array
    {
        $uv = $this->tile->uv;
        $known = $at = $members = [];
        for ($t = 0, $count = $this->tile->count(); $t < $count; $t++) {
            $k = 6 * $t;
            // From its least corner on: the others follow counter-clockwise.
            $first = 0;
            for ($c = 2; $c < 6; $c += 2) {
                if ($uv[$k + $c] < $uv[$k + $first] || ($uv[$k + $c] === $uv[$k + $first] && $uv[$k + $c + 1] < $uv[$k + $first + 1])) {
                    $first = $c;
                }
            }
            $key = pack('d6', $uv[$k + $first], $uv[$k + $first + 1], $uv[$k + ($first + 2) % 6], $uv[$k + ($first + 3) % 6], $uv[$k + ($first + 4) % 6], $uv[$k + ($first + 5) % 6]);
            $i = $known[$key] ?? null;
            if ($i === null) {
                $known[$key] = count($at);
                $at[] = $t;
                $members[] = [$t];
            } else {
                $members[$i][] = $t;
            }
        }

        return [$at, $members];
    }

    /**
     * Triangles that lie on each other entirely.
     *
     * @param  list<int>  $members
     */
    private function pile(array $members, float $area, int $first): void
    {
        $parts = [];
        foreach ($members as $t) {
            $parts[$this->tile->part[$t]][] = $t;
            $this->join($this->tile->island[$first], $this->tile->island[$t], $t !== $first);
        }
        $numbers = array_keys($parts);
        foreach ($numbers as $i => $one) {
            $n = count($parts[$one]);
            if ($n > 1) {
                $this->share($one, $one, $area * $n * ($n - 1) / 2, intdiv($n * ($n - 1), 2), $parts[$one][0]);
            }
            for ($j = 0; $j < $i; $j++) {
                $m = count($parts[$numbers[$j]]);
                $this->share($numbers[$j], $one, $area * $n * $m, $n * $m, $parts[$numbers[$j]][0]);
            }
        }
        $this->regions[] = ['area' => $area, 'outline' => array_slice($this->tile->uv, 6 * $first, 6)];
        $this->trim();
    }

    /**
     * @param  list<int>  $these  triangles in one place
     * @param  list<int>  $those  in another
     */
    private function add(array $these, array $those, float $area): void
    {
        $tile = $this->tile;
        if (count($these) === 1 && count($those) === 1) {
            [$a, $b] = $tile->part[$these[0]] <= $tile->part[$those[0]] ? [$these[0], $those[0]] : [$those[0], $these[0]];
            $this->share($tile->part[$a], $tile->part[$b], $area, 1, $a);
            $this->join($tile->island[$a], $tile->island[$b], true);
        } else {
            $counts = [];
            foreach ([$these, $those] as $side => $all) {
                foreach ($all as $t) {
                    $counts[$side][$tile->part[$t]] ??= [0, $t];
                    $counts[$side][$tile->part[$t]][0]++;
                    $this->join($tile->island[$these[0]], $tile->island[$t], $side === 1);
                }
            }
            foreach ($counts[0] ?? [] as $one => [$n, $t]) {
                foreach ($counts[1] ?? [] as $two => [$m, $o]) {
                    $this->share(min($one, $two), max($one, $two), $area * $n * $m, $n * $m, $one <= $two ? $t : $o);
                }
            }
        }
        $this->regions[] = ['area' => $area, 'outline' => $this->polygon];
        $this->trim();
    }

    private function share(int $one, int $two, float $area, int $count, int $at): void
    {
        $this->area += $area;
        $pair = $this->pairs["$one $two"] ?? ['one' => $one, 'two' => $two, 'area' => 0.0, 'count' => 0, 'at' => []];
        $pair['area'] += $area;
        $pair['count'] += $count;
        if (count($pair['at']) < 200) {
            $pair['at'][] = $this->tile->triangle[$at];
        }
        $this->pairs["$one $two"] = $pair;
    }

    private function join(int $one, int $two, bool $lies): void
    {
        if ($one === $two) {
            if ($lies) {
                $this->onItself[$one] = true;
            }

            return;
        }
        $a = $this->pileOf($one);
        $b = $this->pileOf($two);
        $this->piles[max($a, $b)] = min($a, $b);
    }

    /** The least island of those that lie on each other with an island. */
    public function pileOf(int $island): int
    {
        while (($this->piles[$island] ?? $island) !== $island) {
            $island = $this->piles[$island];
        }

        return $island;
    }

    private function trim(): void
    {
        if (count($this->regions) > 8 * self::REGIONS) {
            usort($this->regions, static fn (array $a, array $b): int => $b['area'] <=> $a['area']);
            $this->regions = array_slice($this->regions, 0, self::REGIONS);
        }
    }

    /**
     * @param  list<float>  $minU
     * @param  list<float>  $minV
     * @param  list<float>  $maxU
     * @param  list<float>  $maxV
     * @return array{array<int, int>, array<int, int>} first item of each cell, and one more; items
     */
    private static function grid(array $minU, array $minV, array $maxU, array $maxV, float $lowU, float $lowV, float $scale, int $cells): array
    {
        $starts = array_fill(0, $cells * $cells + 1, 0);
        $count = count($minU);
        $ranges = [];
        for ($i = 0; $i < $count; $i++) {
            $fromU = (int) (($minU[$i] - $lowU) * $scale);
            $toU = (int) (($maxU[$i] - $lowU) * $scale);
            $fromV = (int) (($minV[$i] - $lowV) * $scale);
            $toV = (int) (($maxV[$i] - $lowV) * $scale);
            $ranges[] = $fromU | $toU << 10 | $fromV << 20 | $toV << 30;
            for ($v = $fromV; $v <= $toV; $v++) {
                for ($u = $fromU, $cell = $v * $cells + $u; $u <= $toU; $u++) {
                    $starts[$cell++]++;
                }
            }
        }
        $sum = 0;
        foreach ($starts as $cell => $n) {
            $sum += $n;
            $starts[$cell] = $sum;
        }
        $items = $sum === 0 ? [] : array_fill(0, $sum, 0);
        for ($i = $count - 1; $i >= 0; $i--) {
            $r = $ranges[$i];
            for ($v = $r >> 20 & 1023, $toV = $r >> 30; $v <= $toV; $v++) {
                for ($u = $r & 1023, $toU = $r >> 10 & 1023, $cell = $v * $cells + $u; $u <= $toU; $u++) {
                    $items[--$starts[$cell++]] = $i;
                }
            }
        }

        return [$starts, $items];
    }

    /**
     * @param  list<float>  $uv
     */
    private static function areaOf(array $uv, int $k): float
    {
        return (($uv[$k + 2] - $uv[$k]) * ($uv[$k + 5] - $uv[$k + 1]) - ($uv[$k + 4] - $uv[$k]) * ($uv[$k + 3] - $uv[$k + 1])) / 2;
    }

    /**
     * Whether an edge of either has the other wholly on its outer side; touching is apart.
     *
     * @param  list<float>  $uv
     */
    private static function areApart(array $uv, int $a, int $b): bool
    {
        for ($side = 0; $side < 2; $side++) {
            $bu = $uv[$b];
            $bv = $uv[$b + 1];
            $cu = $uv[$b + 2];
            $cv = $uv[$b + 3];
            $du = $uv[$b + 4];
            $dv = $uv[$b + 5];
            for ($k = 0; $k < 6; $k += 2) {
                $pu = $uv[$a + $k];
                $pv = $uv[$a + $k + 1];
                $n = $k === 4 ? $a : $a + $k + 2;
                $eu = $uv[$n] - $pu;
                $ev = $uv[$n + 1] - $pv;
                if ($eu * ($bv - $pv) - $ev * ($bu - $pu) <= 0.0 && $eu * ($cv - $pv) - $ev * ($cu - $pu) <= 0.0 && $eu * ($dv - $pv) - $ev * ($du - $pu) <= 0.0) {
                    return true;
                }
            }
            [$a, $b] = [$b, $a];
        }

        return false;
    }

    /** The area that two triangles share; its outline is in `polygon`. */
    private function common(int $a, int $b): float
    {
        $uv = $this->tile->uv;
        $in = array_slice($uv, $a, 6);
        for ($k = 0; $k < 6; $k += 2) {
            $pu = $uv[$b + $k];
            $pv = $uv[$b + $k + 1];
            $n = $k === 4 ? $b : $b + $k + 2;
            $eu = $uv[$n] - $pu;
            $ev = $uv[$n + 1] - $pv;
            $out = [];
            $count = count($in);
            if ($count === 0) {
                return 0.0;
            }
            $lu = $in[$count - 2];
            $lv = $in[$count - 1];
            $last = $eu * ($lv - $pv) - $ev * ($lu - $pu);
            for ($i = 0; $i < $count; $i += 2) {
                $u = $in[$i];
                $v = $in[$i + 1];
                $here = $eu * ($v - $pv) - $ev * ($u - $pu);
                if (($here > 0.0 && $last < 0.0) || ($here < 0.0 && $last > 0.0)) {
                    $s = $last / ($last - $here);
                    $out[] = $lu + $s * ($u - $lu);
                    $out[] = $lv + $s * ($v - $lv);
                }
                if ($here >= 0.0) {
                    $out[] = $u;
                    $out[] = $v;
                }
                $lu = $u;
                $lv = $v;
                $last = $here;
            }
            $in = $out;
        }
        $this->polygon = $in;
        $sum = 0.0;
        for ($i = 2, $count = count($in); $i + 3 < $count; $i += 2) {
            $sum += ($in[$i] - $in[0]) * ($in[$i + 3] - $in[1]) - ($in[$i + 2] - $in[0]) * ($in[$i + 1] - $in[1]);
        }

        return $sum / 2;
    }
}
