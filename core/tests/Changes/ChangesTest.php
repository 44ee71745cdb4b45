<?php

declare(strict_types=1);

namespace Anvil\Tests\Changes;

use Anvil\Asset\Asset;
use Anvil\Asset\GivenFile;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Changes\PartChange;
use Anvil\Changes\PartChanges;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\FindingChanges;
use Anvil\Standard\Choices;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * What became of parts since the last delivery, on shapes whose change is known in closed form (METHODS, "What changed between deliveries").
 */
final class ChangesTest extends TestCase
{
    /**
     * @return iterable<string, array{Mesh, Mesh, list<string>, array<string, float>}> then, now, states, measure
     */
    public static function pairs(): iterable
    {
        $box = Shapes::box(2, 3, 6);
        $ball = Shapes::sphere(1, 12, 18);
        yield 'the same' => [$ball->mesh(), $ball->mesh(), ['same'], []];
        yield 'moved' => [$box->mesh(), $box->moved(0.3, -0.4, 1.2)->mesh(), ['moved'], ['distance' => 1.3, 'turn' => 0.0, 'factor' => 1.0, 'greatest' => 1.3]];
        // A corner of the box is √(1 + 9)/… away from the axis: it goes along a chord of 2 r sin 15°.
        yield 'turned' => [$box->mesh(), $box->turned(1, 30)->mesh(), ['moved'], ['distance' => 0.0, 'turn' => 30.0, 'factor' => 1.0, 'greatest' => 2 * sqrt(10) * sin(deg2rad(15))]];
        yield 'turned half way round' => [$box->mesh(), $box->turned(2, 180)->mesh(), ['moved'], ['turn' => 180.0, 'greatest' => sqrt(13)]];
        yield 'turned by a little' => [$box->mesh(), $box->turned(0, 0.02)->mesh(), ['moved'], ['turn' => 0.02]];
        yield 'scaled' => [$ball->mesh(), $ball->scaled(100, 100, 100)->mesh(), ['moved'], ['factor' => 100.0, 'greatest' => 99.0]];
        yield 'scaled, turned and moved' => [$box->mesh(), $box->turned(0, 90)->scaled(2, 2, 2)->moved(5, 0, 0)->mesh(), ['moved'], ['factor' => 2.0, 'turn' => 90.0, 'distance' => 5.0]];
        // Off by less than 1e-5 of the diagonal, 7: rounding.
        yield 'moved by rounding' => [$box->mesh(), $box->moved(6e-5, 0, 0)->mesh(), ['same'], []];
        yield 'moved by just more' => [$box->mesh(), $box->moved(8e-5, 0, 0)->mesh(), ['moved'], ['distance' => 8e-5]];
        // A mirrored box is a turned one; a mirrored wedge is neither moved nor turned.
        yield 'mirrored' => [self::wedge()->mesh(), self::wedge()->mapped(static fn (array $p): array => [-$p[0], $p[1], $p[2]])->mesh(), ['reshaped'], []];
        // One face of six pulled out by 0.5: itself, and of each of the four beside it the part beyond, whose triangles are all off but for an edge.
        yield 'a face pulled' => [Shapes::box(1, 1, 1, 4)->mesh(), Shapes::box(1, 1, 1, 4)->mapped(static fn (array $p): array => [$p[0], $p[1] > 0.49 ? 1.0 : $p[1], $p[2]])->mesh(), ['reshaped'], ['greatest' => 0.5]];
        // Six triangles meet in the middle of a sheet of 20 × 20 squares; lifted by 0.1, two of them have 0.00375 and four |(0.005, 0.0025)| / 2.
        yield 'a bump' => [Shapes::sheet(1, 1, 20, 20)->triangulated()->mesh(), Shapes::sheet(1, 1, 20, 20)->triangulated()->mapped(static fn (array $p): array => [$p[0], hypot($p[0], $p[2]) < 0.01 ? 0.1 : $p[1], $p[2]])->mesh(), ['reshaped'], ['greatest' => 0.1, 'share' => (2 * 0.00375 + 4 * sqrt(0.005 ** 2 + 0.0025 ** 2) / 2) / (1 - 6 * 0.00125 + 2 * 0.00375 + 4 * sqrt(0.005 ** 2 + 0.0025 ** 2) / 2)]];
        yield 'cut finer' => [Shapes::sheet(1, 1, 2, 2)->mesh(), Shapes::sheet(1, 1, 4, 4)->mesh(), ['reshaped', 're-unwrapped'], ['share' => 0.0, 'greatest' => 0.0, 'triangles' => 32.0, 'wasTriangles' => 8.0]];
        yield 'laid out anew' => [$box->mesh(), $box->placed(0.5, 0.5, 0.5)->mesh(), ['re-unwrapped'], ['uvShare' => 1.0]];
        yield 'moved and laid out anew' => [$box->mesh(), $box->moved(1, 0, 0)->placed(0.5, 0.5, 0.5)->mesh(), ['moved', 're-unwrapped'], ['uvShare' => 1.0, 'distance' => 1.0]];
        yield 'smoothed' => [$box->mesh(40), $box->mesh(180), ['re-shaded'], ['shadingShare' => 1.0]];
        yield 'turned, with its normals' => [$ball->mesh(180), $ball->turned(0, 37)->mesh(180), ['moved'], ['turn' => 37.0]];
        yield 'another material' => [$box->mesh(40, [[0, 'iron'], [3, 'brass']]), $box->mesh(40, [[0, 'iron'], [4, 'brass']]), ['recoloured'], ['colorShare' => 1 / 6]];
        $shuffled = static function (Mesh $mesh): Mesh {
            $order = range(0, $mesh->triangleCount() - 1);
            usort($order, static fn (int $a, int $b): int => ($a * 7919) % 997 <=> ($b * 7919) % 997);
            $by = static fn (array $list): array => array_merge(...array_map(static fn (int $n): array => array_slice($list, 3 * $n, 3), $order));

            return new Mesh($mesh->positions, $by($mesh->triangles), $mesh->uvs, $by($mesh->triUvs), $mesh->normals, $by($mesh->triNormals), [], [], $mesh->materials, $mesh->materialRuns);
        };
        $worn = static fn (Mesh $m, array $more): Mesh => new Mesh(...[...['positions' => $m->positions, 'triangles' => $m->triangles, 'uvs' => $m->uvs, 'triUvs' => $m->triUvs, 'normals' => $m->normals, 'triNormals' => $m->triNormals, 'materials' => $m->materials, 'materialRuns' => $m->materialRuns], ...$more]);
        $plain = $box->mesh();
        $tint = static fn (int $channel, float $by): array => array_map(static fn (int $i): float => 0.5 + ($i % 3 === $channel && $i < 3 ? $by : 0.0), array_keys($plain->positions));
        foreach ([0, 1, 2] as $channel) {
            // The first vertex of a box is a corner of four or five of its twelve triangles.
            yield "colored at a vertex, channel $channel" => [$worn($plain, ['colors' => $tint(0, 0.0)]), $worn($plain, ['colors' => $tint($channel, 0.01)]), ['recoloured'], []];
            yield "colored at a vertex by less than a byte, channel $channel" => [$worn($plain, ['colors' => $tint(0, 0.0)]), $worn($plain, ['colors' => $tint($channel, 0.0015)]), ['same'], []];
        }
        yield 'colored where it was not' => [$plain, $worn($plain, ['colors' => $tint(0, 0.0)]), ['recoloured'], ['colorShare' => 1.0]];
        yield 'without UVs' => [$plain, $worn($plain, ['uvs' => [], 'triUvs' => []]), ['re-unwrapped'], ['uvShare' => 1.0]];
        yield 'without UVs on one triangle' => [$plain, $worn($plain, ['triUvs' => [-1, -1, -1, ...array_slice($plain->triUvs, 3)]]), ['re-unwrapped'], ['uvShare' => 1 / 12]];
        yield 'without UVs on one triangle, as before' => [$worn($plain, ['triUvs' => [-1, -1, -1, ...array_slice($plain->triUvs, 3)]]), $worn($plain, ['triUvs' => [-1, -1, -1, ...array_slice($plain->triUvs, 3)], 'uvs' => array_map(static fn (float $u): float => $u + 1e-9, $plain->uvs)]), ['same'], []];
        yield 'one UV moved upward' => [$plain, $worn($plain, ['uvs' => [...$plain->uvs, $plain->uvs[2 * $plain->triUvs[0]], $plain->uvs[2 * $plain->triUvs[0] + 1] + 2e-6], 'triUvs' => [intdiv(count($plain->uvs), 2), ...array_slice($plain->triUvs, 1)]]), ['re-unwrapped'], ['uvShare' => 1 / 12]];
        yield 'without normals' => [$plain, $worn($plain, ['normals' => [], 'triNormals' => []]), ['re-shaded'], ['shadingShare' => 1.0]];
        $grouped = static fn (int $last): Mesh => $worn($plain, ['normals' => [], 'triNormals' => [], 'smoothing' => [...array_fill(0, 11, 1), $last]]);
        yield 'in another smoothing group' => [$grouped(1), $grouped(2), ['re-shaded'], ['shadingShare' => 1 / 12]];
        // More triangles than are looked at one by one: half of a sheet is lifted.
        $sheet = Shapes::sheet(1, 1, 160, 160)->triangulated();
        yield 'half of a fine sheet lifted' => [$sheet->mesh(180), $sheet->mapped(static fn (array $p): array => [$p[0], $p[0] > 0.001 ? 0.5 : 0.0, $p[2]])->mesh(180), ['reshaped'], ['greatest' => 0.5]];
        yield 'in another order' => [$ball->mesh(), $shuffled($ball->mesh()), ['same'], []];
        yield 'in another order, laid out anew' => [$ball->mesh(), $shuffled($ball->placed(0.5, 0.5, 0.5)->mesh()), ['re-unwrapped'], ['uvShare' => 1.0]];
        yield 'in another order, smoothed' => [$ball->mesh(1), $shuffled($ball->mesh(180)), ['re-shaded'], []];
    }

