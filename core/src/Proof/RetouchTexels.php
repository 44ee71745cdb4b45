<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Clearance\Margins;
use Anvil\Place\FacingMask;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\NearestPoint;

/**
 * Texels of one set on one page whose rays miss or go wrong, at the map size: what is left to paint by hand after the bake.
 *
 * One texel in each square of a grid is shot, at a fixed place that differs from square to square; around each that goes wrong all are, outward until none
 * does. An area smaller than a square may escape; none that is longer than a few squares does.
 */
final class RetouchTexels
{
    /** Masks are made up to this size; of larger maps each texel stands for several. */
    public const MOST = 4096;

    private const UNKNOWN = '?';

    /** Not the set's. */
    private const FOREIGN = '-';

    private const FINE_BYTE = '.';

    private const MISS_BYTE = 'm';

    private const WRONG_BYTE = 'w';

    private const BAD = self::MISS_BYTE.self::WRONG_BYTE;

    private const BYTES = [TexelRays::MISS => self::MISS_BYTE, TexelRays::WRONG => self::WRONG_BYTE];

    /** Longer runs are told as several. */
    private const LONGEST = 256;

    /** Runs of which is asked whether they are seen. */
    private const LOOKED_AT = 4096;

    /** Squares a side, at least and at most: as many as the asset has rays where the set's told of nothing, and twice as many a side where they did. */
    private const FEWEST = 64;

    private const USUAL = 256;

    /** Up to so many texels are shot one by one around what goes wrong; of more, a square goes by the texel that was shot in it. */
    private const BUDGET = 60_000;

    /** How far from a texel that goes wrong others are looked at. */
    private const BESIDE = 2;

    /** The size that a mask is made at. */
    public static function size(int $mapSize): int
    {
        return min($mapSize, self::MOST);
    }

