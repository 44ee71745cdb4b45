<?php

declare(strict_types=1);

namespace Anvil\Tests\Checks;

use Anvil\Geometry\Mesh;
use Anvil\Modelling\Atlas;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Tests\Support\Assets;
use Closure;

/**
 * Fixtures of the checks on the low poly's surface: boards that stand upright side by side, each with a rectangle of the page, at one density.
 */
final class SurfaceFixtures
{
    /** Covers over 55 % of the page, and lies well away from its edges. */
    private const MAIN = [0.02, 0.02, 0.98, 0.62];

    private const SIZE = 2048;

    /**
     * @return iterable<string, array{Closure(): Report, list<string>, float|null, array<string, string>}>
     */
    public static function found(): iterable
    {
        $px = 1 / self::SIZE;
        yield 'uv-overlap' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.6, 0.22, 0.9], 12)]), ['uv-overlap blocker'], 0.2 * 0.02, ['part' => 'a_low', 'other' => 'b_low', 'file' => 'x_low.obj', 'page' => 'plain']];
        yield 'uv-overlap of one part' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)->with(self::board([0.3, 0.5, 0.5, 0.9], 12))]), ['uv-overlap blocker'], 0.2 * 0.12, ['part' => 'a_low']];
        yield 'uv-degenerate' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)->with(self::sliver())]), ['uv-degenerate caution'], 1.0, ['part' => 'a_low']];
        yield 'uv-mirrored' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::mirrored(self::board([0.02, 0.7, 0.22, 0.9], 12))]), ['uv-mirrored note'], 1.0, ['part' => 'b_low']];
        yield 'uv-padding' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.62 + 5 * $px, 0.22, 0.9], 12)]), ['uv-padding caution'], 5.0, ['part' => 'a_low', 'other' => 'b_low']];
        yield 'uv-padding that blocks' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.62 + 1.5 * $px, 0.22, 0.9], 12)]), ['uv-padding blocker'], 1.5, ['part' => 'a_low', 'other' => 'b_low']];
        yield 'uv-padding between corners' => [static fn (): Report => self::report(['a_low' => self::board([0.02, 0.02, 0.88, 0.72]), 'b_low' => self::board([0.88 + 3 * $px, 0.72 + 4 * $px, 0.98, 0.9], 12)]), ['uv-padding caution'], 5.0, ['part' => 'a_low']];
        yield 'uv-padding between arms' => [static fn (): Report => self::report(['a_low' => self::fork(6 * $px)]), ['uv-padding caution'], 6.0, ['part' => 'a_low']];
        yield 'uv-padding beside a slit that gapes' => [static fn (): Report => self::report(['a_low' => self::slit(8 * $px)]), ['uv-padding caution'], 4.0, ['part' => 'a_low']];
        yield 'uv-border' => [static fn (): Report => self::report(['a_low' => self::board([3 * $px, 0.02, 0.98, 0.62])]), ['uv-border caution'], 3.0, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'uv-stretch' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)->mapped(static fn (array $p): array => [5 * $p[0], $p[1], $p[2]])]), ['uv-stretch caution'], sqrt((5 + 1 / 5) / 2), ['part' => 'a_low']];
        yield 'texel-density' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.7, 0.22, 0.9], 12, 1 / 0.6)]), ['texel-density note'], 0.6, ['part' => 'b_low']];
        yield 'texel-density twice off' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.7, 0.22, 0.9], 12, 1 / 0.4)]), ['texel-density caution'], 0.4, ['part' => 'b_low']];
        yield 'texel-density by the standard' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)], '{"texelDensity":100}'), ['texel-density caution'], 2.048, ['part' => 'a_low']];
        // Grooves 0.3 texel wide on two fifths of a board, two texels apart.
        yield 'texel-coarse' => [static fn (): Report => self::grooved(0.004), ['texel-coarse caution'], null, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'uv-use' => [static fn (): Report => self::report(['a_low' => self::board([0.1, 0.1, 0.7, 0.6])]), ['uv-use note'], 0.3, ['page' => 'plain']];
        yield 'uv-turned' => [static fn (): Report => self::report(['a_low' => self::spun(self::board([0.2, 0.12, 0.8, 0.88], 0), 12)], '{"upright":true,"checks":{"uv-use":{"severity":"off"}}}'), ['uv-turned note'], 12.0, ['part' => 'a_low']];
        // A board of 2 × 2 behind one of 4 × 4 in a closed box of its own.
        yield 'page-hidden' => [static fn (): Report => self::hidden(0.55), ['page-hidden note'], null, ['page' => 'plain']];
        yield 'hard-no-seam' => [static fn (): Report => self::report(['a_low' => self::fold([90])], self::NO_USE), ['hard-no-seam blocker'], 1.0, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'hard-no-seam by smoothing groups' => [static fn (): Report => self::report(['a_low' => self::grouped(self::fold([30])->mesh(180), [1, 1, 2, 2])], self::NO_USE), ['hard-no-seam blocker'], 1.0, ['part' => 'a_low']];
        yield 'seam-not-hard' => [static fn (): Report => self::report(['a_low' => self::fold([70, 90], [true, true])->mesh(80)], self::NO_USE), ['seam-not-hard note'], 1.0, ['part' => 'a_low']];
        yield 'soft-over-sharp' => [static fn (): Report => self::report(['a_low' => self::fold([100, 110], [false, true])->mesh(105)], self::NO_USE), ['soft-over-sharp caution'], 1.0, ['part' => 'a_low']];
        yield 'soft-over-sharp, all smooth' => [static fn (): Report => self::report(['a_low' => self::fold([100])->mesh(180)], self::NO_USE), ['soft-over-sharp note'], 1.0, ['part' => 'a_low']];
        // r(1 − cos(π/n)) for a radius of 1 over 8 sides, which is 0.0761, by the density of its sides.
        yield 'rim-wave' => [static fn (): Report => self::round(8, '{"checks":{"silhouette-loss":{"severity":"off"},"uv-turned":{"severity":"off"}}}'), ['rim-wave caution'], null, ['part' => 'a_low']];
        yield 'silhouette-loss' => [static fn (): Report => self::round(8, '{"checks":{"rim-wave":{"severity":"off"},"uv-turned":{"severity":"off"}}}'), ['silhouette-loss note'], 1 - cos(M_PI / 8), ['part' => 'a_low']];
    }

    /**
     * @return iterable<string, array{Closure(): Report}>
     */
    public static function inside(): iterable
    {
        $px = 1 / self::SIZE;
        yield 'uv-missing' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)])];
        yield 'uv-overlap' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.6191, 0.22, 0.9], 12)])];
        yield 'uv-overlap, a whole page away' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([1.02, 0.3, 1.22, 0.6], 12)])];
        yield 'uv-overlap, declared' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.3, 0.22, 0.6], 12)], '{}', '{"mirrored":["b*"]}')];
        yield 'uv-overlap, on two pages' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board(self::MAIN, 12)->mesh(40, [[0, 'other']])])];
        yield 'uv-degenerate' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)->with(self::sliver(1e-6))])];
        yield 'uv-mirrored' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)])];
        yield 'uv-padding' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.62 + 8.01 * $px, 0.22, 0.9], 12)])];
        yield 'uv-padding, between arms' => [static fn (): Report => self::report(['a_low' => self::fork(8.01 * $px)])];
        // 6 px wide and long: its own two sides are no arms, since the island itself lies between them.
        yield 'uv-padding, a thin strip' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)->with(self::board([0.02, 0.7, 0.9, 0.7 + 6 * $px], 12))])];
        // The UVs of both sides of a cut lie a hair apart; on the model they are one edge.
        yield 'uv-padding, a slit' => [static fn (): Report => self::report(['a_low' => self::slit(0.8 * $px)])];
        yield 'uv-border' => [static fn (): Report => self::report(['a_low' => self::board([4.01 * $px, 0.02, 0.98, 0.62])])];
        yield 'uv-stretch' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)->mapped(static fn (array $p): array => [4.2 * $p[0], $p[1], $p[2]])])];
        yield 'texel-density' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN), 'b_low' => self::board([0.02, 0.7, 0.22, 0.9], 12, 1 / 0.76)])];
        yield 'texel-coarse' => [static fn (): Report => self::grooved(0.08)];
        yield 'uv-use' => [static fn (): Report => self::report(['a_low' => self::board(self::MAIN)])];
        yield 'uv-turned' => [static fn (): Report => self::report(['a_low' => self::spun(self::board([0.2, 0.12, 0.8, 0.88], 0), 9.5)], '{"upright":true}')];
        yield 'page-hidden' => [static fn (): Report => self::hidden(0.05)];
        yield 'page-hidden, on a page of its own' => [static fn (): Report => self::hidden(0.55, true)];
        yield 'hard-no-seam' => [static fn (): Report => self::report(['a_low' => self::fold([90], [true])])];
        yield 'hard-no-seam, all smooth' => [static fn (): Report => self::report(['a_low' => self::fold([90])->mesh(180)])];
        yield 'seam-not-hard' => [static fn (): Report => self::report(['a_low' => self::fold([59, 90], [true, true])->mesh(80)])];
        yield 'seam-not-hard, all smooth' => [static fn (): Report => self::report(['a_low' => self::fold([70], [true])->mesh(180)])];
        yield 'soft-over-sharp' => [static fn (): Report => self::report(['a_low' => self::fold([88, 110], [false, true])->mesh(105)])];
        yield 'rim-wave' => [static fn (): Report => self::round(96)];
        yield 'rim-wave, a hexagon with rounded corners' => [static fn (): Report => Assets::report(['a_low' => Shapes::cylinder(1, 1, 6)], ['a_high' => self::hexagon()])];
        yield 'silhouette-loss' => [static fn (): Report => self::round(16)];
    }

    private const NO_USE = '{"checks":{"uv-use":{"severity":"off"}}}';

    /**
     * @param  array<string, Polygons|Mesh>  $low  each is its own high, cut finer
     */
    private static function report(array $low, string $standard = '{}', string $choices = '{}'): Report
    {
        $high = [];
        foreach ($low as $name => $shape) {
            $high[str_replace('_low', '_high', $name)] = $shape instanceof Mesh ? $shape : $shape->triangulated();
        }

        return Assets::report($low, $high, $standard, $choices);
    }

    /**
     * A board that stands at `x`, ten units to a page.
     *
     * @param  array{float, float, float, float}  $on  its rectangle of the page
     */
    private static function board(array $on, float $x = 0.0, float $scale = 1.0): Polygons
    {
        [$u0, $v0, $u1, $v1] = $on;
        $w = 10 * $scale * ($u1 - $u0);
        $h = 10 * $scale * ($v1 - $v0);

        return new Polygons([[$x, 0.0, 0.0], [$x + $w, 0.0, 0.0], [$x + $w, $h, 0.0], [$x, $h, 0.0]], [[0, 1, 2, 3]], [[[$u0, $v0], [$u1, $v0], [$u1, $v1], [$u0, $v1]]]);
    }

    /** A triangle whose UVs lie on one line, or nearly. */
    private static function sliver(float $open = 0.0): Polygons
    {
        return new Polygons([[12.0, 0.0, 0.0], [13.0, 0.0, 0.0], [12.0, 1.0, 0.0]], [[0, 1, 2]], [[[0.7, 0.8], [0.8, 0.8], [0.75, 0.8 + $open]]]);
    }

    private static function mirrored(Polygons $shape): Polygons
    {
        return new Polygons($shape->points, $shape->faces, array_map(static fn (array $face): array => array_map(static fn (array $c): array => [0.3 - $c[0], $c[1]], $face), $shape->uvs));
    }

    /** Its UVs turned about the middle of the page, in degrees. */
    private static function spun(Polygons $shape, float $degrees): Polygons
    {
        [$c, $s] = [cos(deg2rad($degrees)), sin(deg2rad($degrees))];

        return new Polygons($shape->points, $shape->faces, array_map(static fn (array $face): array => array_map(static fn (array $p): array => [0.5 + $c * ($p[0] - 0.5) - $s * ($p[1] - 0.5), 0.5 + $s * ($p[0] - 0.5) + $c * ($p[1] - 0.5)], $face), $shape->uvs));
    }

    /** One island with two prongs a gap apart, 0.3 of the page long. */
    private static function fork(float $gap): Polygons
    {
        $u = [0.02, 0.5, 0.5 + $gap, 0.98];
        $v = [0.02, 0.5, 0.8];
        $points = $uvs = [];
        foreach ($v as $y) {
            foreach ($u as $x) {
                $points[] = [10 * $x, 10 * $y, 0.0];
                $uvs[] = [$x, $y];
            }
        }
        $faces = [[0, 1, 5, 4], [1, 2, 6, 5], [2, 3, 7, 6], [4, 5, 9, 8], [6, 7, 11, 10]];

        return new Polygons($points, $faces, array_map(static fn (array $face): array => array_map(static fn (int $k): array => $uvs[$k], $face), $faces));
    }

    /** A flat island cut along half of its middle, opened in UV by so much at the end of the cut. */
    private static function slit(float $open): Polygons
    {
        $points = $faces = $uvs = [];
        $rows = [0.02, 0.3, 0.5, 0.7];
        foreach ($rows as $v) {
            foreach ([0.02, 0.5, 0.98] as $u) {
                $points[] = [10 * $u, 10 * $v, 0.0];
            }
        }
        $at = static fn (int $k, bool $right): array => [$points[$k][0] / 10 + ($right && $k % 3 === 1 ? $open * max(0, intdiv($k, 3) - 1) / 2 : 0.0), $points[$k][1] / 10];
        for ($r = 0; $r < 3; $r++) {
            foreach ([0, 1] as $side) {
                $k = 3 * $r + $side;
                $face = [$k, $k + 1, $k + 4, $k + 3];
                $faces[] = $face;
                $uvs[] = array_map(static fn (int $v): array => $at($v, $side === 1), $face);
            }
        }

        return new Polygons($points, $faces, $uvs);
    }

    /**
     * Strips of 2 × 3 folded one after another by these angles.
     *
     * @param  list<float|int>  $angles
     * @param  list<bool>  $cut  whether the UVs are split at each fold
     */
    private static function fold(array $angles, array $cut = []): Polygons
    {
        $points = [[0.0, 0.0, 0.0], [0.0, 3.0, 0.0]];
        $faces = $uvs = [];
        [$x, $z, $way, $u] = [0.0, 0.0, 0.0, 0.05];
        foreach ([0.0, ...$angles] as $k => $angle) {
            $way += $angle;
            $u += $k > 0 && ($cut[$k - 1] ?? false) ? 0.02 : 0.0;
            $x += 2 * cos(deg2rad($way));
            $z -= 2 * sin(deg2rad($way));
            $n = count($points);
            array_push($points, [$x, 0.0, $z], [$x, 3.0, $z]);
            $faces[] = [$n - 2, $n, $n + 1, $n - 1];
            $uvs[] = [[$u, 0.1], [$u + 0.2, 0.1], [$u + 0.2, 0.4], [$u, 0.4]];
            $u += 0.2;
        }

        return new Polygons($points, $faces, $uvs);
    }

    /**
     * @param  list<int>  $groups  a triangle
     */
    private static function grouped(Mesh $m, array $groups): Mesh
    {
        return new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, [], [], [], $m->faces, ['plain'], [[0, 0]], $groups);
    }

    /** A board of 9.6 × 6 with V-shaped grooves of a width over two fifths of it. */
    private static function grooved(float $width): Report
    {
        $points = [];
        $across = [];
        for ($x = 0.0; $x < 9.6 - 1e-9; $x += 0.1) {
            $across[] = [$x, 0.0];
            if ($x > 1.0 && $x < 4.9) {
                $across[] = [$x + 0.05 - $width / 2, 0.0];
                $across[] = [$x + 0.05, -$width / 2];
                $across[] = [$x + 0.05 + $width / 2, 0.0];
            }
        }
        $across[] = [9.6, 0.0];
        foreach ($across as [$x, $z]) {
            array_push($points, [$x, 0.0, $z], [$x, 6.0, $z]);
        }
        $faces = [];
        for ($i = 0; $i + 1 < count($across); $i++) {
            $faces[] = [2 * $i, 2 * $i + 2, 2 * $i + 3, 2 * $i + 1];
        }

        return Assets::report(['a_low' => self::board(self::MAIN)], ['a_high' => new Polygons($points, $faces)], '{"mapSize":512}');
    }

    /** A closed box of which a share of one side stands behind a box of its page, at a hair's distance. */
    private static function hidden(float $share, bool $apart = false): Report
    {
        $low = ['a_low' => Shapes::box(2, 2, 2)->placed(0, 0, 0.48), 'b_low' => Shapes::box(2 * $share, 2, 2)->moved(1 - $share, 0, 2.001)->placed(0.5, 0, 0.48)];
        $meshes = [$low['a_low']->mesh(), $apart ? $low['b_low']->mesh(40, [[0, 'other']]) : $low['b_low']->mesh()];

        return Assets::report(
            ['a_low' => $meshes[0], 'b_low' => $meshes[1]], ['a_high' => Shapes::box(2, 2, 2, 3), 'b_high' => Shapes::box(2 * $share, 2, 2, 3)->moved(1 - $share, 0, 2.001)],
            '{"checks":{"uv-turned":{"severity":"off"},"uv-use":{"severity":"off"},"uv-padding":{"severity":"off"},"uv-border":{"severity":"off"},"texel-density":{"severity":"off"},"uv-stretch":{"severity":"off"}}}',
        );
    }

    private static function round(int $sides, string $standard = '{}'): Report
    {
        return Assets::report(array_map(static fn (Polygons $one): Mesh => $one->mesh(50), Atlas::packed(['a_low' => Shapes::cylinder(1, 1, $sides)])), ['a_high' => Shapes::cylinder(1, 1, 192)], $standard);
    }

    /** A hexagonal prism with rounded corners, which has no rim that bows out. */
    private static function hexagon(): Polygons
    {
        $points = $faces = [];
        for ($k = 0; $k < 6; $k++) {
            for ($j = 0; $j <= 6; $j++) {
                // An arc of radius 0.2 in each corner of a hexagon of radius 1.
                $middle = 1 - 0.2 / cos(M_PI / 6);
                $angle = deg2rad(60 * $k);
                $arc = $angle + deg2rad(-30 + 10 * $j);
                $points[] = [$middle * cos($angle) + 0.2 * cos($arc), -0.5, -$middle * sin($angle) - 0.2 * sin($arc)];
                $points[] = [$middle * cos($angle) + 0.2 * cos($arc), 0.5, -$middle * sin($angle) - 0.2 * sin($arc)];
            }
        }
        $n = intdiv(count($points), 2);
        for ($i = 0; $i < $n; $i++) {
            $next = ($i + 1) % $n;
            $faces[] = [2 * $i, 2 * $next, 2 * $next + 1, 2 * $i + 1];
        }
        $faces[] = array_map(static fn (int $i): int => 2 * $i + 1, range(0, $n - 1));
        $faces[] = array_map(static fn (int $i): int => 2 * $i, range($n - 1, 0));

        return new Polygons($points, $faces);
    }
}
