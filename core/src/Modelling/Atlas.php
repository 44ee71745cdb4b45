<?php

declare(strict_types=1);

namespace Anvil\Modelling;

/**
 * A UV page for shapes as an artist would lay it out: seams at hard edges, one density, islands upright where they are flat, room between them.
 */
final class Atlas
{
    /** Edges that turn by more are seams. */
    private const HARD = 40.0;

    /** Room round each island, in pages: 6 px of 2048, so that two are 12 px apart. */
    private const ROOM = 6 / 2048;

    private const FLAT = 0.9999;

    /**
     * @param  array<string, Polygons>  $shapes  with UVs where they are round
     * @return array<string, Polygons> the same on one page
     */
    public static function packed(array $shapes): array
    {
        $islands = [];
        $uvs = array_map(static fn (Polygons $shape): array => array_map(static fn (array $face): array => array_map(static fn (): array => [0.0, 0.0], $face), $shape->faces), $shapes);
        foreach ($shapes as $name => $shape) {
            foreach (self::islands($shape) as $faces) {
                $islands[] = [$name, $faces, ...self::flattened($shape, $faces)];
            }
        }
        usort($islands, static fn (array $a, array $b): int => $b[4] <=> $a[4]);
        // The largest scale at which all fit.
        [$least, $most] = [0.0, 1.0 / max(1e-9, ...array_map(static fn (array $one): float => max($one[3], $one[4]), $islands))];
        for ($k = 0; $k < 40; $k++) {
            $scale = ($least + $most) / 2;
            self::shelves($islands, $scale) === null ? $most = $scale : $least = $scale;
        }
        foreach (self::shelves($islands, $least) ?? [] as $i => [$u, $v]) {
            [$name, $faces, $corners] = $islands[$i];
            foreach ($faces as $k => $face) {
                foreach ($corners[$k] as $c => [$x, $y]) {
                    $uvs[$name][$face][$c] = [$u + $least * $x, $v + $least * $y];
                }
            }
        }
        $out = [];
        foreach ($shapes as $name => $shape) {
            $out[$name] = new Polygons($shape->points, $shape->faces, array_map(array_values(...), array_values($uvs[$name])));
        }

        return $out;
    }

    /**
     * @return list<list<int>> faces joined over edges that are neither hard nor cut already
     */
    private static function islands(Polygons $shape): array
    {
        $count = count($shape->faces);
        $root = range(0, max(0, $count - 1));
        $find = static function (int $i) use (&$root): int {
            while ($root[$i] !== $i) {
                $i = $root[$i] = $root[$root[$i]];
            }

            return $i;
        };
        $normals = array_map(static fn (array $face): array => self::normal($shape, $face), $shape->faces);
        $places = [];
        $welded = array_map(static function (array $p) use (&$places): int {
            $key = pack('f3', ...$p);

            return $places[$key] ??= count($places);
        }, $shape->points);
        $hasUvs = count($shape->uvs) === $count;
        $edges = [];
        foreach ($shape->faces as $f => $face) {
            foreach ($face as $c => $v) {
                $n = ($c + 1) % count($face);
                $edges[min($welded[$v], $welded[$face[$n]]).' '.max($welded[$v], $welded[$face[$n]])][] = [$f, $c, $n];
            }
        }
        foreach ($edges as $halves) {
            if (count($halves) !== 2) {
                continue;
            }
            [[$a, $from, $to], [$b, $back, $beyond]] = $halves;
            $dot = $normals[$a][0] * $normals[$b][0] + $normals[$a][1] * $normals[$b][1] + $normals[$a][2] * $normals[$b][2];
            if ($dot < cos(deg2rad(self::HARD))) {
                continue;
            }
            if ($dot < self::FLAT && $hasUvs && ! (self::isNear($shape->uvs[$a][$from], $shape->uvs[$b][$beyond]) && self::isNear($shape->uvs[$a][$to], $shape->uvs[$b][$back]))) {
                continue;
            }
            $root[max($find($a), $find($b))] = min($find($a), $find($b));
        }
        $out = [];
        for ($f = 0; $f < $count; $f++) {
            $out[$find($f)][] = $f;
        }

        return array_values($out);
    }

    /**
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     */
    private static function isNear(array $a, array $b): bool
    {
        return abs($a[0] - $b[0]) < 1e-6 && abs($a[1] - $b[1]) < 1e-6;
    }