    /**
     * @param  PageRuns  $owners  triangle of the page at each texel, at the size of the mask
     * @param  int  $count  rays that the standard gives to an asset
     * @param  bool  $isClean  whether the set's rays told of no miss and no wrong hit
     * @param  Visibility|null  $visibility  null: all is seen
     * @param  FacingMask|null  $mask  rays that it knows as meaningless are not told
     * @param  array<int, true>  $cards  numbers of the set's low parts that are cards: what reaches past their leaf is masked out in use, and not painted
     * @return array{runs: list<array{int, int, int, int}>, seen: int, where: array<int, array{float, float, float}>} row, first and last column, MISS or WRONG;
     *                                                                                                                texels of these that are seen, those of margins apart; the low place of the first texel of each run
     */
    public static function of(TexelRays $rays, ProofPage $page, BakeSet $set, PageRuns $owners, int $count, bool $isClean, ?Visibility $visibility, ?FacingMask $mask = null, array $cards = []): array
    {
        $first = $starts = [];
        $at = 0;
        foreach ($set->low as $part) {
            $starts[spl_object_id($part)] = $at;
            $at += $part->part->mesh->triangleCount();
        }
        foreach ($page->parts as $part) {
            $first[] = $starts[spl_object_id($part)] ?? -1;
        }
        $size = $owners->size;
        $squares = max(self::FEWEST, min(self::USUAL, (int) sqrt($count)));
        $step = max(1, intdiv($size, $isClean ? $squares : 2 * $squares));
        $isOwn = array_map(static fn (int $part): bool => $first[$part] >= 0, $page->partOf);
        $shoot = static function (int $x, int $y, int $owner) use ($rays, $page, $first, $size, $mask): string {
            [$u, $v, $w] = $page->corners($owner, ($x + 0.5) / $size, 1.0 - ($y + 0.5) / $size);

            $triangle = $first[$page->partOf[$owner]] + $page->triangles[$owner];
            $kind = self::BYTES[$rays->shoot($triangle, $u, $v, $w)] ?? self::FINE_BYTE;

            return $kind === self::FINE_BYTE || $mask === null || ! self::isMasked($mask, $rays, $triangle) ? $kind : self::FINE_BYTE;
        };
        $queue = $looked = [];
        // Only where the set lies on the page: others have many.
        [$left, $top, $right, $bottom] = [INF, INF, -INF, -INF];
        foreach ($page->partOf as $t => $part) {
            for ($i = 6 * $t; $first[$part] >= 0 && $i < 6 * $t + 6; $i += 2) {
                $left = min($left, $page->uvs[$i]);
                $right = max($right, $page->uvs[$i]);
                $top = min($top, 1.0 - $page->uvs[$i + 1]);
                $bottom = max($bottom, 1.0 - $page->uvs[$i + 1]);
            }
        }
        $block = static fn (float $share): int => (int) max(0, min(intdiv($size - 1, $step), floor($share * $size / $step)));
        for ($by = $block($top), $endY = $block($bottom); $by <= $endY; $by++) {
            for ($bx = $block($left), $endX = $block($right); $bx <= $endX; $bx++) {
                // A fixed scatter: the same for the same grid, in no rows or columns.
                $hash = ($bx * 73856093 ^ $by * 19349663) & 0x7FFFFFFF;
                $x = min($size - 1, $bx * $step + $hash % $step);
                $y = min($size - 1, $by * $step + intdiv($hash, 65536) % $step);
                $owner = $owners->at($x, $y);
                if ($owner >= 0 && $isOwn[$owner]) {
                    $texel = $y * $size + $x;
                    $looked[$texel] = $shoot($x, $y, $owner);
                    if ($looked[$texel] !== self::FINE_BYTE) {
                        $queue[] = $texel;
                    }
                }
            }
        }
        if ($queue === []) {
            return ['runs' => [], 'seen' => 0, 'where' => []];
        }
        // A byte a texel: how it came out, or that nobody looked; pages have millions.
        $kinds = str_repeat(self::UNKNOWN, $size * $size);
        foreach ($looked as $texel => $kind) {
            $kinds[$texel] = $kind;
        }
        $shot = 0;
        for ($head = 0; $head < count($queue) && $shot < self::BUDGET; $head++) {
            $x = $queue[$head] % $size;
            $y = intdiv($queue[$head], $size);
            for ($cy = max(0, $y - self::BESIDE), $endY = min($size - 1, $y + self::BESIDE); $cy <= $endY; $cy++) {
                $left = max(0, $x - self::BESIDE);
                $width = min($size - 1, $x + self::BESIDE) - $left + 1;
                $row = $cy * $size + $left;
                // From one that nobody looked at to the next.
                for ($k = strcspn($kinds, self::UNKNOWN, $row, $width); $k < $width; $k += 1 + strcspn($kinds, self::UNKNOWN, $row + $k + 1, $width - $k - 1)) {
                    $owner = $owners->at($left + $k, $cy);
                    if ($owner < 0 || ! $isOwn[$owner]) {
                        $kinds[$row + $k] = self::FOREIGN;

                        continue;
                    }
                    $shot++;
                    $kinds[$row + $k] = $shoot($left + $k, $cy, $owner);
                    if ($kinds[$row + $k] !== self::FINE_BYTE) {
                        $queue[] = $row + $k;
                    }
                }
            }
        }
        // Beyond the budget squares go by what was shot in them.
        $filled = [];
        for ($n = count($queue); $head < $n; $head++) {
            $left = $queue[$head] % $size - $queue[$head] % $size % $step;
            $top = intdiv(intdiv($queue[$head], $size), $step) * $step;
            if (isset($filled[$top * $size + $left])) {
                continue;
            }
            $filled[$top * $size + $left] = true;
            $kind = $kinds[$queue[$head]];
            for ($cy = $top; $cy < min($size, $top + $step); $cy++) {
                for ($cx = $left; $cx < min($size, $left + $step); $cx++) {
                    $texel = $cy * $size + $cx;
                    $owner = $kinds[$texel] === self::UNKNOWN ? $owners->at($cx, $cy) : -1;
                    if ($owner >= 0 && $isOwn[$owner]) {
                        $kinds[$texel] = $kind;
                    }
                }
            }
        }

        $cardParts = [];
        foreach ($page->parts as $number => $part) {
            $cardParts[$number] = isset($cards[(int) array_search($part, $set->low, true)]) && in_array($part, $set->low, true);
        }

        return self::runs($kinds, $rays, $page, $owners, $first, $visibility, $cardParts);
    }

    /** Whether faces turned the wrong way make the ray that was shot last meaningless. */
    private static function isMasked(FacingMask $mask, TexelRays $rays, int $triangle): bool
    {
        // Through a cage directions are as long as it is far.
        $length = sqrt($rays->nx ** 2 + $rays->ny ** 2 + $rays->nz ** 2);
        $scale = $length > 0.0 ? 1.0 / $length : 0.0;

        return $mask->of($triangle, $rays->px, $rays->py, $rays->pz, $scale * $rays->nx, $scale * $rays->ny, $scale * $rays->nz) !== FacingMask::NOTHING;
    }

