<?php

declare(strict_types=1);

namespace Demo;

use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;

/**
 * The props of an invented harbour signal station, in metres.
 */
final class SignalStation
{
    /**
     * @return list<DemoAsset>
     */
    public static function all(): array
    {
        return [self::mooringWinch(), self::signalLantern(), self::tideGauge()];
    }

    /** Clean and ready: a drum between two cheeks on a base, with a crank and a pawl. */
    public static function mooringWinch(): DemoAsset
    {
        $bench = new Bench('winch', ['cast_iron' => '#3050C0', 'painted_steel' => '#E0201C', 'oak' => '#F0C000', 'brass' => '#00A050', 'rope' => '#C000C0']);

        $rivets = [Bench::milled(1.30, 0.10, 0.80, 0, 0.05, 0, 0.012, 4, 10)];
        foreach ([-0.58, -0.29, 0.0, 0.29, 0.58] as $x) {
            foreach ([-0.34, 0.34] as $z) {
                $rivets[] = Bench::rivet(0.026, 0.013, $x, 0.1, $z);
            }
        }
        $bench->pair('base', [Bench::slab(1.30, 0.10, 0.80, 0, 0.05, 0)], $rivets, 'painted_steel');

        foreach (['left' => -0.52, 'right' => 0.52] as $side => $x) {
            $sign = $x < 0 ? -1.0 : 1.0;
            $high = [Bench::milled(0.08, 0.66, 0.50, $x, 0.43, 0, 0.012, 4, 8)];
            foreach ([0.2, 0.66] as $y) {
                foreach ([-0.19, 0.19] as $z) {
                    $high[] = Bench::rivet(0.022, 0.011, $x + $sign * 0.04, $y, $z, 0, $sign);
                }
            }
            $bench->pair("cheek_$side", [Bench::slab(0.08, 0.66, 0.50, $x, 0.43, 0)], $high, 'cast_iron');
        }

        $drum = [];
        $steps = 160;
        for ($i = 0; $i <= $steps; $i++) {
            $y = -0.46 + 0.92 * $i / $steps;
            // Eight turns of rope lie in shallow grooves between the flanges.
            $r = abs($y) > 0.41 ? 0.24 : 0.157 + 0.007 * abs(cos(M_PI * 8 * ($y + 0.41) / 0.82));
            $drum[] = [$r, $y];
        }
        $profile = [[0.0, -0.46], [0.228, -0.46], [0.236, -0.457], [0.24, -0.45], ...array_slice($drum, 2, -2), [0.24, 0.45], [0.236, 0.457], [0.228, 0.46], [0.0, 0.46]];
        $bench->pair('drum', [
            Shapes::lathe([[0.0, -0.46], [0.24, -0.46], [0.24, -0.41], [0.16, -0.41], [0.16, 0.41], [0.24, 0.41], [0.24, 0.46], [0.0, 0.46]], 32)->turned(2, 90)->moved(0, 0.46, 0),
        ], [Shapes::lathe($profile, 96, false)->turned(2, 90)->moved(0, 0.46, 0)], 'rope');

        $bench->pair('axle', [Shapes::cylinder(0.05, 1.34, 24)->turned(2, 90)->moved(0, 0.46, 0)], [Shapes::roundedCylinder(0.05, 1.34, 0.008, 72, 5)->turned(2, 90)->moved(0, 0.46, 0)], 'brass');
        $bench->pair('crank', [Bench::slab(0.04, 0.40, 0.08, 0.70, 0.62, 0)], [Bench::milled(0.04, 0.40, 0.08, 0.70, 0.62, 0, 0.008, 4, 6)], 'cast_iron');
        $bench->pair('handle', [Shapes::cylinder(0.035, 0.26, 24)->turned(2, 90)->moved(0.85, 0.78, 0)], [Shapes::roundedCylinder(0.035, 0.26, 0.012, 72, 8)->turned(2, 90)->moved(0.85, 0.78, 0)], 'oak');
        $bench->pair('pawl', [Bench::slab(0.05, 0.06, 0.24, -0.62, 0.74, 0.05)], [Bench::milled(0.05, 0.06, 0.24, -0.62, 0.74, 0.05, 0.008, 4, 5), Bench::rivet(0.014, 0.007, -0.645, 0.74, 0.12, 0, -1.0)], 'brass');

        return new DemoAsset('Mooring winch', 'winch', $bench->low(), $bench->high, 'obj');
    }

