<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Pairing\RoledPart;

/**
 * How far the low poly that ships and the low poly that is baked differ in UV, page by page: textures are baked on one and worn by the other.
 *
 * What is compared is UV triangles, whatever part they are in and in whatever order. Two that lie whole pages apart wear the same texels,
 * and so do two on top of each other. A face of more corners that was cut another way on either side is compared by its outline.
 */
final readonly class PoseDifference
{
    private const WHERE = 8;

    /** Triangles whose outlines in UV are kept for people to look at. */
    private const OUTLINES = 400;

    /**
     * @param  array<string, array{distance: float, count: int, missing: int, where: list<array{float, float, float}>}>  $files  by pose file: the greatest
     *                                                                                                                  distance in UV from a triangle to its counterpart, triangles without a counterpart, and of these those that only the baked low has
     * @param  list<array{page: string, ships: bool, outline: list<float>}>  $outlines  of some of them, in UV
     */
    private function __construct(public array $files, public array $outlines)
    {
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function kept(array $stored): self
    {
        /** @var array{files: array<string, array{distance: float, count: int, missing: int, where: list<array{float, float, float}>}>, outlines: list<array{page: string, ships: bool, outline: list<float>}>} $stored */
        return new self($stored['files'], $stored['outlines']);
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['files' => $this->files, 'outlines' => $this->outlines];
    }

    /**
     * @param  list<RoledPart>  $low  that is baked
     * @param  list<RoledPart>  $pose  that ships, at least one
     * @param  float  $same  two corners this close in UV are one
     */
    public static function of(array $low, array $pose, float $same): self
    {
        [$lowPages, $posePages] = [self::pages($low), self::pages($pose)];
        // Where each has but one page, its name does not matter.
        if (count($lowPages) === 1 && count($posePages) === 1) {
            [$lowPages, $posePages] = [['' => reset($lowPages)], ['' => reset($posePages)]];
        }
        $none = ['distance' => 0.0, 'count' => 0, 'missing' => 0, 'where' => []];
        $files = $outlines = [];
        foreach ($pose as $part) {
            $files[$part->path] = $none;
        }
        $first = $pose[0]->path;
        foreach (array_keys($lowPages + $posePages) as $page) {
            foreach ([[$posePages[$page] ?? [], $lowPages[$page] ?? [], false], [$lowPages[$page] ?? [], $posePages[$page] ?? [], true]] as [$these, $those, $missing]) {
                foreach (self::unlike($these, $those, $same) as [$polygon, $distance]) {
                    $file = $missing ? $first : $polygon['path'];
                    $found = $files[$file] ?? $none;
                    if (count($outlines) < self::OUTLINES) {
                        $outlines[] = ['page' => (string) $page, 'ships' => ! $missing, 'outline' => $polygon['outline']];
                    }
                    $files[$file] = [
                        'distance' => max($found['distance'], $distance), 'count' => $found['count'] + 1, 'missing' => $found['missing'] + ($missing ? 1 : 0),
                        'where' => count($found['where']) < self::WHERE ? [...$found['where'], $polygon['at']] : $found['where'],
                    ];
                }
            }
        }

        return new self($files, $outlines);
    }

    /**
     * Triangles of one page without a counterpart on the other, each with its distance in UV to the nearest there; a page's side where there is none.
     *
     * @param  list<array{uv: list<float>, outline: list<float>, at: array{float, float, float}, path: string}>  $these
     * @param  list<array{uv: list<float>, outline: list<float>, at: array{float, float, float}, path: string}>  $those
     * @return list<array{array{uv: list<float>, outline: list<float>, at: array{float, float, float}, path: string}, float}>
     */
    private static function unlike(array $these, array $those, float $same): array
    {
        $triangles = self::sorted(array_column($those, 'uv'));
        $outlines = null;
        $out = [];
        foreach ($these as $one) {
            $distance = self::nearest($one['uv'], $triangles, 1.0);
            if ($distance <= $same) {
                continue;
            }
            if (count($one['outline']) > 6) {
                $outlines ??= self::sorted(array_column($those, 'outline'));
                if (self::nearest($one['outline'], $outlines, 2 * $same) <= $same) {
                    continue;
                }
            }
            $out[] = [$one, $distance];
        }

        return $out;
    }

    /**
     * @param  list<list<float>>  $polygons
     * @return list<array{float, list<float>}> by the mean u of their corners
     */
    private static function sorted(array $polygons): array
    {
        $out = array_map(static fn (array $polygon): array => [self::middle($polygon, 0), $polygon], $polygons);
        usort($out, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return $out;
    }

    /**
     * The least distance of a polygon to one of the same number of corners: the greatest of its corners', from whichever corner they are
     * counted. No two lie closer than the means of their corners.
     *
     * @param  list<float>  $polygon
     * @param  list<array{float, list<float>}>  $sorted
     */
    private static function nearest(array $polygon, array $sorted, float $most): float
    {
        $u = self::middle($polygon, 0);
        $from = 0;
        $to = count($sorted);
        while ($from < $to) {
            $m = ($from + $to) >> 1;
            if ($sorted[$m][0] < $u) {
                $from = $m + 1;
            } else {
                $to = $m;
            }
        }
        $best = $most;
        for ($right = $from, $left = $from - 1, $n = count($sorted); $right < $n || $left >= 0;) {
            $isRight = $left < 0 || ($right < $n && $sorted[$right][0] - $u <= $u - $sorted[$left][0]);
            [$middle, $other] = $sorted[$isRight ? $right++ : $left--];
            if (abs($middle - $u) > $best) {
                break;
            }
            $best = self::apart($polygon, $other, $best);
            if ($best === 0.0) {
                break;
            }
        }

        return $best;
    }

    /**
     * @param  list<float>  $one
     * @param  list<float>  $other
     */
    private static function apart(array $one, array $other, float $best): float
    {
        $n = count($one);
        if ($n !== count($other)) {
            return $best;
        }
        for ($turn = 0; $turn < $n; $turn += 2) {
            $most = 0.0;
            for ($k = 0; $k < $n && $most < $best; $k++) {
                $e = abs($one[$k] - $other[($k + $turn) % $n]);
                $most = $e > $most ? $e : $most;
            }
            $best = $most < $best ? $most : $best;
        }

        return $best;
    }

    /**
     * @param  list<float>  $polygon
     */
    private static function middle(array $polygon, int $axis): float
    {
        $sum = 0.0;
        for ($k = $axis, $n = count($polygon); $k < $n; $k += 2) {
            $sum += $polygon[$k];
        }

        return 2 * $sum / max(1, $n);
    }

    /**
     * Triangles with UVs by the name of their material, each brought into the first page.
     *
     * @param  list<RoledPart>  $parts
     * @return array<string, list<array{uv: list<float>, outline: list<float>, at: array{float, float, float}, path: string}>>
     */
    private static function pages(array $parts): array
    {
        $out = [];
        foreach ($parts as $part) {
            $mesh = $part->part->mesh;
            $materials = $mesh->triangleMaterials();
            $outlines = self::outlines($mesh->faces, $mesh->triangles, $mesh->triUvs, $mesh->uvs);
            for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
                $uv = [];
                for ($c = 0; $c < 3; $c++) {
                    $number = $mesh->triUvs[3 * $t + $c] ?? -1;
                    if ($number >= 0) {
                        array_push($uv, $mesh->uvs[2 * $number], $mesh->uvs[2 * $number + 1]);
                    }
                }
                if (count($uv) < 6) {
                    continue;
                }
                $v = 3 * $mesh->triangles[3 * $t];
                $outline = $mesh->faces === [] ? [] : $outlines[$mesh->faces[$t]] ?? [];
                $out[$mesh->materials[$materials[$t]] ?? ''][] = [
                    'uv' => self::onPage($uv), 'outline' => $outline === [] ? [] : self::onPage($outline),
                    'at' => [$mesh->positions[$v], $mesh->positions[$v + 1], $mesh->positions[$v + 2]], 'path' => $part->path,
                ];
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $polygon
     * @return list<float>
     */
    private static function onPage(array $polygon): array
    {
        // By a hair: the middle of a triangle may lie on the border of two pages.
        $tile = [floor(self::middle($polygon, 0) + 1e-7), floor(self::middle($polygon, 1) + 1e-7)];
        foreach ($polygon as $k => $value) {
            $polygon[$k] = $value - $tile[$k % 2];
        }

        return array_values($polygon);
    }

    /**
     * The corners around each face of more than three, from its triangles: an edge that two of them share is inside.
     *
     * @param  list<int>  $faces
     * @param  list<int>  $triangles
     * @param  list<int>  $triUvs
     * @param  list<float>  $uvs
     * @return array<int, list<float>> face → uv, corner by corner
     */
    private static function outlines(array $faces, array $triangles, array $triUvs, array $uvs): array
    {
        $of = [];
        foreach ($faces as $t => $face) {
            $of[$face][] = $t;
        }
        $out = [];
        foreach ($of as $face => $own) {
            if (count($own) < 2) {
                continue;
            }
            $next = $at = [];
            foreach ($own as $t) {
                for ($c = 0; $c < 3; $c++) {
                    [$a, $b] = [$triangles[3 * $t + $c], $triangles[3 * $t + ($c + 1) % 3]];
                    if (isset($next[$b][$a])) {
                        unset($next[$b][$a]);
                    } else {
                        $next[$a][$b] = true;
                    }
                    $at[$a] = $triUvs[3 * $t + $c] ?? -1;
                }
            }
            $start = $from = $triangles[3 * $own[0]];
            $outline = [];
            do {
                $number = $at[$from] ?? -1;
                $to = array_key_first($next[$from] ?? []);
                if ($number < 0 || $to === null) {
                    continue 2;
                }
                array_push($outline, $uvs[2 * $number], $uvs[2 * $number + 1]);
                unset($next[$from][$to]);
                $from = $to;
            } while ($from !== $start);
            $out[$face] = $outline;
        }

        return $out;
    }
}