    /**
     * @param  string  $kinds  a byte a texel
     * @param  list<int>  $first
     * @param  array<int, bool>  $cards  parts of the page that are cards
     * @return array{runs: list<array{int, int, int, int}>, seen: int, where: array<int, array{float, float, float}>}
     */
    private static function runs(string $kinds, TexelRays $rays, ProofPage $page, PageRuns $owners, array $first, ?Visibility $visibility, array $cards): array
    {
        $runs = $where = [];
        $size = $owners->size;
        for ($y = 0; $y < $size; $y++) {
            $row = substr($kinds, $y * $size, $size);
            for ($x = strcspn($row, self::BAD); $x < $size; $x += strcspn($row, self::BAD, $x)) {
                $length = min(self::LONGEST, strspn($row, $row[$x], $x));
                $middle = intdiv(2 * $x + $length - 1, 2);
                $where[] = $page->place($owners->at($middle, $y), ($middle + 0.5) / $size, 1.0 - ($y + 0.5) / $size);
                $runs[] = [$y, $x, $x + $length - 1, $row[$x] === self::MISS_BYTE ? TexelRays::MISS : TexelRays::WRONG];
                $x += $length;
            }
        }

        $margins = self::margins($runs, $rays, $page, $owners, $cards);
        if (in_array(true, $cards, true)) {
            $kept = array_filter($runs, static fn (array $run, int $i): bool => ! isset($margins[$i]) || ! $cards[$page->partOf[$owners->at($run[1], $run[0])]], ARRAY_FILTER_USE_BOTH);
            $where = array_values(array_intersect_key($where, $kept));
            $margins = array_fill_keys(array_keys(array_filter(array_keys($kept), static fn (int $i): bool => isset($margins[$i]))), true);
            $runs = array_values($kept);
        }

        return ['runs' => $runs, 'seen' => self::seen($runs, $where, $rays, $page, $owners, $first, $visibility, $margins), 'where' => $where];
    }

    /**
     * How many texels of runs are seen and no margin of the low poly, by the middle of each; of very many runs some stand for all.
     *
     * @param  list<array{int, int, int, int}>  $runs
     * @param  list<array{float, float, float}>  $where
     * @param  list<int>  $first
     * @param  array<int, true>  $margins  numbers of runs that are margin
     */
    private static function seen(array $runs, array $where, TexelRays $rays, ProofPage $page, PageRuns $owners, array $first, ?Visibility $visibility, array $margins): int
    {
        $seen = $looked = $all = 0;
        $step = max(1, intdiv(count($runs), self::LOOKED_AT));
        $low = $rays->set->low();
        foreach ($runs as $i => [$y, $from, $to]) {
            $all += $to - $from + 1;
            if ($i % $step !== 0) {
                continue;
            }
            $owner = $owners->at(intdiv($from + $to, 2), $y);
            $f = 3 * ($first[$page->partOf[$owner]] + $page->triangles[$owner]);
            $looked += $to - $from + 1;
            $isSeen = ! isset($margins[$i]) && ($visibility === null || $visibility->seen($where[$i][0], $where[$i][1], $where[$i][2], $low->normals[$f], $low->normals[$f + 1], $low->normals[$f + 2]));
            $seen += $isSeen ? $to - $from + 1 : 0;
        }

        return $looked > 0 ? (int) round($seen * $all / $looked) : 0;
    }

    /**
     * Areas of misses that reach to a border of an open low poly: it goes past the outline of its high there (METHODS, "Margin"), which `low-margin` weighs.
     *
     * @param  list<array{int, int, int, int}>  $runs
     * @param  array<int, bool>  $cards  parts of the page that are cards: what they miss is margin wherever it lies
     * @return array<int, true> the runs of them
     */
    private static function margins(array $runs, TexelRays $rays, ProofPage $page, PageRuns $owners, array $cards): array
    {
        $borders = Margins::borderTree($rays->set->low());
        if ($borders === null) {
            return [];
        }
        $nearest = new NearestPoint($borders);
        $size = $owners->size;
        $ofCards = [];
        foreach (in_array(true, $cards, true) ? $runs : [] as $i => [$y, $from, , $kind]) {
            if ($kind === TexelRays::MISS && $cards[$page->partOf[$owners->at($from, $y)]]) {
                $ofCards[$i] = true;
            }
        }
        $roots = RunAreas::of($runs);
        $areas = [];
        $step = max(1, intdiv(count($runs), self::LOOKED_AT));
        foreach ($runs as $i => [$y, $from, $to, $kind]) {
            if ($i % $step !== 0 || $kind !== TexelRays::MISS || isset($areas[$roots[$i]])) {
                continue;
            }
            foreach (array_unique([$from, intdiv($from + $to, 2), $to]) as $x) {
                $owner = $owners->at($x, $y);
                [$px, $py, $pz] = $page->place($owner, ($x + 0.5) / $size, 1.0 - ($y + 0.5) / $size);
                $spacing = 0.0;
                foreach ([[1.5, 0.5], [0.5, 1.5]] as [$dx, $dy]) {
                    [$qx, $qy, $qz] = $page->place($owner, ($x + $dx) / $size, 1.0 - ($y + $dy) / $size);
                    $spacing = max($spacing, sqrt(($qx - $px) ** 2 + ($qy - $py) ** 2 + ($qz - $pz) ** 2));
                }
                if ($nearest->anyWithin($px, $py, $pz, Margins::JOINED * $spacing)) {
                    $areas[$roots[$i]] = true;

                    break;
                }
            }
        }

        return $ofCards + array_fill_keys(array_keys(array_filter($roots, static fn (int $root): bool => isset($areas[$root]))), true);
    }
}
