<?php

declare(strict_types=1);

namespace Anvil\Tests\Proof;

use Anvil\Geometry\Mesh;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Proof\CornerNormals;
use Anvil\Proof\MapPng;
use Anvil\Proof\PageRaster;
use Anvil\Proof\PageRuns;
use Anvil\Proof\ProofPage;
use Anvil\Proof\Sky;
use Anvil\Proof\Tangents;
use Anvil\Proof\TrialBake;
use Anvil\Proof\TrialMaps;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\Outside;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Trial maps against closed forms, and against what another program reads of them.
 */
#[Group('matrix')]
final class TrialBakeTest extends TestCase
{
    /**
     * @param  array<string, Polygons|Mesh>  $low
     * @param  array<string, Polygons|Mesh>  $high
     */
    public static function measures(array $low, array $high, string $standard = '{}', string $choices = '{}'): Measures
    {
        return Assets::report($low, $high, $standard, $choices)->measures;
    }

    /**
     * @param  list<string>  $kinds
     */
    private static function bake(Measures $measures, int $size, array $kinds, int $samples = 1, int $directions = 64): TrialMaps
    {
        $page = ProofPage::of($measures->asset)[0];

        return (new TrialBake($measures->common()->trialInputs(), directions: $directions))->page($page, $size, $samples, $kinds);
    }

    /**
     * @param  array{int, int, int}  $rgb
     */
    private static function colored(Mesh $mesh, array $rgb): Mesh
    {
        $colors = [];
        for ($v = 0, $n = $mesh->vertexCount(); $v < $n; $v++) {
            array_push($colors, $rgb[0] / 255, $rgb[1] / 255, $rgb[2] / 255);
        }

        return new Mesh($mesh->positions, $mesh->triangles, $mesh->uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals, $colors);
    }

    /** A board of 2 × 2, its UVs over the whole page but a rim. */
    private static function board(float $uv = 0.96): Polygons
    {
        return Shapes::sheet(2, 2)->placed(0.5 - $uv / 2, 0.5 - $uv / 2, $uv / 0.92, $uv / 0.92)->placed(-0.04 * $uv / 0.92, -0.04 * $uv / 0.92, 1.0);
    }

    /**
     * A surface y = a·sin(kx)·sin(kz) over a flat board: its normal is (−∂y/∂x, 1, −∂y/∂z) made unit, its height a sin sin over the reach; U runs along x, V along −z.
     * The closed form itself, at every texel, to the rounding of its own triangles.
     */
    public function test_a_known_bump_gives_its_normals_and_heights(): void
    {
        [$a, $k] = [0.05, 4.0];
        $waves = Shapes::sheet(2, 2, 320, 320)->mapped(static fn (array $p): array => [$p[0], $a * sin($k * $p[0]) * sin($k * $p[2]), $p[2]])->triangulated()->mesh(180);
        $measures = self::measures(['a_low' => self::board()], ['a_high' => $waves], '{"reach":{"*":{"out":0.1,"in":0.1}}}');
        $maps = self::bake($measures, 64, ['normal', 'height']);
        self::assertGreaterThan(3600, $maps->inside());
        self::assertSame(0.0, $maps->share(255) + $maps->share(128));
        $worst = $high = 0.0;
        foreach ($maps->normal as $texel => [$x, $y, $z]) {
            [$u, $v] = [($texel % 64 + 0.5) / 64, 1 - (intdiv($texel, 64) + 0.5) / 64];
            [$px, $pz] = [2 * ($u - 0.5) / 0.96, -2 * ($v - 0.5) / 0.96];
            [$dx, $dz] = [$a * $k * cos($k * $px) * sin($k * $pz), $a * $k * sin($k * $px) * cos($k * $pz)];
            $length = sqrt($dx * $dx + 1 + $dz * $dz);
            $worst = max($worst, abs($x + $dx / $length), abs($y - $dz / $length), abs($z - 1 / $length));
            $high = max($high, abs($maps->height[$texel] - $a * sin($k * $px) * sin($k * $pz) / 0.1));
        }
        // Half a step of 8 bits is 1/255 of −1…1.
        self::assertLessThan(1 / 255, $worst);
        self::assertLessThan(1 / 255, $high);
        $down = self::bake(self::measures(['a_low' => self::board()], ['a_high' => $waves], '{"greenChannel":"-Y","reach":{"*":{"out":0.1,"in":0.1}}}'), 64, ['normal']);
        foreach ($maps->normal as $texel => [$x, $y, $z]) {
            self::assertEqualsWithDelta(-$y, $down->normal[$texel][1], 1e-12);
        }
    }