    /**
     * @param  list<string>  $states
     * @param  array<string, float>  $measure
     */
    #[DataProvider('pairs')]
    public function test_a_change_is_told_by_its_kind_and_measure(Mesh $then, Mesh $now, array $states, array $measure): void
    {
        $change = self::changes(['a_low' => $now], ['a_low' => $then])[0];
        self::assertSame($states, $change->states);
        foreach ($measure as $key => $value) {
            self::assertEqualsWithDelta($value, $change->measure[$key] ?? NAN, max(1e-6, 2e-6 * $value), $key);
        }
        if ($states === ['same']) {
            self::assertSame([], $change->measure);
        }
        self::assertEquals($change->toArray(), PartChange::ofArray($change->toArray())->toArray());
    }

    public function test_a_pulled_face_is_off_with_all_that_hangs_on_it(): void
    {
        [, $then, $now] = [0, ...self::case('a face pulled')];
        $share = self::changes(['a_low' => $now], ['a_low' => $then])[0]->measure['share'];
        // Now: 1 on top, four sides of 1 × 0.75 beyond the last edge that stayed; then: the top alone, which now lies within.
        self::assertEqualsWithDelta((1 + 4 * 0.75) / (2 + 4 * 1.5), $share, 1e-6);
    }

    public function test_a_material_of_another_color_is_told_though_the_mesh_is_the_same(): void
    {
        $of = static fn (array $colors): Asset => Asset::of([Assets::file('x_low.obj', ['a' => new Part('a_low', Assets::worn(Shapes::box(1, 1, 1)->mesh()), $colors)])], Standard::builtIn(), new Choices);
        $change = static fn (array $now, array $then): PartChange => PartChanges::of($of($now), LastDelivery::of($of($then)))[0];
        self::assertSame(['recoloured'], $change(['plain' => '#FF0000'], ['plain' => '#00FF00'])->states);
        self::assertSame(['same'], $change(['plain' => '#ff00aa', 'other' => '#000000'], ['other' => '#000000', 'plain' => '#FF00AA'])->states);
        self::assertSame(['same'], $change(['plain' => '#FF0000', 'b' => '#000000'], ['b' => '#000000', 'plain' => '#FF0000'])->states);
    }