    /**
     * An island at its size in 3D, its least corner at the origin.
     *
     * @param  list<int>  $faces
     * @return array{list<list<array{float, float}>>, float, float} corners of each face, width, height
     */
    private static function flattened(Polygons $shape, array $faces): array
    {
        $first = self::normal($shape, $shape->faces[$faces[0]]);
        $isFlat = true;
        foreach ($faces as $f) {
            $n = self::normal($shape, $shape->faces[$f]);
            $isFlat = $isFlat && $n[0] * $first[0] + $n[1] * $first[1] + $n[2] * $first[2] > self::FLAT;
        }
        $corners = [];
        if ($isFlat || count($shape->uvs) !== count($shape->faces)) {
            // Up on the page is up on the model; of floors, away from the eye.
            $up = abs($first[1]) < 0.9 ? [0.0, 1.0, 0.0] : [0.0, 0.0, -1.0];
            $dot = $up[0] * $first[0] + $up[1] * $first[1] + $up[2] * $first[2];
            $v = self::unit([$up[0] - $dot * $first[0], $up[1] - $dot * $first[1], $up[2] - $dot * $first[2]]);
            $u = [$v[1] * $first[2] - $v[2] * $first[1], $v[2] * $first[0] - $v[0] * $first[2], $v[0] * $first[1] - $v[1] * $first[0]];
            foreach ($faces as $f) {
                $corners[] = array_map(static function (int $k) use ($shape, $u, $v): array {
                    $p = $shape->points[$k];

                    return [$p[0] * $u[0] + $p[1] * $u[1] + $p[2] * $u[2], $p[0] * $v[0] + $p[1] * $v[1] + $p[2] * $v[2]];
                }, $shape->faces[$f]);
            }
        } else {
            [$alongU, $alongV] = self::lengths($shape, $faces);
            foreach ($faces as $f) {
                $corners[] = array_map(static fn (array $c): array => [$c[0] * $alongU, $c[1] * $alongV], $shape->uvs[$f]);
            }
        }
        $left = $low = INF;
        $right = $high = -INF;
        foreach ($corners as $face) {
            foreach ($face as [$x, $y]) {
                [$left, $low, $right, $high] = [min($left, $x), min($low, $y), max($right, $x), max($high, $y)];
            }
        }

        return [
            array_map(static fn (array $face): array => array_map(static fn (array $c): array => [$c[0] - $left, $c[1] - $low], $face), $corners),
            $right - $left, $high - $low,
        ];
    }

    /**
     * How long a step in u and one in v are on the model, on the mean of squares by area.
     *
     * @param  list<int>  $faces
     * @return array{float, float}
     */
    private static function lengths(Polygons $shape, array $faces): array
    {
        $sum = $all = $byU = $byV = 0.0;
        foreach ($faces as $f) {
            $face = $shape->faces[$f];
            $uv = $shape->uvs[$f];
            for ($k = 1; $k + 1 < count($face); $k++) {
                [$a, $b, $c] = [$uv[0], $uv[$k], $uv[$k + 1]];
                $area = ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($c[0] - $a[0]) * ($b[1] - $a[1]);
                if (abs($area) < 1e-12) {
                    continue;
                }
                [$p, $q, $r] = [$shape->points[$face[0]], $shape->points[$face[$k]], $shape->points[$face[$k + 1]]];
                $u = $v = 0.0;
                for ($i = 0; $i < 3; $i++) {
                    $u += (($p[$i] * ($b[1] - $c[1]) + $q[$i] * ($c[1] - $a[1]) + $r[$i] * ($a[1] - $b[1])) / $area) ** 2;
                    $v += (($p[$i] * ($c[0] - $b[0]) + $q[$i] * ($a[0] - $c[0]) + $r[$i] * ($b[0] - $a[0])) / $area) ** 2;
                }
                $weight = abs($area);
                $all += $weight;
                $byU += $weight * $u;
                $byV += $weight * $v;
            }
        }

        return $all > 0.0 ? [sqrt($byU / $all), sqrt($byV / $all)] : [1.0, 1.0];
    }

    /**
     * @param  list<array{string, list<int>, list<list<array{float, float}>>, float, float}>  $islands  the tallest first
     * @return array<int, array{float, float}>|null lower left corners; null where they do not fit
     */
    private static function shelves(array $islands, float $scale): ?array
    {
        $out = [];
        [$u, $v, $height] = [self::ROOM, self::ROOM, 0.0];
        foreach ($islands as $i => $island) {
            [$w, $h] = [$scale * $island[3] + 2 * self::ROOM, $scale * $island[4] + 2 * self::ROOM];
            if ($u + $w > 1.0 - self::ROOM) {
                [$u, $v, $height] = [self::ROOM, $v + $height, 0.0];
            }
            if ($u + $w > 1.0 - self::ROOM || $v + $h > 1.0 - self::ROOM) {
                return null;
            }
            $out[$i] = [$u + self::ROOM, $v + self::ROOM];
            $u += $w;
            $height = max($height, $h);
        }

        return $out;
    }

    /**
     * @param  list<int>  $face
     * @return array{float, float, float} unit, by Newell's method
     */
    private static function normal(Polygons $shape, array $face): array
    {
        $n = [0.0, 0.0, 0.0];
        foreach ($face as $k => $v) {
            $p = $shape->points[$v];
            $q = $shape->points[$face[($k + 1) % count($face)]];
            $n[0] += ($p[1] - $q[1]) * ($p[2] + $q[2]);
            $n[1] += ($p[2] - $q[2]) * ($p[0] + $q[0]);
            $n[2] += ($p[0] - $q[0]) * ($p[1] + $q[1]);
        }

        return self::unit($n);
    }

    /**
     * @param  array{float, float, float}  $v
     * @return array{float, float, float}
     */
    private static function unit(array $v): array
    {
        $length = sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);

        return $length > 0.0 ? [$v[0] / $length, $v[1] / $length, $v[2] / $length] : [0.0, 0.0, 1.0];
    }
}