    /**
     * A coarse smooth ball under a bumpy one, lit as three.js does it (npm `three`, its tangent frame per vertex) with the map as it is written, 8 bits a channel: the high poly's own normals,
     * by closed form, to a median of 2°.
     */
    public function test_a_map_lit_in_three_shows_the_normals_of_the_high_poly(): void
    {
        $bump = static fn (array $p): float => 1.04 + 0.03 * sin(7 * $p[0]) * cos(6 * $p[1]) + 0.02 * sin(5 * $p[2]);
        $high = Shapes::sphere(1, 90, 180)->mapped(static fn (array $p): array => [$bump($p) * $p[0], $bump($p) * $p[1], $bump($p) * $p[2]])->triangulated()->mesh(180);
        $low = Shapes::sphere(1, 10, 16)->triangulated()->mesh(180);
        $measures = self::measures(['a_low' => $low], ['a_high' => $high], '{"reach":{"*":{"out":0.2,"in":0.1}}}');
        $page = ProofPage::of($measures->asset)[0];
        $size = 96;
        $maps = (new TrialBake($measures->common()->trialInputs()))->page($page, $size, 1, ['normal', 'rays']);
        $mesh = $page->parts[0]->part->mesh;
        $normals = CornerNormals::of($mesh);
        $tangents = Tangents::of($mesh, $normals);
        $triangles = [];
        foreach ($page->triangles as $number => $t) {
            $triangles[] = ['normals' => [...$normals->corner($t, 0), ...$normals->corner($t, 1), ...$normals->corner($t, 2)], 'tangents' => array_slice($tangents, 12 * $t, 12), 'uvs' => array_slice($page->uvs, 6 * $number, 6)];
        }
        // The gradient of r − bump(p/r), by differences.
        $level = static function (float $x, float $y, float $z) use ($bump): float {
            $r = sqrt($x * $x + $y * $y + $z * $z);

            return $r - $bump([$x / $r, $y / $r, $z / $r]);
        };
        $texels = [];
        foreach ($maps->normal as $texel => $n) {
            [, , , $x, $y, $z] = $maps->rays[$texel];
            $e = 1e-5;
            $g = [$level($x + $e, $y, $z) - $level($x - $e, $y, $z), $level($x, $y + $e, $z) - $level($x, $y - $e, $z), $level($x, $y, $z + $e) - $level($x, $y, $z - $e)];
            $byte = static fn (float $one): float => round(($one + 1) / 2 * 255) / 255 * 2 - 1;
            $texels[] = ['triangle' => $maps->owners[$texel], 'u' => ($texel % $size + 0.5) / $size, 'v' => 1 - (intdiv($texel, $size) + 0.5) / $size, 'map' => array_map($byte, $n), 'expected' => $g];
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-lit');
        file_put_contents($path, json_encode(['triangles' => $triangles, 'texels' => $texels], JSON_THROW_ON_ERROR));
        $lit = Outside::node('lit.mjs', [$path]);
        unlink($path);
        self::assertGreaterThan(5000, $lit['texels']);
        self::assertLessThan(2.0, $lit['median']);
        self::assertLessThan(6.0, $lit['p95']);
    }

    /** A finer ball around a coarser one, both smooth: the map is flat to the angle between their smooth normals, and heights are the difference of radii. */
    public function test_concentric_spheres_come_out_flat(): void
    {
        $measures = self::measures(['a_low' => Shapes::sphere(1, 32, 64)->triangulated()->mesh(180)], ['a_high' => Shapes::sphere(1.03, 64, 128)->triangulated()->mesh(180)], '{"reach":{"*":{"out":0.06,"in":0.06}}}');
        $maps = self::bake($measures, 64, ['normal', 'height', 'ao']);
        $heights = $tilts = [];
        foreach ($maps->normal as $texel => [, , $z]) {
            $tilts[] = rad2deg(acos(min(1.0, $z)));
            $heights[] = 0.06 * $maps->height[$texel];
            self::assertSame(1.0, $maps->ao[$texel], 'nothing shades a ball from outside');
        }
        sort($tilts);
        sort($heights);
        self::assertLessThan(0.5, $tilts[intdiv(count($tilts), 2)]);
        self::assertLessThan(2.0, $tilts[(int) (0.99 * count($tilts))]);
        self::assertEqualsWithDelta(0.03, $heights[intdiv(count($heights), 2)], 0.001);
    }

    /**
     * The share of the sky, weighted by its cosine, over a point of a wall's foot at distance x from a wall of height h that is endless: the form factor of
     * the strip is (1 − x/√(x²+h²))/2 (J. R. Howell, "A Catalog of Radiation Heat Transfer Configuration Factors", A strip at right angles). A corner of two
     * endless planes: 1/2; of three: 1/4 near it; the middle of a groove of width w and depth h: w/√(w²+4h²).
     *
     * @return iterable<string, array{Mesh, array{float, float, float}, float}>
     */
    public static function skies(): iterable
    {
        $far = 400.0;
        $floor = Shapes::sheet(2 * $far, 2 * $far);
        $wall = static fn (float $x, float $height, float $sign): Polygons => Shapes::sheet($height, 2 * $far)->turned(2, 90)->moved($x, $height / 2, 0);
        yield 'beside an endless wall' => [$floor->with($wall(0.0, $far * 40, 1.0))->triangulated()->mesh(10), [1e-3, 0.0, 0.3], 0.5];
        yield 'at a wall as high as far' => [$floor->with($wall(0.0, 1.0, 1.0))->triangulated()->mesh(10), [1.0, 0.0, 0.3], 1 - (1 - 1 / sqrt(2)) / 2];
        yield 'in a corner of three' => [$floor->with($wall(0.0, $far * 40, 1.0))->with($wall(0.0, $far * 40, 1.0)->turned(1, 90))->triangulated()->mesh(10), [1e-3, 0.0, 1e-3], 0.25];
        yield 'in the middle of a groove' => [$floor->with($wall(-0.5, 1.5, 1.0))->with($wall(0.5, 1.5, 1.0))->triangulated()->mesh(10), [0.0, 0.0, 0.3], 1 / sqrt(1 + 4 * 1.5 ** 2)];
    }

    /**
     * @param  array{float, float, float}  $at
     */
    #[DataProvider('skies')]
    public function test_occlusion_is_that_of_the_closed_form(Mesh $shape, array $at, float $expected): void
    {
        $sky = new Sky([[TriangleTree::of($shape->positions, $shape->triangles), [0.0, 0.0, 0.0]]], $shape->bounds(), 256);
        self::assertEqualsWithDelta($expected, $sky->seen($at[0], 1e-6, $at[2], 0.0, 1.0, 0.0), 0.02);
        // Moved with the tree's own offset it is the same.
        $moved = new Sky([[TriangleTree::of($shape->positions, $shape->triangles), [5.0, 6.0, 7.0]]], $shape->bounds(), 256);
        self::assertEqualsWithDelta($expected, $moved->seen($at[0] + 5, 6 + 1e-6, $at[2] + 7, 0.0, 1.0, 0.0), 0.02);
    }

    /** The directions are those of METHODS, one by one: what stands is found out by plain rays against every triangle. */
    public function test_occlusion_is_the_weighted_share_of_its_directions(): void
    {
        $shape = Shapes::roundedBox(2, 1, 2, 0.2, 3)->with(Shapes::torus(1.5, 0.3, 20, 12)->moved(0, 0.9, 0))->triangulated()->mesh(60);
        $tree = TriangleTree::fine($shape->positions, $shape->triangles);
        $sky = new Sky([[$tree, [0.0, 0.0, 0.0]]], $shape->bounds());
        $cast = new SegmentCast($tree);
        mt_srand(14);
        for ($i = 0; $i < 200; $i++) {
            [$x, $y, $z] = [mt_rand(-200, 200) / 100, mt_rand(-100, 200) / 100, mt_rand(-200, 200) / 100];
            [$nx, $ny, $nz] = [mt_rand(-100, 100), mt_rand(-100, 100), mt_rand(1, 100)];
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            [$nx, $ny, $nz] = [$nx / $length, $ny / $length, $nz / $length];
            $a = abs($ny) > 0.9 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
            $u = [$a[1] * $nz - $a[2] * $ny, $a[2] * $nx - $a[0] * $nz, $a[0] * $ny - $a[1] * $nx];
            $length = sqrt($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2);
            $u = [$u[0] / $length, $u[1] / $length, $u[2] / $length];
            $v = [$ny * $u[2] - $nz * $u[1], $nz * $u[0] - $nx * $u[2], $nx * $u[1] - $ny * $u[0]];
            $free = $all = 0.0;
            for ($k = 0; $k < 64; $k++) {
                $up = ($k + 0.5) / 64;
                $r = sqrt(1 - $up * $up);
                [$c, $s] = [$r * cos(deg2rad($k * 137.508)), $r * sin(deg2rad($k * 137.508))];
                $all += $up;
                $free += $cast->any($x, $y, $z, $c * $u[0] + $s * $v[0] + $up * $nx, $c * $u[1] + $s * $v[1] + $up * $ny, $c * $u[2] + $s * $v[2] + $up * $nz, 0.0, 100.0) ? 0.0 : $up;
            }
            self::assertEqualsWithDelta($free / $all, $sky->seen($x, $y, $z, $nx, $ny, $nz), 1e-9, "place $i");
        }
    }

    /** What shades a set is what the choices say; an exploded layout takes the neighbour's shade away, and that is the loss. */
    public function test_what_shades_a_set_is_a_choice(): void
    {
        $low = ['a_low' => self::board(), 'b_low' => Shapes::box(0.5, 1, 0.5)->moved(0, 0.52, 0)];
        $high = ['a_high' => self::board()->triangulated(), 'b_high' => Shapes::box(0.5, 1, 0.5, 3)->moved(0, 0.52, 0)];
        $mean = static function (string $choices) use ($low, $high): float {
            $measures = self::measures($low, $high, '{"pages":"udim"}', $choices);
            $page = ProofPage::of($measures->asset)[0];
            $ao = [];
            $maps = (new TrialBake($measures->common()->trialInputs()))->page($page, 32, 1, ['ao']);
            foreach ($maps->ao as $texel => $value) {
                if ($page->partOf[$maps->owners[$texel]] === 0) {
                    $ao[] = $value;
                }
            }

            return array_sum($ao) / count($ao);
        };
        self::assertSame(1.0, $mean('{}'), 'by its own set alone nothing shades a board');
        $all = $mean('{"occlusion":"all"}');
        self::assertLessThan(0.97, $all);
        self::assertSame($all, $mean('{"occlusion":{"a":["b"]}}'));
        self::assertSame(1.0, $mean('{"occlusion":{"b":["a"]}}'));
    }

    /** Every texel has the triangle that a plain test of every triangle gives it: the lowest of those that hold its centre. */
    public function test_a_page_is_laid_out_as_a_plain_test_of_each_texel_does(): void
    {
        mt_srand(20261129);
        for ($round = 0; $round < 40; $round++) {
            $size = [16, 33, 64][$round % 3];
            $uvs = [];
            for ($t = 0; $t < 30; $t++) {
                for ($c = 0; $c < 6; $c++) {
                    // Half of them with corners on centres and edges of texels.
                    $uvs[] = $round % 2 === 0 ? mt_rand(0, 2 * $size) / (2 * $size) : mt_rand(-1000, 11000) / 10000;
                }
            }
            $owners = PageRaster::owners($uvs, $size);
            self::assertSame($owners, self::fromRuns($uvs, $size), 'as runs');
            for ($y = 0; $y < $size; $y++) {
                for ($x = 0; $x < $size; $x++) {
                    [$u, $v] = [($x + 0.5) / $size, 1 - ($y + 0.5) / $size];
                    $expected = -1;
                    $doubt = false;
                    for ($t = 0; $t < 30 && $expected < 0; $t++) {
                        [$ax, $ay, $bx, $by, $cx, $cy] = array_slice($uvs, 6 * $t, 6);
                        $area = ($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax);
                        if ($area === 0.0) {
                            continue;
                        }
                        $sides = [];
                        foreach ([[$ax, $ay, $bx, $by], [$bx, $by, $cx, $cy], [$cx, $cy, $ax, $ay]] as [$px, $py, $qx, $qy]) {
                            $sides[] = ($area > 0 ? 1 : -1) * (($qx - $px) * ($v - $py) - ($qy - $py) * ($u - $px));
                        }
                        $doubt = $doubt || (abs(min($sides)) < 1e-12 && $size === 33);
                        $expected = min($sides) >= 0.0 ? $t : -1;
                    }
                    if (! $doubt) {
                        self::assertSame($expected, $owners[$y * $size + $x], "round $round, $x $y");
                    }
                }
            }
        }
    }

    /** Kept as runs a page is as it is laid out: of many triangles, of copies that lie on each other in any order, of triangles inside others. */
    public function test_runs_of_a_page_are_the_page(): void
    {
        mt_srand(15);
        $uvs = [];
        for ($i = 0; $i < 2100; $i++) {
            [$u, $v] = [mt_rand(0, 1000) / 1000, mt_rand(0, 1000) / 1000];
            array_push($uvs, $u, $v, $u + 0.03, $v, $u, $v + 0.04);
        }
        $triangles = array_chunk($uvs, 6);
        shuffle($triangles);
        $copies = array_merge($uvs, ...$triangles);
        $nested = [];
        foreach ([0.1, 0.4, 0.2, 0.8, 0.6, 0.3, 0.05, 0.9] as $half) {
            array_push($nested, 0.5 - $half / 2, 0.5 - $half / 2, 0.5 + $half / 2, 0.5 - $half / 2, 0.5 + $half / 2, 0.5 + $half / 2);
            array_push($nested, 0.5 - $half / 2, 0.5 - $half / 2, 0.5 + $half / 2, 0.5 + $half / 2, 0.5 - $half / 2, 0.5 + $half / 2);
        }
        foreach ([[$uvs, 100], [$copies, 100], [$nested, 64], [array_reverse($nested), 61], [[], 4], [[0.0, 0.0, 1.0, 0.0, 0.0, 1.0], 1]] as [$page, $size]) {
            self::assertSame(PageRaster::owners($page, $size), self::fromRuns($page, $size));
        }
        self::assertSame(4096, PageRuns::of([0.0, 0.0, 2.0, 0.0, 0.0, 2.0], 4096)->inside / 4096);
        self::assertSame(0, PageRuns::of([0.0, 0.0, 2.0, 0.0, 0.0, 2.0], 4096)->at(4095, 4095));
    }

    /**
     * @param  list<float>  $uvs
     * @return list<int> the owner of each texel, as runs tell it
     */
    private static function fromRuns(array $uvs, int $size): array
    {
        $runs = PageRuns::of($uvs, $size);
        $out = [];
        for ($y = 0; $y < $size; $y++) {
            for ($x = 0; $x < $size; $x++) {
                $out[] = $runs->at($x, $y);
            }
        }
        self::assertSame(count(array_filter($out, static fn (int $one): bool => $one >= 0)), $runs->inside);

        return $out;
    }

    /** Two triangles that share an edge leave no texel between them, wherever it lies. */
    public function test_no_texel_falls_between_two_triangles(): void
    {
        mt_srand(5);
        for ($round = 0; $round < 300; $round++) {
            $at = static fn (): float => (float) (mt_rand(0, 1_000_000) / 1_000_000);
            [$x0, $y0, $x1, $y1] = [0.0, $at(), 1.0, $at()];
            // Both halves of the page over a slanting edge.
            $uvs = [$x0, $y0, $x1, $y1, 0.5, 3.0, $x1, $y1, $x0, $y0, 0.5, -3.0];
            $owners = PageRaster::owners($uvs, 37);
            $open = count(array_filter($owners, static fn (int $owner): bool => $owner < 0));
            $plain = 0;
            foreach ($owners as $i => $owner) {
                [$u, $v] = [($i % 37 + 0.5) / 37, 1 - (intdiv($i, 37) + 0.5) / 37];
                // Near the slanting edge, far from the two tips.
                $plain += $owner < 0 && abs($v - ($y0 + ($y1 - $y0) * $u)) < 0.02 && $u > 0.05 && $u < 0.95 ? 1 : 0;
            }
            self::assertSame(0, $plain, "round $round of $open outside");
        }
    }

    /** What hangs over the border of the first tile is baked as far as it lies in it; what is moved by whole tiles is not, but where nothing else is there, or each tile is a page. */
    public function test_pages_are_the_first_tile_or_each_tile(): void
    {
        $high = ['a_high' => Shapes::sheet(2, 2, 4, 4)];
        $pages = static fn (Polygons $low, string $standard = '{}'): array => array_map(
            static fn (ProofPage $page): array => [$page->name, count(array_filter(PageRaster::owners($page->uvs, 50), static fn (int $one): bool => $one >= 0))],
            ProofPage::of(self::measures(['a_low' => $low], $high, $standard)->asset),
        );
        // U from 0.04 to 0.96, moved by 0.24: 0.28 to 1 lies in the tile; 36 of 50 columns, 46 rows.
        self::assertSame([['plain', 36 * 46]], $pages(Shapes::sheet(2, 2)->placed(0.24, 0, 1)));
        self::assertSame([['plain', 36 * 46]], $pages(Shapes::sheet(2, 2)->placed(-0.24, 0, 1)));
        self::assertSame([['plain', 46 * 46]], $pages(Shapes::sheet(2, 2)->placed(3, -1, 1)));
        $two = Shapes::sheet(2, 2)->placed(0, 0, 0.5)->with(Shapes::sheet(2, 2)->moved(0, 1, 0)->placed(1, 0, 1));
        self::assertSame([['plain', 23 * 23]], $pages($two));
        self::assertSame([['plain 1001', 23 * 23], ['plain 1002', 46 * 46]], $pages($two, '{"pages":"udim"}'));
    }

    /** PNG of every kind passes `pngcheck` and is read by npm's pngjs as it was meant: sizes, bits, no color space on data, padding, neutral values. */
    public function test_maps_are_read_back_by_another_decoder(): void
    {
        $measures = self::measures(['a_low' => self::board(0.5)], ['a_high' => self::colored(Shapes::sheet(2, 2, 8, 8)->mapped(static fn (array $p): array => [$p[0], 0.02 * sin(5 * $p[0]), $p[2]])->triangulated()->mesh(180), [0xE8, 0x11, 0x2D])], '{"mapSize":512}');
        $maps = self::bake($measures, 64, TrialMaps::KINDS, 4);
        $folder = sys_get_temp_dir().'/anvil-maps-'.bin2hex(random_bytes(4));
        mkdir($folder);
        foreach (TrialMaps::KINDS as $kind) {
            file_put_contents("$folder/$kind.png", MapPng::of($maps, $kind, 3.0, 16));
            self::assertStringContainsString('OK:', (string) shell_exec('pngcheck '.escapeshellarg("$folder/$kind.png")), $kind);
        }
        /** @var array<string, array{width: int, height: int, depth: int, srgb: bool, pixels: list<int>}> $read */
        $read = Outside::node('pngs.mjs', [$folder]);
        foreach (['normal' => 16, 'height' => 16, 'ao' => 8, 'id' => 8, 'miss' => 8] as $kind => $depth) {
            self::assertSame([64, 64, $depth, $kind === 'id'], [$read[$kind]['width'], $read[$kind]['height'], $read[$kind]['depth'], $read[$kind]['srgb']], $kind);
        }
        $at = static fn (string $kind, int $x, int $y): array => array_slice($read[$kind]['pixels'], 4 * (64 * $y + $x), 4);
        // The board covers texels 16 to 47; 3 px of padding; then neutral.
        self::assertSame($at('normal', 16, 30), $at('normal', 13, 30));
        self::assertSame([32896, 32896, 65535, 65535], $at('normal', 12, 30));
        self::assertSame([0, 0, 0, 0], $at('id', 12, 30));
        self::assertSame([0xE8, 0x11, 0x2D, 255], $at('id', 14, 30));
        self::assertSame([32896, 32896, 32896, 65535], $at('height', 2, 2));
        self::assertSame([255, 255, 255, 255], $at('ao', 2, 2));
        self::assertSame([0, 0, 0, 255], $at('miss', 30, 30));
        $texel = 64 * 30 + 20;
        self::assertSame((int) round(($maps->normal[$texel][0] + 1) / 2 * 65535), $at('normal', 20, 30)[0]);
        array_map(unlink(...), (array) glob("$folder/*"));
        rmdir($folder);
    }
}