    public function test_names_come_first_and_shapes_find_the_rest(): void
    {
        $now = ['a_low' => Shapes::box(1, 1, 1), 'ring_low' => Shapes::cylinder(1, 2, 16)->moved(5, 0, 0), 'peg_1_low' => Shapes::cylinder(0.1, 1, 8)->moved(9, 0, 0), 'peg_2_low' => Shapes::cylinder(0.1, 1, 8)->moved(7, 0, 0), 'new_low' => Shapes::sphere(1, 6, 8)];
        $then = ['a_low' => Shapes::box(1, 1, 1), 'hoop_low' => Shapes::cylinder(1, 2, 16)->moved(5, 0, 0), 'pin_low' => Shapes::cylinder(0.1, 1, 8)->moved(7, 0, 0), 'pin2_low' => Shapes::cylinder(0.1, 1, 8)->moved(9.5, 0, 0), 'cap_low' => Shapes::box(1, 1, 2), 'a_high' => Shapes::sphere(1, 6, 8)];
        $told = array_map(static fn (PartChange $one): string => $one->name.' '.implode('+', $one->states).($one->was === null ? '' : " $one->was"), self::changes($now, $then));
        // A sphere of another role is no earlier name of one.
        self::assertSame(['a_low same', 'ring_low renamed hoop_low', 'peg_1_low renamed+moved pin2_low', 'peg_2_low renamed pin_low', 'new_low added', 'cap_low gone', 'a_high gone'], $told);
        self::assertSame(['hoop_low' => 'ring_low', 'pin2_low' => 'peg_1_low', 'pin_low' => 'peg_2_low', 'hoop' => 'ring', 'pin2' => 'peg_1', 'pin' => 'peg_2'], PartChanges::renames(self::changes($now, $then), Standard::builtIn()));
    }

