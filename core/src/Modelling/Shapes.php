<?php

declare(strict_types=1);

namespace Anvil\Modelling;

/**
 * Solids with a closed form and laid-out UVs (each shape fills the unit page, its islands apart).
 */
final class Shapes
{
    /** A box about the origin; six islands in a 3×2 sheet. */
    public static function box(float $x, float $y, float $z, int $cuts = 1): Polygons
    {
        return self::roundedBox($x, $y, $z, 0.0, 0, $cuts);
    }

    /**
     * A box whose edges and corners are rounded with a radius: the surface at distance `radius` from the smaller box inside.
     *
     * @param  int  $segments  steps of each rounding; 0 for sharp edges
     * @param  int  $cuts  steps of each flat
     */
    public static function roundedBox(float $x, float $y, float $z, float $radius, int $segments, int $cuts = 1): Polygons
    {
        $half = [$x / 2, $y / 2, $z / 2];
        $out = [];
        foreach ([[0, 1, 2], [1, 2, 0], [2, 0, 1]] as $s => [$n, $u, $v]) {
            foreach ([1.0, -1.0] as $k => $side) {
                $su = self::steps($half[$u], $radius, $segments, $cuts);
                $sv = self::steps($half[$v], $radius, $segments, $cuts);
                $points = $faces = $uvs = [];
                foreach ($sv as [$flatV, $angleV]) {
                    foreach ($su as [$flatU, $angleU]) {
                        $dir = [0.0, 0.0, 0.0];
                        $dir[$n] = 1.0;
                        $dir[$u] = tan(deg2rad($angleU));
                        $dir[$v] = tan(deg2rad($angleV));
                        $length = sqrt($dir[0] ** 2 + $dir[1] ** 2 + $dir[2] ** 2);
                        $p = [0.0, 0.0, 0.0];
                        $p[$n] = $half[$n] - $radius + $radius * $dir[$n] / $length;
                        $p[$u] = $flatU + $radius * $dir[$u] / $length;
                        $p[$v] = $flatV + $radius * $dir[$v] / $length;
                        $p[$n] *= $side;
                        $p[$u] *= $side > 0 ? 1.0 : -1.0;
                        $points[] = [$p[0], $p[1], $p[2]];
                    }
                }
                $nu = count($su);
                $nv = count($sv);
                for ($j = 0; $j + 1 < $nv; $j++) {
                    for ($i = 0; $i + 1 < $nu; $i++) {
                        $faces[] = [$j * $nu + $i, $j * $nu + $i + 1, ($j + 1) * $nu + $i + 1, ($j + 1) * $nu + $i];
                        $uvs[] = array_map(static fn (array $c): array => [
                            ($s + 0.04 + 0.92 * $c[0] / ($nu - 1)) / 3, ($k + 0.04 + 0.92 * $c[1] / ($nv - 1)) / 2,
                        ], [[$i, $j], [$i + 1, $j], [$i + 1, $j + 1], [$i, $j + 1]]);
                    }
                }
                $out[] = new Polygons($points, $faces, $uvs);
            }
        }

        return self::welded(Polygons::join($out));
    }

