<?php

declare(strict_types=1);

namespace Anvil\Tests\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Kind\PageLayout;
use Anvil\Measures\Kind\Sights;
use Anvil\Modelling\Atlas;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Rays\SetSurfaces;
use Anvil\Report\UvMeshes;
use Anvil\Report\UvPicture;
use Anvil\Report\UvSheet;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Surface\EdgeFaults;
use Anvil\Surface\Islands;
use Anvil\Surface\LayoutFacts;
use Anvil\Surface\LowEdges;
use Anvil\Surface\Outlines;
use Anvil\Surface\UvIslands;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * UV pages against an independent polygon library, closed forms, and input that nobody drew.
 */
#[Group('matrix')]
final class PagesTest extends TestCase
{
    private const PYTHON = '/usr/bin/python3';

    /**
     * Debian's python3-shapely on 10,000 random layouts: areas, overlaps of all pairs, union, and the distance of two triangles.
     */
    public function test_areas_overlaps_and_gaps_agree_with_an_independent_polygon_library(): void
    {
        mt_srand(20261128);
        $layouts = [];
        for ($i = 0; $i < 10_000; $i++) {
            $triangles = [];
            for ($k = 0, $n = 2 + $i % 5; $k < $n; $k++) {
                $one = [];
                // Many share corners, edges or places: a grid of tenths.
                for ($c = 0; $c < 6; $c++) {
                    $one[] = $i % 2 === 0 ? mt_rand(1, 9) / 10 : mt_rand(100_000, 900_000) / 1_000_000;
                }
                if (abs(($one[2] - $one[0]) * ($one[5] - $one[1]) - ($one[4] - $one[0]) * ($one[3] - $one[1])) < 1e-4) {
                    $k--;

                    continue;
                }
                $triangles[] = $one;
            }
            $layouts[] = $triangles;
        }
        $process = proc_open([self::PYTHON, dirname(__DIR__).'/References/overlaps.py'], [0 => ['file', $this->written($layouts), 'r'], 1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
        self::assertIsResource($process);
        $answers = explode("\n", trim((string) stream_get_contents($pipes[1])));
        self::assertSame('', stream_get_contents($pipes[2]), 'install the Debian package python3-shapely; bin/test does');
        self::assertCount(10_000, $answers);
        foreach ($layouts as $i => $triangles) {
            /** @var array{float, float, float, float} $truth */
            $truth = json_decode($answers[$i], true, 4, JSON_THROW_ON_ERROR);
            $mesh = self::apart($triangles);
            $facts = Islands::of($mesh, 1);
            self::assertEqualsWithDelta($truth[0], array_sum($facts->uvArea), 1e-12, "layout $i");
            $tile = LayoutFacts::of([$mesh], [$facts], [[]], 1 / 16)->tiles[0];
            self::assertEqualsWithDelta($truth[1], $tile['overlap'], 1e-10, "layout $i");
            if (count($triangles) === 2) {
                self::assertEqualsWithDelta($truth[2], $tile['covered'], 1e-10, "layout $i");
                $gap = $tile['gaps'][0]['gap'] ?? null;
                if ($truth[1] > 1e-9 || $truth[3] >= 1 / 16) {
                    self::assertNull($gap, "layout $i");
                } else {
                    self::assertEqualsWithDelta($truth[3], $gap, 1e-12, "layout $i");
                }
            }
        }
    }

    /**
     * @param  list<list<list<float>>>  $layouts
     */
    private function written(array $layouts): string
    {
        $path = sys_get_temp_dir().'/anvil-layouts-'.bin2hex(random_bytes(4)).'.jsonl';
        file_put_contents($path, implode("\n", array_map(static fn (array $one): string => json_encode($one, JSON_THROW_ON_ERROR), $layouts))."\n");
        register_shutdown_function(static fn () => @unlink($path));

        return $path;
    }

    /**
     * Triangles that hang together nowhere in 3D, each an island.
     *
     * @param  list<list<float>>  $triangles
     */
    private static function apart(array $triangles): Mesh
    {
        $positions = $corners = $uvs = [];
        foreach ($triangles as $t => $uv) {
            for ($k = 0; $k < 3; $k++) {
                array_push($positions, $uv[2 * $k] + 3.0 * $t, $uv[2 * $k + 1], 0.0);
                array_push($uvs, $uv[2 * $k], $uv[2 * $k + 1]);
                $corners[] = 3 * $t + $k;
            }
        }

        return new Mesh($positions, $corners, $uvs, $corners, materials: ['plain'], materialRuns: [[0, 0]]);
    }

    /** P. Sander et al., SIGGRAPH 2001: L2 is the root of the mean of both squared singular values; 1 for an isometry up to scale. */
    public function test_stretch_is_that_of_closed_form_maps(): void
    {
        $stretch = static function (float $a, float $b, float $c, float $d): float {
            $sheet = Shapes::sheet(2, 3, 4, 3);
            $map = static fn (array $p): array => [0.1 * ($a * $p[0] + $b * $p[2]) + 0.5, 0.1 * ($c * $p[0] + $d * $p[2]) + 0.5];
            $uvs = array_map(static fn (array $face): array => array_map(static fn (int $v): array => $map($sheet->points[$v]), $face), $sheet->faces);

            return Islands::of((new Polygons($sheet->points, $sheet->faces, $uvs))->mesh(), 1)->stretch[0];
        };
        $turn = deg2rad(37);
        self::assertEqualsWithDelta(1.0, $stretch(1, 0, 0, -1), 1e-6);
        self::assertEqualsWithDelta(1.0, $stretch(cos($turn), sin($turn), sin($turn), -cos($turn)), 1e-6);
        self::assertEqualsWithDelta(1.0, $stretch(0.3, 0, 0, -0.3), 1e-6, 'scale alone is no stretch');
        // Twice as wide: singular values of the way back from UV are 1/2 and 1, made to keep the area.
        self::assertEqualsWithDelta(sqrt((2 + 0.5) / 2), $stretch(2, 0, 0, -1), 1e-6);
        // A shear by s: the squares of the singular values add up to 2 + s², and the area stays.
        self::assertEqualsWithDelta(sqrt((2 + 0.8 ** 2) / 2), $stretch(1, 0.8, 0, -1), 1e-6);
    }

    public function test_islands_tell_winding_turn_size_and_place(): void
    {
        $board = static fn (float $degrees, float $flip = 1.0): Polygons => new Polygons([[0.0, 0.0, 0.0], [2.0, 0.0, 0.0], [2.0, 1.0, 0.0], [0.0, 1.0, 0.0]], [[0, 1, 2, 3]], [array_map(static fn (array $c): array => [
            0.5 + $flip * (cos(deg2rad($degrees)) * $c[0] - sin(deg2rad($degrees)) * $c[1]), 0.5 + sin(deg2rad($degrees)) * $c[0] + cos(deg2rad($degrees)) * $c[1],
        ], [[-0.2, -0.1], [0.2, -0.1], [0.2, 0.1], [-0.2, 0.1]])]);
        $facts = Islands::of($board(30)->mesh(), 1);
        self::assertEqualsWithDelta(30.0, $facts->turned[0], 1e-4);
        self::assertEqualsWithDelta(-100.0, Islands::of($board(-100)->mesh(), 1)->turned[0], 1e-4);
        self::assertFalse($facts->mirrored[0]);
        self::assertTrue(Islands::of($board(0, -1.0)->mesh(), 1)->mirrored[0]);
        self::assertEqualsWithDelta(2048 * 0.2, $facts->density(0, 2048), 1e-3);
        self::assertSame([0, 0], $facts->tile(0));
        // With Z up the board lies flat on its back, and has no up but along Z, in which it does not rise.
        self::assertNull(Islands::of($board(30)->turned(0, -90)->mesh(), 1)->turned[0], 'a floor has no up');
        self::assertEqualsWithDelta(30.0, Islands::of($board(30)->turned(0, 90)->mesh(), 2)->turned[0] ?? 0.0, 1e-3);
        self::assertEquals($facts, Islands::ofArray($facts->toArray()));
        // Known again after something else was added to its part; not known once it has moved.
        self::assertSame($facts->key(0), Islands::of($board(30)->with(Shapes::sheet(1, 1)->placed(0.8, 0.8, 0.1))->mesh(), 1)->key(0));
        self::assertNotSame($facts->key(0), Islands::of($board(31)->mesh(), 1)->key(0));
        self::assertEqualsWithDelta(-(0.5 - 0.2 * cos(deg2rad(30)) - 0.1 * sin(deg2rad(30))), $facts->over(0), 1e-6);
    }

    public function test_seams_and_hard_edges_are_those_of_a_box(): void
    {
        $box = LowEdges::of(Shapes::box(1, 1, 1)->mesh());
        // Twelve edges, each seen from both faces, and six diagonals that are neither.
        self::assertSame(24, count(array_filter($box->seams)));
        self::assertSame(24, count(array_filter($box->hard ?? [])));
        self::assertEqualsWithDelta(90.0, $box->turn((int) array_search(true, $box->seams, true)), 1e-9);
        $smooth = LowEdges::of(Shapes::box(1, 1, 1)->mesh(180));
        self::assertSame(0, count(array_filter($smooth->hard ?? [])));
        $silent = Shapes::box(1, 1, 1)->mesh();
        self::assertNull(LowEdges::of(new Mesh($silent->positions, $silent->triangles, $silent->uvs, $silent->triUvs))->hard);
        // A sheet: its border is a seam, and nothing lies beyond.
        $sheet = LowEdges::of(Shapes::sheet(1, 1)->mesh());
        self::assertSame(4, count(array_filter($sheet->seams)));
        self::assertNull($sheet->turn((int) array_search(true, $sheet->seams, true)));
        // Three faces at one edge: each of the others is held against the first.
        $three = new Mesh([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0, -1.0, 0.0], [0, 1, 2, 0, 1, 3, 0, 1, 4]);
        self::assertSame([3, 0, 0], [LowEdges::of($three)->twins[0], LowEdges::of($three)->twins[3], LowEdges::of($three)->twins[6]]);
    }

    public function test_a_layout_that_nobody_drew_is_told_right_or_not_at_all(): void
    {
        $layout = static function (Mesh $mesh): LayoutFacts {
            return LayoutFacts::of([$mesh], [Islands::of($mesh, 1)], [[]], 1 / 256);
        };
        // Every face of a fine sheet on one place: n faces are n(n−1)/2 pairs of one area.
        $n = 20_000;
        $stack = $layout(self::apart(array_fill(0, $n, [0.2, 0.2, 0.4, 0.2, 0.2, 0.4])));
        self::assertEqualsWithDelta(0.02 * $n * ($n - 1) / 2, $stack->tiles[0]['overlap'], 1.0);
        self::assertEqualsWithDelta(0.02, $stack->tiles[0]['covered'], 1e-9);
        self::assertTrue($stack->tiles[0]['overlapWhole']);
        self::assertCount($n, $stack->overlapping[0]);
        // As many, each a little larger: all pairs cannot be looked at, and that is said.
        $nested = [];
        for ($i = 0; $i < $n; $i++) {
            $nested[] = [0.2, 0.2, 0.4 + $i * 1e-6, 0.2, 0.2, 0.4 + $i * 1e-6];
        }
        self::assertFalse($layout(self::apart($nested))->tiles[0]['overlapWhole']);
        // Ten thousand islands, a face each, a hair apart.
        $grid = [];
        for ($i = 0; $i < 100; $i++) {
            for ($k = 0; $k < 100; $k++) {
                [$u, $v] = [$i / 100, $k / 100];
                $grid[] = [$u + 0.001, $v + 0.001, $u + 0.007, $v + 0.001, $u + 0.001, $v + 0.007];
            }
        }
        $facts = $layout(self::apart($grid));
        self::assertSame(0.0, $facts->tiles[0]['overlap']);
        self::assertSame(10_000, count($facts->nearest[0]));
        // A corner is 0.004 from the side of the next, the long side 0.006/√2 from the corner beyond.
        self::assertEqualsWithDelta(0.004, min($facts->nearest[0]), 1e-9);
        // A million pages away, and no number at all.
        $far = $layout(self::apart([[1_000_000.25, -999_999.75, 1_000_000.5, -999_999.75, 1_000_000.25, -999_999.5]]));
        self::assertSame([1_000_000, -1_000_000], [$far->tiles[0]['u'], $far->tiles[0]['v']]);
        self::assertEqualsWithDelta(0.03125, $far->tiles[0]['covered'], 1e-9);
        $nan = self::apart([[NAN, 0.1, 0.4, 0.1, 0.1, 0.4], [0.1, 0.1, 0.4, 0.1, 0.1, 0.4]]);
        self::assertSame([-1, 0], UvIslands::of($nan)->of);
        self::assertSame([], $layout(self::apart([[0.5, 0.5, 0.5, 0.5, 0.5, 0.5]]))->tiles, 'an island of no area lies nowhere');
    }

    public function test_each_material_is_a_page_and_by_udim_each_tile(): void
    {
        $low = ['a_low' => Shapes::sheet(1, 1)->mesh(40, [[0, 'steel']]), 'b_low' => Shapes::sheet(1, 1)->moved(2, 0, 0)->placed(1.0, 0.0, 1.0)->mesh(40, [[0, 'steel']]), 'c_low' => Shapes::sheet(1, 1)->moved(4, 0, 0)->mesh(40, [[0, 'brass']])];
        $names = static fn (string $standard): array => array_column(UvSheet::of(Assets::report($low, ['a_high' => Shapes::sheet(1, 1, 5, 5)], $standard)->measures)->pages, 'name');
        self::assertSame(['steel', 'brass'], $names('{}'));
        self::assertSame(['steel 1001', 'steel 1002', 'brass 1001'], $names('{"pages":"udim"}'));
        self::assertSame('udim', Standard::ofJson('{"pages":"udim"}')->toArray()['pages']);
        self::assertNull(Assets::finding(Assets::report($low, [], '{}'), 'uv-overlap'), 'a whole page apart, and on another page');
    }

    public function test_an_island_that_is_declared_may_lie_on_others(): void
    {
        $low = ['a_low' => Shapes::sheet(1, 1)->with(Shapes::sheet(0.5, 0.5)->moved(2, 0, 0)->placed(0.2, 0.2, 0.5))];
        $high = ['a_high' => Shapes::sheet(1, 1, 6, 6)->with(Shapes::sheet(0.5, 0.5, 6, 6)->moved(2, 0, 0))];
        $report = Assets::report($low, $high);
        $key = $report->measures->ofPart(IslandFacts::class, $report->measures->asset->parts[0])->key(1);
        self::assertSame('blocker', Assets::finding($report, 'uv-overlap')?->severity->value);
        $choices = json_encode(['mirroredIslands' => ['a_low' => [$key]]], JSON_THROW_ON_ERROR);
        self::assertNull(Assets::finding(Assets::report($low, $high, '{}', $choices), 'uv-overlap'));
        self::assertSame(['a_low' => [$key]], Choices::ofJson($choices)->toArray()['mirroredIslands'] ?? null);
        // Once it has changed its place the word does not hold any more.
        $moved = ['a_low' => Shapes::sheet(1, 1)->with(Shapes::sheet(0.5, 0.5)->moved(2, 0, 0)->placed(0.25, 0.2, 0.5))];
        self::assertNotNull(Assets::finding(Assets::report($moved, $high, '{}', $choices), 'uv-overlap'));
    }

    public function test_what_a_part_of_the_same_page_hides_is_told_apart_from_what_hides_itself(): void
    {
        $boxes = ['a_low' => Shapes::box(2, 2, 2), 'b_low' => Shapes::box(1, 1, 1)];
        $high = ['a_high' => Shapes::box(2, 2, 2, 3), 'b_high' => Shapes::box(1, 1, 1, 3)];
        $report = Assets::report(Atlas::packed($boxes), $high);
        $sights = $report->measures->ofAsset(Sights::class);
        self::assertSame([1.0, 0.0], [min($sights[0]['seen']), max($sights[1]['seen'])]);
        self::assertSame([0.0, 1.0], [max($sights[0]['behind']), min($sights[1]['behind'])]);
        // Three of a page: two boxes in one another, and a third around both that is on another page.
        $report = Assets::report([...array_map(static fn (Polygons $one): Mesh => $one->mesh(), Atlas::packed($boxes)), 'c_low' => Shapes::box(4, 4, 4)->mesh(40, [[0, 'other']])], [...$high, 'c_high' => Shapes::box(4, 4, 4, 3)]);
        $sights = $report->measures->ofAsset(Sights::class);
        self::assertSame([0.0, 0.0], [max($sights[0]['behind']), max($sights[1]['behind'])], 'the one around both hides them all the same');
    }

    public function test_the_sheet_says_what_breaks_at_other_map_sizes_and_pictures_show_each_page(): void
    {
        $low = ['a_low' => Shapes::sheet(1, 1)->placed(0, 0, 0.5), 'b_low' => Shapes::sheet(1, 1)->moved(3, 0, 0)->placed(0.5 - 0.04 + 4 / 2048, 0, 0.5)];
        $report = Assets::report($low, ['a_high' => Shapes::sheet(1, 1, 4, 4), 'b_high' => Shapes::sheet(1, 1, 4, 4)->moved(3, 0, 0)], '{"checks":{"uv-padding":{"limit":8}}}');
        $sheet = UvSheet::of($report->measures);
        self::assertEqualsWithDelta(4.0, $sheet->islands[0]['gap'], 0.01);
        self::assertSame([512, 1024, 2048, 4096, 8192], array_column($sheet->sizes, 'size'));
        self::assertSame([false, false, false, true, true], array_map(static fn (array $one): bool => $one['breaks'] === [], $sheet->sizes));
        self::assertSame('the least gap is 4 px of 8 px', $sheet->sizes[2]['breaks'][0]);
        self::assertEqualsWithDelta(16.0, $sheet->sizes[4]['gap'], 0.01);
        self::assertSame($sheet->parts, ['a_low', 'b_low']);
        $svg = simplexml_load_string(UvPicture::of($report->measures)->svg());
        self::assertNotFalse($svg);
        $svg->registerXPathNamespace('s', 'http://www.w3.org/2000/svg');
        self::assertCount(2, $svg->xpath('//s:path[@class="island"]') ?: []);
        self::assertSame('4 px', (string) ($svg->xpath('//s:text[@class="gap"]')[0] ?? ''));
        self::assertSame(['a_low', 'b_low'], array_map(strval(...), $svg->xpath('//s:text[@class="name"]') ?: []));
        $png = UvPicture::of($report->measures)->png(128);
        self::assertSame([128, 128], array_values(unpack('N2', $png, 16) ?: []));
        $rows = str_split((string) zlib_decode(substr($png, (int) strpos($png, 'IDAT') + 4, -16)), 1 + 3 * 128);
        self::assertSame('f6f3ec', bin2hex(substr($rows[5], 1 + 3 * 64, 3)), 'paper where nothing lies');
        self::assertSame('d9ddd6', bin2hex(substr($rows[110], 1 + 3 * 30, 3)), 'an island of the usual density');
        $meshes = UvMeshes::of($report->measures);
        self::assertSame([['name' => 'a_low', 'triangles' => 2], ['name' => 'b_low', 'triangles' => 2]], $meshes->head);
        self::assertSame(4 * (36 + 24 + 4 + 4), strlen($meshes->body));
    }

    public function test_both_unwraps_are_on_the_page_where_what_ships_differs_from_what_is_baked(): void
    {
        $low = Shapes::sheet(1, 1)->placed(0, 0, 0.5)->with(Shapes::sheet(1, 1)->moved(2, 0, 0)->placed(0.5, 0.5, 0.5));
        $ships = Shapes::sheet(1, 1)->placed(0, 0, 0.5)->with(Shapes::sheet(1, 1)->moved(2, 0, 0)->placed(0.5, 0.4, 0.5));
        $report = Assets::reportOf([
            Assets::file('x_low.obj', ['a_low' => $low]), Assets::file('x_high.obj', ['a_high' => Shapes::sheet(1, 1, 4, 4)->with(Shapes::sheet(1, 1, 4, 4)->moved(2, 0, 0))]), Assets::file('x_pose.obj', ['a_pose' => $ships]),
        ]);
        $pose = UvSheet::of($report->measures)->pose;
        self::assertCount(4, $pose, 'two triangles of each side; the other board is the same');
        foreach ([[true, 0.42], [false, 0.52]] as [$isShipped, $least]) {
            $own = array_values(array_filter($pose, static fn (array $one): bool => $one['ships'] === $isShipped));
            self::assertCount(2, $own);
            self::assertEqualsWithDelta($least, min(...array_merge(...array_map(static fn (array $one): array => array_values(array_filter($one['outline'], static fn (int $k): bool => $k % 2 === 1, ARRAY_FILTER_USE_KEY)), $own))), 1e-6);
        }
        self::assertSame([], UvSheet::of($report->measures, false)->pose);
    }

    /** In closed form: a corner of the box lies √3 from the middle, in the view along an edge of another face pair; the ball's outline is a circle of radius 1. */
    public function test_outlines_of_a_dense_high_poly_are_measured_both_ways(): void
    {
        $ball = Shapes::sphere(1, 120, 240)->mesh();
        self::assertGreaterThan(40_000, $ball->triangleCount());
        $out = Outlines::of(new SetSurfaces('a', [Shapes::box(2, 2, 2)->mesh()], [$ball], true));
        self::assertEqualsWithDelta(M_SQRT3 - 1, $out['loss'], 0.01);
        self::assertFalse($out['outside']);
        self::assertEqualsWithDelta([1.0, 1.0, 1.0], array_map(abs(...), $out['at'] ?? []), 1e-6);
        // The other way round: a ball of 12 sides within the round one; it bows out by 1 − cos(π/12) over its edges, and by 1 − cos²(π/12) over the middle of its faces.
        $in = Outlines::of(new SetSurfaces('a', [Shapes::sphere(1, 6, 12)->mesh()], [$ball], true));
        self::assertTrue($in['outside']);
        self::assertGreaterThan(1 - cos(M_PI / 12), $in['loss']);
        self::assertLessThan(1 - cos(M_PI / 12) ** 2, $in['loss']);
        // A light one of the same shape says the same.
        $light = Outlines::of(new SetSurfaces('a', [Shapes::box(2, 2, 2)->mesh()], [Shapes::sphere(1, 60, 120)->mesh()], true));
        self::assertEqualsWithDelta($out['loss'], $light['loss'], 0.01);
    }

    public function test_what_is_told_of_another_tile_lies_there(): void
    {
        $two = Shapes::sheet(1, 1)->placed(1.1, -0.9, 0.4)->with(Shapes::sheet(1, 1)->moved(2, 0, 0)->placed(1.2, -0.8, 0.4))->with(Shapes::sheet(1, 1)->moved(4, 0, 0)->placed(1.1 + 0.384 - 0.016 + 3 / 2048, -0.9, 0.4))->mesh();
        $facts = LayoutFacts::of([$two], [Islands::of($two, 1)], [[]], 1 / 256);
        self::assertSame([1, -1], [$facts->tiles[0]['u'], $facts->tiles[0]['v']]);
        foreach ($facts->tiles[0]['regions'] as $outline) {
            foreach ($outline as $k => $x) {
                self::assertGreaterThan($k % 2 === 0 ? 1.0 : -1.0, $x);
                self::assertLessThan($k % 2 === 0 ? 2.0 : 0.0, $x);
            }
        }
        self::assertNotSame([], $facts->tiles[0]['regions']);
    }

    public function test_places_are_those_of_the_edges_and_triangles_that_are_told(): void
    {
        $fold = new Polygons([[0.0, 0.0, 0.0], [0.0, 3.0, 0.0], [2.0, 0.0, 0.0], [2.0, 3.0, 0.0], [2.0, 0.0, -2.0], [2.0, 3.0, -2.0]], [[0, 2, 3, 1], [2, 4, 5, 3]], [[[0.1, 0.1], [0.3, 0.1], [0.3, 0.4], [0.1, 0.4]], [[0.3, 0.1], [0.5, 0.1], [0.5, 0.4], [0.3, 0.4]]]);
        $edges = EdgeFaults::of($fold->mesh());
        self::assertSame([[2.0, 1.5, 0.0]], $edges->insideAt);
        self::assertSame(3.0, $edges->insideLength);
        $report = Assets::report(['a_low' => $fold->mesh(180)], ['a_high' => $fold->triangulated()]);
        $sharp = Assets::finding($report, 'soft-over-sharp');
        self::assertNull($sharp, 'two faces at a right angle share 45° each, which is not over it');
    }

    /** 801 boards under a large one by a hair each: no pair is over the limit, and only 300 are kept, but all together are. */
    public function test_many_small_overlaps_are_one_finding_of_their_sum(): void
    {
        $low = ['a_low' => Shapes::sheet(9, 9)];
        for ($i = 0; $i < 801; $i++) {
            $low["b{$i}_low"] = Shapes::sheet(0.1, 0.1)->moved(10 + $i, 0, 0)->placed(0.05 + 0.001 * $i - 0.0004 * 0.04, 0.5, 0.0004);
        }
        $finding = Assets::finding(Assets::report($low, ['a_high' => Shapes::sheet(9, 9, 4, 4)], '{"checks":{"uv-overlap":{"limit":0.0001}}}'), 'uv-overlap');
        self::assertNotNull($finding);
        self::assertEqualsWithDelta(801 * (0.0004 * 0.92) ** 2, $finding->measure->value ?? 0.0, 2e-6);
    }

    public function test_what_is_kept_of_a_layout_is_the_whole_of_it(): void
    {
        $report = Assets::report(Atlas::packed(['a_low' => Shapes::box(1, 2, 3), 'b_low' => Shapes::cylinder(1, 1, 12)->moved(5, 0, 0)]), ['a_high' => Shapes::roundedBox(1, 2, 3, 0.1, 2), 'b_high' => Shapes::cylinder(1, 1, 48)->moved(5, 0, 0)]);
        $layout = $report->measures->ofAsset(PageLayout::class);
        self::assertEquals($layout, LayoutFacts::ofArray(json_decode(json_encode($layout->toArray(), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), true, 512, JSON_THROW_ON_ERROR)));
        self::assertSame(0.0, $layout->tiles[0]['overlap']);
        self::assertGreaterThan(0.5, $layout->use('plain'));
    }
}