    public function test_two_of_one_name_are_held_against_each_other_in_their_order(): void
    {
        $files = static fn (float $x): Asset => Asset::of([Assets::file('x_low.obj', ['one' => new Part('a_low', Shapes::box(1, 1, 1)->mesh()), 'two' => new Part('a_low', Shapes::box(1, 1, 1)->moved(2 + $x, 0, 0)->mesh())])], Standard::builtIn(), new Choices);
        $changes = PartChanges::of($files(1.0), LastDelivery::of($files(0.0)));
        self::assertSame([['same'], ['moved']], array_map(static fn (PartChange $one): array => $one->states, $changes));
    }

    public function test_a_format_that_splits_vertices_changes_nothing(): void
    {
        $folder = sys_get_temp_dir().'/anvil-changes-'.bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        $parts = [new Part('drum_low', Assets::worn(Shapes::roundedBox(1, 2, 3, 0.1, 2)->mesh(40)))];
        ObjWriter::write($parts, 'drum_low.obj', $sink);
        GlbWriter::write($parts, 'drum_low.glb', $sink);
        $sink->commit();
        try {
            $read = static fn (string $name): Asset => Asset::of([ReadFile::of(new GivenFile($name, null, new FileSource("$folder/$name")))], Standard::builtIn(), new Choices);
            $changes = PartChanges::of($read('drum_low.glb'), LastDelivery::of($read('drum_low.obj')));
            self::assertNotSame($read('drum_low.glb')->parts[0]->part->hash(), $read('drum_low.obj')->parts[0]->part->hash());
            self::assertSame([['same']], array_map(static fn (PartChange $one): array => array_values(array_diff($one->states, ['recoloured'])) ?: ['same'], $changes));
        } finally {
            Folder::remove($folder);
        }
    }