    /**
     * A profile turned about the y axis. Profile points run from the bottom up, outside to the right; a radius of 0 closes a pole.
     *
     * @param  list<array{float, float}>  $profile  [radius, height]
     * @param  bool  $hardUv  a UV seam at each profile edge that turns by over 40° (caps as islands of their own)
     */
    public static function lathe(array $profile, int $sides, bool $hardUv = true): Polygons
    {
        $runs = self::runs($profile, $hardUv);
        // One density for all: strips round the widest place, caps as discs in a row over them.
        $caps = $hardUv && count($runs) > 1 ? array_filter($runs, self::isCap(...)) : [];
        $lengths = array_map(static function (array $run): float {
            $sum = 0.0;
            for ($i = 0; $i + 1 < count($run); $i++) {
                $sum += hypot($run[$i + 1][0] - $run[$i][0], $run[$i + 1][1] - $run[$i][1]);
            }

            return max($sum, 1e-9);
        }, $runs);
        $gap = 0.02;
        $widest = max(1e-9, ...array_map(static fn (array $point): float => $point[0], $profile));
        $disc = $caps === [] ? 0.0 : 2 * max(array_map(static fn (array $run): float => max($run[0][0], $run[1][0]), $caps));
        $strips = array_sum(array_diff_key($lengths, $caps));
        $room = 1.0 - $gap * (count($runs) - count($caps) + ($caps === [] ? 1 : 2));
        // An open run may use the height of the page; with caps all keeps one scale.
        $scale = min(0.96 / (2 * M_PI * $widest), $room / max(1e-9, $strips + $disc));
        $width = $caps === [] ? 0.96 : 2 * M_PI * $widest * $scale;
        $tall = $caps === [] ? $room / max(1e-9, $strips) : $scale;
        $v0 = $gap;
        $u0 = $gap;
        $top = 1.0 - $gap - $scale * $disc / 2;
        $out = [];
        foreach ($runs as $r => $run) {
            $points = $faces = $uvs = [];
            $along = 0.0;
            $n = count($run);
            foreach ($run as $i => [$radius, $height]) {
                for ($s = 0; $s < $sides; $s++) {
                    $angle = 2 * M_PI * $s / $sides;
                    $points[] = [$radius * cos($angle), $height, -$radius * sin($angle)];
                }
                if ($i + 1 === $n) {
                    break;
                }
                $step = hypot($run[$i + 1][0] - $radius, $run[$i + 1][1] - $height);
                $va = $v0 + $tall * $along;
                $vb = $v0 + $tall * ($along + $step);
                $along += $step;
                for ($s = 0; $s < $sides; $s++) {
                    $a = $i * $sides + $s;
                    $b = $i * $sides + ($s + 1) % $sides;
                    $ua = 0.02 + $width * $s / $sides;
                    $ub = 0.02 + $width * ($s + 1) / $sides;
                    if (isset($caps[$r])) {
                        $size = $scale * max($run[0][0], $run[1][0]);
                        $rim = static fn (int $k): array => [$u0 + $size + $size * cos(2 * M_PI * $k / $sides), $top + ($radius <= 0.0 ? -1 : 1) * $size * sin(2 * M_PI * $k / $sides)];
                        $faces[] = $radius <= 0.0 ? [$a, $b + $sides, $a + $sides] : [$a, $b, $a + $sides];
                        $uvs[] = $radius <= 0.0 ? [[$u0 + $size, $top], $rim($s + 1), $rim($s)] : [$rim($s), $rim($s + 1), [$u0 + $size, $top]];
                    } elseif ($radius <= 0.0) {
                        $faces[] = [$a, $b + $sides, $a + $sides];
                        $uvs[] = [[($ua + $ub) / 2, $va], [$ub, $vb], [$ua, $vb]];
                    } elseif ($run[$i + 1][0] <= 0.0) {
                        $faces[] = [$a, $b, $a + $sides];
                        $uvs[] = [[$ua, $va], [$ub, $va], [($ua + $ub) / 2, $vb]];
                    } else {
                        $faces[] = [$a, $b, $b + $sides, $a + $sides];
                        $uvs[] = [[$ua, $va], [$ub, $va], [$ub, $vb], [$ua, $vb]];
                    }
                }
            }
            if (isset($caps[$r])) {
                $u0 += 2 * $scale * max($run[0][0], $run[1][0]) + $gap;
            } else {
                $v0 += $tall * $lengths[$r] + $gap;
            }
            $out[] = new Polygons($points, $faces, $uvs);
        }

        return self::welded(Polygons::join($out));
    }

    /** A closed cylinder about the y axis, centred; its caps are fans of triangles. */
    public static function cylinder(float $radius, float $height, int $sides): Polygons
    {
        return self::lathe([[0.0, -$height / 2], [$radius, -$height / 2], [$radius, $height / 2], [0.0, $height / 2]], $sides);
    }

    /** The same with its rims rounded. */
    public static function roundedCylinder(float $radius, float $height, float $rim, int $sides, int $segments): Polygons
    {
        $profile = [[0.0, -$height / 2]];
        foreach (self::arc($segments) as [$c, $s]) {
            $profile[] = [$radius - $rim + $rim * $s, -$height / 2 + $rim - $rim * $c];
        }
        foreach (self::arc($segments) as [$c, $s]) {
            $profile[] = [$radius - $rim + $rim * $c, $height / 2 - $rim + $rim * $s];
        }
        $profile[] = [0.0, $height / 2];

        return self::lathe($profile, $sides, false);
    }

    /** A sphere about the origin, poles on the y axis. */
    public static function sphere(float $radius, int $rings, int $sides): Polygons
    {
        $profile = [];
        for ($i = 0; $i <= $rings; $i++) {
            $angle = M_PI * $i / $rings;
            $profile[] = [$i === 0 || $i === $rings ? 0.0 : $radius * sin($angle), -$radius * cos($angle)];
        }

        return self::lathe($profile, $sides, false);
    }

    /** A ring about the y axis. */
    public static function torus(float $radius, float $tube, int $sides, int $tubeSides): Polygons
    {
        $points = $faces = $uvs = [];
        for ($i = 0; $i < $sides; $i++) {
            $a = 2 * M_PI * $i / $sides;
            for ($j = 0; $j < $tubeSides; $j++) {
                $b = 2 * M_PI * $j / $tubeSides;
                $r = $radius + $tube * cos($b);
                $points[] = [$r * cos($a), $tube * sin($b), -$r * sin($a)];
                $i2 = ($i + 1) % $sides;
                $j2 = ($j + 1) % $tubeSides;
                $faces[] = [$i * $tubeSides + $j, $i2 * $tubeSides + $j, $i2 * $tubeSides + $j2, $i * $tubeSides + $j2];
                $u0 = 0.02 + 0.96 * $i / $sides;
                $u1 = 0.02 + 0.96 * ($i + 1) / $sides;
                $v0 = 0.02 + 0.96 * $j / $tubeSides;
                $v1 = 0.02 + 0.96 * ($j + 1) / $tubeSides;
                $uvs[] = [[$u0, $v0], [$u1, $v0], [$u1, $v1], [$u0, $v1]];
            }
        }

        return new Polygons($points, $faces, $uvs);
    }