    /** The pane's reach goes past the shutters beside it, and this studio bakes sets together: they bleed, so explode. */
    public static function signalLantern(): DemoAsset
    {
        $bench = new Bench('lantern', ['copper' => '#D04010', 'glass' => '#20C0F0', 'steel' => '#204090', 'brass' => '#F0C000', 'soot' => '#000000']);

        $foot = [[0.0, 0.0], [0.29, 0.0], [0.30, 0.01], [0.30, 0.05], [0.29, 0.06], [0.0, 0.06]];
        $rivets = [Shapes::lathe($foot, 96)];
        for ($i = 0; $i < 16; $i++) {
            $a = 2 * M_PI * $i / 16;
            $rivets[] = Bench::rivet(0.012, 0.006, 0.265 * cos($a), 0.06, 0.265 * sin($a));
        }
        $bench->pair('base', [Shapes::lathe([[0.0, 0.0], [0.30, 0.0], [0.30, 0.06], [0.0, 0.06]], 32)], $rivets, 'steel');

        // The bull's-eyes before and behind stand out further than the shutters at the sides are away: one reach cannot serve both.
        $pane = [[0.0, 0.075]];
        for ($i = 0; $i <= 60; $i++) {
            $y = 0.075 + 0.53 * $i / 60;
            $pane[] = [0.17 + 0.006 * abs(sin(M_PI * 6 * $i / 60)), $y];
        }
        $pane[] = [0.0, 0.605];
        $bullseye = [];
        for ($i = 0; $i <= 10; $i++) {
            $a = M_PI / 2 * $i / 10;
            $bullseye[] = [$i === 10 ? 0.0 : 0.075 * cos($a), 0.055 * sin($a)];
        }
        $bullseye = Shapes::lathe([[0.0, -0.02], [0.075, -0.02], ...$bullseye], 64, false);
        $bench->pair('pane', [Shapes::lathe([[0.0, 0.075], [0.17, 0.075], [0.17, 0.34], [0.17, 0.605], [0.0, 0.605]], 32)], [
            Shapes::lathe($pane, 96), $bullseye->turned(0, 90)->moved(0, 0.34, 0.165), $bullseye->turned(0, -90)->moved(0, 0.34, -0.165),
        ], 'glass');

        foreach (['left' => 1.0, 'right' => -1.0] as $side => $sign) {
            $low = $high = [];
            for ($i = 0; $i < 5; $i++) {
                $y = 0.12 + 0.11 * $i;
                $low[] = Bench::slab(0.014, 0.085, 0.22, -$sign * 0.191, $y, 0);
                $high[] = Bench::milled(0.014, 0.085, 0.22, -$sign * 0.191, $y, 0, 0.004, 3, 8);
            }
            $bench->pair("shutter_$side", $low, $high, $sign > 0 ? 'copper' : 'brass');
        }

        $hood = [[0.0, 0.62], [0.30, 0.62], [0.31, 0.625], [0.31, 0.64], [0.12, 0.80], [0.11, 0.82], [0.105, 0.84], [0.0, 0.84]];
        $bench->pair('hood', [Shapes::lathe([[0.0, 0.62], [0.31, 0.62], [0.31, 0.64], [0.11, 0.81], [0.11, 0.84], [0.0, 0.84]], 32)], [Shapes::lathe($hood, 128)], 'copper');
        $bench->pair('chimney', [Shapes::cylinder(0.07, 0.16, 24)->moved(0, 0.925, 0)], [Shapes::roundedCylinder(0.07, 0.16, 0.012, 96, 8)->moved(0, 0.925, 0)], 'soot');
        $bench->pair('ring', [Shapes::torus(0.10, 0.014, 32, 10)->turned(0, 90)->moved(0, 1.14, 0)], [Shapes::torus(0.10, 0.014, 120, 32)->turned(0, 90)->moved(0, 1.14, 0)], 'brass');
        foreach ([45, 135, 225, 315] as $i => $angle) {
            $x = 0.255 * cos(deg2rad($angle));
            $z = 0.255 * sin(deg2rad($angle));
            $bench->pair('post_'.chr(97 + $i), [Shapes::cylinder(0.018, 0.555, 16)->moved($x, 0.34, $z)], [Shapes::roundedCylinder(0.018, 0.555, 0.004, 48, 3)->moved($x, 0.34, $z)], 'steel');
        }

        return new DemoAsset('Signal lantern', 'lantern', $bench->low(), $bench->high, 'glb', '{"name":"Signal station, sets baked together","rays":{"setsKeptApart":false}}');
    }