    public function test_meshes_are_read_of_what_is_not_the_same_to_the_byte_only(): void
    {
        $then = Asset::of([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(1, 1, 2)])], Standard::builtIn(), new Choices);
        $now = Asset::of([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(1, 1, 2)->moved(1, 0, 0)])], Standard::builtIn(), new Choices);
        $read = [];
        $last = LastDelivery::of($then, false, static function (\Anvil\Pairing\RoledPart $part) use (&$read): Mesh {
            $read[] = $part->part->name;

            return $part->part->mesh;
        });
        self::assertSame(['b_low'], \Anvil\Pairing\RoledPart::names(PartChanges::changed($now, $last)));
        PartChanges::of($now, $last);
        self::assertSame(['b_low'], $read);
    }

    public function test_findings_are_gone_new_better_worse_or_the_same_across_renames(): void
    {
        $on = static fn (string $code, string $part, ?float $value = null, Severity $severity = Severity::Caution, bool $less = false, ?int $count = null): Finding => new Finding($code, $severity, "$code of $part", 'mend it', ['part' => $part, 'file' => 'x_low.obj'], $value === null ? null : new Measured($value, 1.0, 'px', $less), null, $count);
        $changes = FindingChanges::of(
            [$on('uv-padding', 'a_low', 4.0, less: true), $on('mesh-loose', 'b_low', 3.0), $on('mesh-ngon', 'c_low', 5.0), $on('uv-border', 'a_low', 1.0), $on('ray-lean', 'd_low', 2.0), $on('name-near', 'e_low', count: 2)],
            [$on('uv-padding', 'a_low', 6.0, less: true), $on('mesh-loose', 'bolt_low', 4.0), $on('mesh-ngon', 'c_low', 5.002), $on('uv-border', 'z_low', 1.0), $on('ray-lean', 'd_low', 2.0, Severity::Blocker), $on('name-near', 'e_low', count: 1)],
            ['b_low' => 'bolt_low'],
        );
        self::assertSame(['uv-border of a_low'], array_column($changes->gone, 'message'));
        self::assertSame(['uv-border of z_low'], array_column($changes->new, 'message'));
        self::assertSame(['uv-padding of a_low', 'name-near of e_low'], array_map(static fn (array $pair): string => $pair[1]->message, $changes->better));
        self::assertSame(['mesh-loose of bolt_low', 'ray-lean of d_low'], array_map(static fn (array $pair): string => $pair[1]->message, $changes->worse));
        self::assertSame(['mesh-ngon of c_low'], array_column($changes->same, 'message'));
        $told = $changes->toArray();
        self::assertSame(1, $told['same']);
        self::assertSame(['severity' => 'caution', 'measure' => ['value' => 3.0, 'limit' => 1.0, 'unit' => 'px']], $told['worse'][0]['was']);
    }

    public function test_what_one_delivery_was_made_of_is_not_held_against_it(): void
    {
        $files = static fn (float $x): array => [Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->moved($x, 0, 0)]), Assets::file('x_high.obj', ['a_high' => Shapes::roundedBox(1, 1, 1, 0.06, 3, 2)])];
        $before = Asset::of($files(0.5), Standard::builtIn(), new Choices);
        self::assertSame('found', Assets::state(Assets::reportOf($files(0.0), last: LastDelivery::of($before)), 'tie-half-moved'));
        $made = Assets::reportOf($files(0.0), last: LastDelivery::of($before, true));
        self::assertSame('not-applicable', Assets::state($made, 'tie-half-moved'));
        self::assertSame('not-applicable', Assets::state($made, 'part-gone'));
        self::assertSame('moved', $made->measures->ofAsset(\Anvil\Measures\Kind\Changed::class)[0]->states[0]);
        self::assertSame('not-applicable', Assets::state(Assets::reportOf($files(0.0)), 'part-gone'));
    }

    public function test_a_waiver_follows_the_names(): void
    {
        [$waiver] = \Anvil\Standard\Waiver::listOfJson('[{"code":"uv-stretch","subject":{"part":"pin_low","set":"pin"},"value":2,"by":"Ines Falk","reason":"behind the lid","until":"2026-12-24"}]');
        self::assertSame(['part' => 'bolt_low', 'set' => 'bolt'], $waiver->through(['pin_low' => 'bolt_low', 'pin' => 'bolt', 'x' => 'y'])->subject);
        self::assertTrue($waiver->holdsOn('2026-12-24'));
        self::assertFalse($waiver->holdsOn('2026-12-25'));
        $this->expectExceptionMessage('until');
        \Anvil\Standard\Waiver::listOfJson('[{"code":"uv-stretch","subject":{},"by":"a","reason":"b","until":"tomorrow"}]');
    }

    private static function wedge(): Polygons
    {
        return new Polygons([[0.0, 0.0, 0.0], [3.0, 0.0, 0.0], [0.0, 2.0, 0.0], [0.0, 0.0, 1.0]], [[0, 2, 1], [0, 1, 3], [1, 2, 3], [2, 0, 3]]);
    }

    /**
     * @return array{Mesh, Mesh}
     */
    private static function case(string $name): array
    {
        foreach (self::pairs() as $key => $pair) {
            if ($key === $name) {
                return [$pair[0], $pair[1]];
            }
        }
        self::fail("there is no $name");
    }

    /**
     * @param  array<string, Polygons|Mesh>  $now
     * @param  array<string, Polygons|Mesh>  $then
     * @return list<PartChange>
     */
    private static function changes(array $now, array $then): array
    {
        $of = static fn (array $parts): Measures => Measures::of([Assets::file('x.obj', $parts)], Standard::builtIn(), new Choices);

        return $of($now)->since(LastDelivery::of($of($then)->asset))->ofAsset(\Anvil\Measures\Kind\Changed::class);
    }
}