    /**
     * A flat sheet in the xz plane, facing +y, about the origin.
     */
    public static function sheet(float $x, float $z, int $cutsX = 1, int $cutsZ = 1): Polygons
    {
        $points = $faces = $uvs = [];
        for ($j = 0; $j <= $cutsZ; $j++) {
            for ($i = 0; $i <= $cutsX; $i++) {
                $points[] = [$x * ($i / $cutsX - 0.5), 0.0, $z * (0.5 - $j / $cutsZ)];
            }
        }
        $n = $cutsX + 1;
        for ($j = 0; $j < $cutsZ; $j++) {
            for ($i = 0; $i < $cutsX; $i++) {
                $faces[] = [$j * $n + $i, $j * $n + $i + 1, ($j + 1) * $n + $i + 1, ($j + 1) * $n + $i];
                $uvs[] = array_map(static fn (array $c): array => [0.04 + 0.92 * $c[0] / $cutsX, 0.04 + 0.92 * $c[1] / $cutsZ], [[$i, $j], [$i + 1, $j], [$i + 1, $j + 1], [$i, $j + 1]]);
            }
        }

        return new Polygons($points, $faces, $uvs);
    }

    /** Points at one place become one. */
    public static function welded(Polygons $polygons): Polygons
    {
        $number = $points = $map = [];
        foreach ($polygons->points as $i => $p) {
            $key = sprintf('%.7F %.7F %.7F', $p[0] + 0.0, $p[1] + 0.0, $p[2] + 0.0);
            $key = str_replace('-0.0000000', '0.0000000', $key);
            if (! isset($number[$key])) {
                $number[$key] = count($points);
                $points[] = $p;
            }
            $map[$i] = $number[$key];
        }
        $faces = $uvs = [];
        foreach ($polygons->faces as $f => $face) {
            $face = array_map(static fn (int $v): int => $map[$v], $face);
            if (count(array_unique($face)) < 3) {
                continue;
            }
            $faces[] = $face;
            if (isset($polygons->uvs[$f])) {
                $uvs[] = $polygons->uvs[$f];
            }
        }

        return new Polygons($points, $faces, $uvs);
    }

    /**
     * @return list<array{float, float}> [place of the flat, degrees of turn], from −45° to 45°
     */
    private static function steps(float $half, float $radius, int $segments, int $cuts): array
    {
        $flat = $half - $radius;
        $out = [];
        for ($i = 0; $i < $segments; $i++) {
            $out[] = [-$flat, -45.0 + 45.0 * $i / $segments];
        }
        for ($i = 0; $i <= $cuts; $i++) {
            $out[] = [$flat * (2 * $i / $cuts - 1), 0.0];
        }
        for ($i = 1; $i <= $segments; $i++) {
            $out[] = [$flat, 45.0 * $i / $segments];
        }

        return $out;
    }

    /**
     * @return list<array{float, float}> cosine and sine of 0 to 90°
     */
    private static function arc(int $segments): array
    {
        $out = [];
        for ($i = 0; $i <= $segments; $i++) {
            $out[] = [cos(M_PI / 2 * $i / $segments), sin(M_PI / 2 * $i / $segments)];
        }

        return $out;
    }

    /**
     * A profile cut where it turns hard.
     *
     * @param  list<array{float, float}>  $profile
     * @return list<list<array{float, float}>>
     */
    private static function runs(array $profile, bool $hard): array
    {
        $runs = [];
        $run = [$profile[0]];
        for ($i = 1, $n = count($profile); $i < $n; $i++) {
            $run[] = $profile[$i];
            if ($hard && $i + 1 < $n) {
                $a = atan2($profile[$i][1] - $profile[$i - 1][1], $profile[$i][0] - $profile[$i - 1][0]);
                $b = atan2($profile[$i + 1][1] - $profile[$i][1], $profile[$i + 1][0] - $profile[$i][0]);
                $turn = abs(rad2deg($b - $a));
                if (min($turn, 360 - $turn) > 40) {
                    $runs[] = $run;
                    $run = [$profile[$i]];
                }
            }
        }
        $runs[] = $run;

        return $runs;
    }

    /**
     * Whether a run closes a flat end.
     *
     * @param  list<array{float, float}>  $run
     */
    private static function isCap(array $run): bool
    {
        return count($run) === 2 && ($run[0][0] <= 0.0 || $run[1][0] <= 0.0) && abs($run[1][1] - $run[0][1]) < 0.2 * abs($run[1][0] - $run[0][0]);
    }
}