    /**
     * Wrong letter case twice, a bracket without a high part, two IDs that a picker takes for one; and a page with an overlap, a tight gap, an uneven island and a part
     * that was exported with hard edges.
     */
    public static function tideGauge(): DemoAsset
    {
        $bench = new Bench('gauge', ['enamel_red' => '#E8112D', 'brass' => '#E0151F', 'dial_face' => '#F5E400', 'cabinet' => '#1A9E3B', 'float_blue' => '#1B2CE0', 'pane' => '#00C8E8', 'gasket' => '#D400D4', 'tube' => '#FFFFFF']);

        $screws = [Bench::milled(0.50, 1.10, 0.05, 0, 0.55, -0.10, 0.010, 4, 10)];
        foreach ([[-0.21, 0.06], [0.21, 0.06], [-0.21, 1.04], [0.21, 1.04]] as [$x, $y]) {
            $screws[] = Bench::rivet(0.018, 0.009, $x, $y, -0.075, 2);
        }
        $bench->pair('backplate', [Bench::slab(0.50, 1.10, 0.05, 0, 0.55, -0.10)], $screws, 'cabinet');
        $bench->pair('housing', [Bench::slab(0.42, 0.46, 0.12, 0, 0.80, -0.01)], [Bench::milled(0.42, 0.46, 0.12, 0, 0.80, -0.01, 0.02, 6, 10)], 'cabinet');

        $bezel = Shapes::torus(0.17, 0.018, 48, 10)->turned(0, 90)->moved(0, 0.80, 0.07);
        $bench->pair('bezel', [$bezel], [Shapes::torus(0.17, 0.018, 160, 36)->turned(0, 90)->moved(0, 0.80, 0.07)], 'brass');
        $dial = static fn (int $sides, Polygons $plate): Polygons => $plate->turned(0, 90)->moved(0, 0.80, 0.06);
        $marks = [$dial(96, Shapes::roundedCylinder(0.15, 0.02, 0.003, 96, 4))];
        for ($i = 0; $i < 24; $i++) {
            $a = 2 * M_PI * $i / 24;
            $marks[] = Bench::rivet($i % 6 === 0 ? 0.006 : 0.0035, 0.002, 0.125 * cos($a), 0.80 + 0.125 * sin($a), 0.07, 2);
        }
        $bench->pair('dial', [$dial(40, Shapes::cylinder(0.15, 0.02, 40))], $marks, 'dial_face', 'Dial');
        $bench->pair('needle', [Bench::slab(0.012, 0.13, 0.008, 0, 0.85, 0.082)], [Bench::milled(0.012, 0.13, 0.008, 0, 0.85, 0.082, 0.002, 3, 6)], 'enamel_red', null, '_low', '_High');
        $bench->pair('pane', [$dial(40, Shapes::cylinder(0.152, 0.006, 40))->moved(0, 0, 0.034)], [$dial(96, Shapes::roundedCylinder(0.152, 0.006, 0.001, 96, 3))->moved(0, 0, 0.034)], 'pane');
        $bench->pair('gasket', [Shapes::torus(0.19, 0.008, 40, 8)->turned(0, 90)->moved(0, 0.80, 0.052)], [Shapes::torus(0.19, 0.008, 120, 20)->turned(0, 90)->moved(0, 0.80, 0.052)], 'gasket', angle: 8.0);
        foreach (['a' => -0.12, 'b' => 0.12] as $which => $x) {
            $bench->pair("stilling_tube_$which", [Shapes::cylinder(0.045, 0.52, 24)->moved($x, 0.28, 0)], [Shapes::roundedCylinder(0.045, 0.52, 0.010, 96, 6)->moved($x, 0.28, 0)], 'tube');
        }
        $bench->pair('float', [Shapes::cylinder(0.06, 0.10, 24)->moved(0, 0.14, 0.02)], [Shapes::roundedCylinder(0.06, 0.10, 0.01, 96, 8)->moved(0, 0.14, 0.02)], 'float_blue');
        $bench->pair('float_rod', [Shapes::cylinder(0.008, 0.36, 16)->moved(0, 0.37, 0.02)], [Shapes::roundedCylinder(0.008, 0.36, 0.003, 48, 4)->moved(0, 0.37, 0.02)], 'float_blue');
        $bench->pair('bracket', [Bench::slab(0.30, 0.04, 0.10, 0, 0.02, -0.02)], []);

        return new DemoAsset('Tide gauge', 'gauge', $bench->low(self::badPage(...)), $bench->high, 'obj');
    }

    /**
     * @param  array<string, Polygons>  $low
     * @return array<string, Polygons>
     */
    private static function badPage(array $low): array
    {
        // The bracket at under half the density of the rest, and one side of the housing pushed over what lies left of it.
        $low['bracket_low'] = self::scaledUvs($low['bracket_low'], 0.4);
        $housing = $low['housing_low'];
        $pushed = array_map(static fn (array $c): array => [$c[0] - 0.03, $c[1]], $housing->uvs[0]);
        $low['housing_low'] = new Polygons($housing->points, $housing->faces, [$pushed, ...array_slice($housing->uvs, 1)]);

        // The pane moved to within 3 px of what lies left of it.
        $low['pane_low'] = $low['pane_low']->placed(-9 / 2048, 0.0, 1.0);

        return $low;
    }

    /** Each face about its own middle. */
    private static function scaledUvs(Polygons $shape, float $by): Polygons
    {
        return new Polygons($shape->points, $shape->faces, array_map(static function (array $face) use ($by): array {
            $u = array_sum(array_column($face, 0)) / count($face);
            $v = array_sum(array_column($face, 1)) / count($face);

            return array_map(static fn (array $c): array => [$u + $by * ($c[0] - $u), $v + $by * ($c[1] - $v)], $face);
        }, $shape->uvs));
    }
}
