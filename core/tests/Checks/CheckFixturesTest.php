<?php

declare(strict_types=1);

namespace Anvil\Tests\Checks;

use Anvil\Asset\Asset;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Checks\About;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Measured;
use Anvil\Checks\Station;
use Anvil\Explode\Assembled;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Standard\Waiver;
use Anvil\Tests\Clearance\GoodAssetsTest;
use Anvil\Tests\Support\Assets;
use Anvil\Unreadable;
use Closure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Every check with a fixture that triggers it, with its measured value, and one just inside the limit that does not.
 * Limits and codes: CHECKS.md. Common practice, no published source, where a fixture names none.
 */
#[Group('matrix')]
final class CheckFixturesTest extends TestCase
{
    /**
     * Found: the only findings, as `code severity`, and the value of the first.
     *
     * @return iterable<string, array{Closure(): Report, list<string>, float|null, array<string, string>}>
     */
    public static function found(): iterable
    {
        $good = self::good(...);
        yield 'proof-retouch' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], '{"mapSize":256}', rays: 16384), ['proof-retouch note'], null, ['page' => 'plain']];
        yield 'part-gone' => [static fn (): Report => self::later(['a' => 0.0], ['a' => 0.0, 'b' => 0.0]), ['part-gone caution', 'part-gone caution'], null, ['part' => 'b_low']];
        // The low part moved by 0.0002 of its diagonal, √3, and the high one stayed.
        yield 'tie-half-moved' => [static fn (): Report => self::later(['a' => 2e-4 * M_SQRT3], ['a' => 0.0]), ['tie-half-moved caution'], 2e-4, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'waiver-died' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->moved(0, 0.003 * sqrt(14), 0)], waivers: [new Waiver('off-alignment', ['part' => 'a_low'], 0.0025, 'Ines Falk', 'seen from afar')]), ['off-alignment caution', 'waiver-died caution'], 0.003, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'file-unreadable' => [static fn (): Report => Assets::reportOf([new ReadFile('x_low.obj', null, 'aa', null, Unreadable::onLine(3, 'is not a face')), Assets::file('x_high.obj', ['a_high' => Shapes::box(1, 1, 1)])]), ['file-unreadable blocker'], null, ['file' => 'x_low.obj']];
        yield 'file-empty' => [static fn (): Report => Assets::reportOf([...$good(), new ReadFile('c_low.obj', null, 'cc', new Scene('obj', []), null)]), ['file-empty blocker'], 0.0, ['file' => 'c_low.obj']];
        yield 'role-unknown' => [static fn (): Report => Assets::reportOf([...$good(), Assets::file('extra.obj', ['lid' => Shapes::box(1, 1, 1)])]), ['role-unknown blocker'], null, ['part' => 'lid', 'file' => 'extra.obj']];
        yield 'role-mixed' => [static fn (): Report => Assets::reportOf([Assets::file('l.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1)), 'stray_high' => Shapes::box(1, 1, 1)], Role::Low), Assets::file('h.obj', ['a_high' => self::rounded(), 'b_high' => self::off(self::rounded())], Role::High)]), ['role-mixed blocker'], null, ['part' => 'stray_high']];
        yield 'unit-mismatch' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->scaled(100, 100, 100)]), ['unit-mismatch blocker'], 100.0, ['file' => 'x_high.obj']];
        yield 'name-duplicate' => [static fn (): Report => Assets::reportOf([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1), 'twin' => new Part('a_low', Assets::worn(self::off(Shapes::box(1, 1, 1))->mesh()))]), Assets::file('x_high.obj', ['a_high' => self::rounded()->with(self::off(self::rounded()))])]), ['name-duplicate blocker'], 2.0, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'material-count' => [static fn (): Report => Assets::reportOf([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->mesh(40, [[0, 'one'], [3, 'two']])]), Assets::file('x_high.obj', ['a_high' => self::rounded()])], '{"pages":1}'), ['material-count blocker'], 2.0, ['file' => 'x_low.obj']];
        yield 'pair-self' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1, 1, 1)->mapped(static fn (array $p): array => [$p[0] * 1.00005, $p[1], $p[2]])]), ['pair-self note'], null, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'pair-self by choice' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1))], ['b_high' => self::off(self::rounded())], '{}', '{"bakedOnItself":["a"]}'), ['pair-self note'], null, ['part' => 'a_low']];
        yield 'pair-no-high' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1))], ['a_high' => self::rounded()]), ['pair-no-high blocker'], null, ['part' => 'b_low', 'file' => 'x_low.obj']];
        yield 'pair-no-low' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded(), 'b_high' => self::off(self::rounded())]), ['pair-no-low blocker'], null, ['part' => 'b_high', 'file' => 'x_high.obj']];
        yield 'suffix-case' => [static fn (): Report => self::named('a_low', 'b_low', 'a_High', 'b_high'), ['suffix-case blocker'], null, ['part' => 'a_low', 'other' => 'a_High']];
        yield 'name-case' => [static fn (): Report => self::named('a_low', 'b_low', 'A_high', 'b_high'), ['name-case blocker'], null, ['part' => 'a_low', 'other' => 'A_high']];
        yield 'suffix-missing' => [static fn (): Report => self::named('a_low', 'b_low', 'a', 'b_high'), ['suffix-missing blocker'], null, ['part' => 'a_low', 'other' => 'a']];
        yield 'suffix-missing by another separator' => [static fn (): Report => self::named('a-low', 'b_low', 'a_high', 'b_high'), ['suffix-missing blocker'], null, ['part' => 'a-low', 'other' => 'a_high']];
        yield 'suffix-missing, one and one' => [static fn (): Report => Assets::report(['Cube' => Shapes::box(1, 1, 1)], ['Cube.001' => self::rounded()]), ['suffix-missing note'], null, ['part' => 'Cube']];
        // A hole in a sheet finely cut: 2 % of it has nothing over or under it.
        yield 'ray-miss' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], rays: 16384), ['ray-miss blocker'], 0.02, ['set' => 'a']];
        yield 'ray-miss as a caution' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(0)], rays: 32768), ['ray-miss caution'], 0.0025, ['set' => 'a']];
        // Needs 0.05·√3 outward (ClosedFormTest) and has 0.08.
        yield 'reach-short' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(2, 2, 2)], ['a_high' => Shapes::box(2.1, 2.1, 2.1, 2)], '{"reach":{"*":{"out":0.08,"in":0.01}}}'), ['reach-short blocker', 'ray-miss blocker'], 0.05 * M_SQRT3 - 0.08, ['set' => 'a']];
        yield 'file-extras' => [static fn (): Report => Assets::reportOf([...$good(), new ReadFile('c_low.glb', null, 'cc', new Scene('glb', [new Part('c_low', Assets::worn(self::off(self::off(Shapes::box(1, 1, 1)))->mesh()))], 'm', 'Y', [], ['2 cameras', '1 light']), null), Assets::file('c_high.obj', ['c_high' => self::off(self::off(self::rounded()))])]), ['file-extras note'], 3.0, ['file' => 'c_low.glb']];
        yield 'axis-mismatch' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)->moved(0, 1, 0)], ['a_high' => Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(0, 1, 0)->turned(0, 90)]), ['axis-mismatch blocker'], 90.0, ['file' => 'x_high.obj']];
        yield 'off-alignment' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->moved(0.01 * sqrt(14), 0, 0)]), ['off-alignment blocker'], 0.01, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'off-alignment by a turn' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->turned(1, 3)]), ['off-alignment blocker'], sin(deg2rad(1.5)), ['part' => 'a_low']];
        yield 'off-alignment by a scale' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->scaled(1.04, 1.04, 1.04)]), ['off-alignment blocker'], 0.02, ['part' => 'a_low']];
        yield 'off-alignment as a caution' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->moved(0, 0.003 * sqrt(14), 0)]), ['off-alignment caution'], 0.003, ['part' => 'a_low']];
        yield 'transform-unfrozen' => [static fn (): Report => self::placed(Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, M_SQRT1_2, 0.0, M_SQRT1_2], [1.0, 1.0, 1.0])), ['transform-unfrozen note', 'transform-unfrozen note'], 1.0, ['part' => 'a_low']];
        yield 'transform-unfrozen, uneven' => [static fn (): Report => self::placed(Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.5, 1.0])), ['transform-unfrozen caution', 'transform-unfrozen note'], 0.5, ['part' => 'a_low']];
        yield 'transform-unfrozen on one side' => [static fn (): Report => self::placed(Matrix::identity(), Matrix::scaling(2.0)), ['transform-unfrozen note'], 1.0, ['part' => 'a_high']];
        yield 'transform-mirrored' => [static fn (): Report => self::placed(Matrix::identity(), Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [-1.0, 1.0, 1.0])), ['transform-mirrored caution'], -1.0, ['part' => 'a_high']];
        yield 'pivot-differs' => [static fn (): Report => self::placed(Matrix::identity(), Matrix::ofTrs([0.0, 0.1, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0])), ['pivot-differs note'], 0.1 / M_SQRT3, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'high-doubled' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high_old' => self::rounded(), 'a_high_new' => self::rounded()->with(Shapes::box(0.2, 0.1, 0.2)->moved(0, 0.52, 0))], '{"suffixes":{"high":["_high","_high_*"]}}'), ['high-doubled blocker'], null, ['part' => 'a_high_old', 'file' => 'x_high.obj', 'other' => 'a_high_new']];
        yield 'name-unsafe' => [static fn (): Report => self::named('a ring_low', 'b_low', 'a ring_high', 'b_high'), ['name-unsafe caution', 'name-unsafe caution'], null, ['part' => 'a ring_low']];
        yield 'name-unsafe, not ASCII' => [static fn (): Report => self::named('öse_low', 'b_low', 'öse_high', 'b_high'), ['name-unsafe caution', 'name-unsafe caution'], null, ['part' => 'öse_low']];
        yield 'name-unsafe, long' => [static fn (): Report => self::named(str_repeat('a', 61).'_low', 'b_low', str_repeat('a', 61).'_high', 'b_high'), ['name-unsafe caution', 'name-unsafe caution'], 65.0, ['file' => 'x_low.obj']];
        yield 'mesh-degenerate' => [static fn (): Report => self::lowFaces(static fn (array $faces): array => [...$faces, [0, 0, 1]]), ['mesh-degenerate caution'], 1.0, ['part' => 'a_low']];
        yield 'mesh-nonmanifold' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1, 1, 0))], ['a_high' => self::rounded()->with(self::rounded()->moved(1, 1, 0))], '{"checks":{"ray-miss":{"severity":"off"},"ray-grazing":{"severity":"off"}}}'), ['mesh-nonmanifold caution'], 1.0, ['part' => 'a_low']];
        yield 'mesh-nonmanifold by a fan' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1, 1, 1))], ['a_high' => self::rounded()->with(self::rounded()->moved(1, 1, 1))], '{"checks":{"ray-miss":{"severity":"off"}}}'), ['mesh-nonmanifold caution'], 1.0, ['part' => 'a_low']];
        yield 'mesh-flipped' => [static fn (): Report => self::lowFaces(static fn (array $faces): array => [array_reverse($faces[0]), ...array_slice($faces, 1)], '{"checks":{"ray-miss":{"severity":"off"}}}'), ['mesh-flipped blocker'], 2.0, ['part' => 'a_low']];
        yield 'mesh-flipped, a closed shell' => [static fn (): Report => self::lowFaces(static fn (array $faces): array => array_map(array_reverse(...), $faces), '{"checks":{"ray-miss":{"severity":"off"},"off-alignment":{"severity":"off"}}}'), ['mesh-flipped blocker'], 12.0, ['part' => 'a_low']];
        yield 'mesh-flipped, a panel facing away' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)->flipped()], ['a_high' => Shapes::sheet(1, 1, 9, 9)], '{"checks":{"ray-miss":{"severity":"off"}}}'), ['mesh-flipped blocker'], 2.0, ['part' => 'a_low']];
        yield 'mesh-flipped on the high' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->with(Shapes::box(0.1, 0.1, 0.1)->flipped()->moved(0, 0.5, 0))]), ['mesh-flipped note'], 12.0, ['part' => 'a_high']];
        yield 'mesh-doubled' => [static fn (): Report => self::lowFaces(static fn (array $faces): array => [...$faces, $faces[2]]), ['mesh-doubled caution'], 2.0, ['part' => 'a_low']];
        yield 'mesh-loose' => [static fn (): Report => self::withFacts(new PartFacts(looseVertices: 7)), ['mesh-loose note'], 7.0, ['part' => 'a_low']];
        // A quad of side 1 with one corner lifted by 0.1 bends by about 8°.
        yield 'mesh-ngon' => [static fn (): Report => Assets::report(['a_low' => new Polygons([[0.0, 0.0, 0.0], [0.0, 0.0, 1.0], [1.0, 0.1, 1.0], [1.0, 0.0, 0.0]], [[0, 1, 2, 3]], [[[0.1, 0.1], [0.1, 0.9], [0.9, 0.9], [0.9, 0.1]]])], ['a_high' => self::bentQuad()]), ['mesh-ngon caution'], 1.0, ['part' => 'a_low']];
        yield 'mesh-ngon with many normals' => [static fn (): Report => Assets::report(['a_low' => GoodAssetsTest::prism(12)->mesh(180.0)], ['a_high' => Shapes::roundedCylinder(1, 1, 0.05, 96, 5)]), ['mesh-ngon caution'], 2.0, ['part' => 'a_low']];
        yield 'normals-missing' => [static fn (): Report => self::withMesh(static fn (Mesh $m): Mesh => new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, [], [], [], $m->faces, $m->materials, $m->materialRuns)), ['normals-missing caution'], 36.0, ['part' => 'a_low']];
        yield 'normals-invalid' => [static fn (): Report => self::withFacts(new PartFacts(badNormals: 2, longNormals: 3, normalLength: 1.4)), ['normals-invalid blocker'], 5.0, ['part' => 'a_low']];
        yield 'triangle-budget' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()], '{"triangleBudget":11}'), ['triangle-budget caution'], 12.0, ['file' => 'x_low.obj']];
        yield 'material-stray' => [static fn (): Report => self::stray(0.004), ['material-stray caution'], 0.004, ['part' => 'a_low']];
        yield 'material-missing' => [static fn (): Report => self::withMesh(static fn (Mesh $m): Mesh => new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, $m->normals, $m->triNormals, [], $m->faces, ['plain'], [[0, 0], [8, -1]])), ['material-missing note'], 4.0, ['part' => 'a_low']];
        yield 'high-not-denser' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1, 2)], ['a_high' => Shapes::box(1.01, 1.01, 1.01, 2)]), ['high-not-denser note'], 1.0, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'high-faceted' => [static fn (): Report => Assets::report(['a_low' => Shapes::cylinder(1, 2, 12)], ['a_high' => Shapes::cylinder(1, 2, 16)]), ['high-faceted caution'], 2 * 16 * 2 * sin(M_PI / 16) / (2 * 16 * 2 * sin(M_PI / 16) + 2 * 16 * sin(M_PI / 16) * cos(M_PI / 16)), ['part' => 'a_high', 'other' => 'a_low']];
        // Under a copy of the low box lies a sunk tile of 0.4 × 0.4 of a surface of 6.
        yield 'high-covers-detail' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1, 1, 1, 4)->with(Shapes::sheet(0.4, 0.4, 3, 3)->moved(0, 0.46, 0))]), ['high-covers-detail caution'], 0.16 / 6, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'name-near' => [static fn (): Report => self::named('handle_low', 'b_low', 'hnadle_high', 'b_high'), ['name-near blocker'], 1.0, ['part' => 'handle_low', 'other' => 'hnadle_high']];
        yield 'name-near by a copy tail' => [static fn (): Report => self::named('lid_low', 'b_low', 'lid.001_high', 'b_high'), ['name-near blocker'], null, ['part' => 'lid_low', 'other' => 'lid.001_high']];
        yield 'pair-crossed' => [static fn (): Report => self::named('a_low', 'b_low', 'b_high', 'a_high'), ['pair-crossed blocker', 'pair-crossed blocker'], 3 / M_SQRT3, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'pair-apart' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1))], ['a_high' => self::rounded(), 'b_high' => self::off(self::rounded())->moved(0, 1.5, 0)]), ['pair-apart blocker'], 0.5 / M_SQRT3, ['part' => 'b_low', 'other' => 'b_high']];
        yield 'sets-bleed' => [static fn (): Report => self::neighbours(0.02), ['sets-bleed blocker'], null, ['set' => 'a', 'other' => 'b']];
        yield 'set-incomplete' => [static fn (): Report => Assets::report(['drum_low' => Shapes::box(1, 1, 1), 'pawl_low' => self::off(Shapes::box(1, 1, 1))], ['drum_high' => self::rounded()], '{}', '{"sets":{"works":["pawl"]}}'), ['set-incomplete blocker'], null, ['set' => 'works']];
        yield 'set-incomplete, of nothing' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()], '{}', '{"sets":{"works":["pawl*"]}}'), ['set-incomplete blocker'], null, ['set' => 'works']];
        // A hole of 0.6 × 0.6 with a sheet of 0.4 × 0.4 over it, in a panel of 2 × 2.
        yield 'floater-unbacked' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => self::holed()->with(Shapes::sheet(0.4, 0.4, 4, 4)->moved(0, 0.05, 0))]), ['floater-unbacked blocker'], (0.36 - 0.16) / 4, ['set' => 'a']];
        // The sheet's page of 2048 px spans 2 units by 0.92 of a page: a rim 0.02 high stands 0.02 · 942 px.
        yield 'floater-rim' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2, 12, 12)->with(Shapes::sheet(0.4, 0.4, 4, 4)->moved(0, 0.02, 0))]), ['floater-rim caution'], 0.02 * 2048 * 0.92 / 2, ['set' => 'a']];
        yield 'floater-rim that turns' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2, 12, 12)->with(self::roof(0.002, 20.0))]), ['floater-rim caution'], 20.0, ['set' => 'a']];
        yield 'high-unseen' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->with(Shapes::sphere(0.1, 6, 8))]), ['high-unseen note'], 0.0, ['set' => 'a']];
        yield 'overhang' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2.2, 2, 14, 12)]), ['overhang note'], 0.1, ['set' => 'a']];
        // Two slats of 0.1 at a gap of 0.2, rays of unit length: over the middle they go wrong at the far face of the other, 0.3 off, and leaning near its rim from 0.258.
        yield 'reach-long' => [static fn (): Report => self::slats('{"rays":{"length":"unit"},"reach":{"*":{"out":0.5,"in":0.02}}}'), ['reach-long caution'], 0.5 - 0.2584, ['set' => 'a']];
        yield 'span-closed' => [static fn (): Report => self::slats('{"rays":{"length":"unit"}}', Shapes::cylinder(0.3, 0.45, 24)->moved(0, 0.375, 0)), ['span-closed blocker'], null, ['set' => 'a']];
        // A thinner post: at the best reach it is clipped.
        yield 'span-closed as a caution' => [static fn (): Report => self::slats('{"rays":{"length":"unit"}}', Shapes::cylinder(0.1, 0.45, 24)->moved(0, 0.375, 0)), ['span-closed caution'], null, ['set' => 'a']];
        // Two boxes that touch along an edge: at its ends opposite normals cancel.
        yield 'ray-grazing' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1, 1, 0))], ['a_high' => self::rounded()->with(self::rounded()->moved(1, 1, 0))], '{"checks":{"ray-miss":{"severity":"off"},"mesh-nonmanifold":{"severity":"off"}}}'), ['ray-grazing blocker'], null, ['set' => 'a', 'part' => 'a_low']];
        yield 'cage-topology' => [static fn (): Report => self::caged(Shapes::box(1.2, 1.2, 1.2, 2)), ['cage-topology blocker'], 36.0, ['set' => 'a', 'part' => 'a_cage']];
        yield 'cage-topology by one face' => [static fn (): Report => self::caged(new Polygons(Shapes::box(1.2, 1.2, 1.2)->points, [...array_slice(Shapes::box(1.2, 1.2, 1.2)->faces, 0, 5), array_reverse(Shapes::box(1.2, 1.2, 1.2)->faces[5])])), ['cage-topology blocker'], 2.0, ['set' => 'a']];
        // A stud 0.55 from the middle, a cage face 0.51 from it.
        yield 'cage-pierced' => [static fn (): Report => self::caged(Shapes::box(1.02, 1.02, 1.02)), ['cage-pierced blocker'], 0.04, ['set' => 'a', 'part' => 'a_cage']];
        yield 'cage-inverted' => [static fn (): Report => self::caged(Shapes::box(1.2, 1.2, 1.2)->mapped(static fn (array $p): array => [$p[0], $p[1], -$p[2]])), ['cage-inverted blocker'], 8.0, ['set' => 'a', 'part' => 'a_cage']];
        yield 'explode-clash' => [static fn (): Report => self::exploded(0.02, '{"sets":[{"set":"a","vector":[-0.01,0,0]},{"set":"b","vector":[0,0,0]}]}'), ['explode-clash blocker', 'explode-clash blocker'], null, ['set' => 'a', 'other' => 'b']];
        yield 'explode-clash by the gap' => [static fn (): Report => self::exploded(0.4, '{"clearance":0.5,"sets":[{"set":"a","vector":[-0.4,0,0]},{"set":"b","vector":[0,0,0]}]}'), ['explode-clash blocker'], 0.4, ['set' => 'a', 'other' => 'b']];
        // The high part moved by 0.002 more than the low one, in an asset of D = √(2.4² + 1 + 1).
        yield 'explode-drift' => [static fn (): Report => self::exploded(0.4, null, 0.002), ['explode-drift blocker'], 0.002 / sqrt(2.4 ** 2 + 2), ['set' => 'a']];
        // Ribs of 0.05 all over the top of a box: rays lean by x / 0.5 of their height.
        yield 'ray-lean' => [static fn (): Report => self::ribbed(range(-8, 8)), ['ray-lean caution'], null, ['set' => 'a']];
        yield 'surfaces-cross' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5), 'b_low' => Shapes::box(0.2, 1.02, 0.2)->moved(0, 0.99, 0)->placed(0.5, 0, 0.5)], ['a_high' => self::rounded(), 'b_high' => Shapes::roundedBox(0.2, 1.02, 0.2, 0.02, 2)->moved(0, 0.99, 0)], '{"checks":{"buried":{"severity":"off"}}}'), ['surfaces-cross note'], null, ['set' => 'a', 'other' => 'b']];
        // A shelf over a box that has no high poly of its own: with so long a reach it takes the top of the box, 0.3 beneath.
        yield 'surface-gap' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5)->with(Shapes::sheet(0.5, 0.5)->moved(0, 0.8, 0)->placed(0.5, 0.5, 0.5))], ['a_high' => self::rounded()], '{"reach":{"*":{"out":0.05,"in":0.4}},"checks":{"reach-long":{"severity":"off"},"span-closed":{"severity":"off"},"buried":{"severity":"off"}}}'), ['surface-gap caution'], null, ['set' => 'a']];
        // A box in which its high lies 0.04 deeper all round, over 2 % of √3: within the recommended reach it belongs.
        yield 'surface-gap within the reach' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::roundedBox(0.92, 0.92, 0.92, 0.03, 2)], '{"checks":{"off-alignment":{"severity":"off"}}}'), ['surface-gap note'], 1.0, ['set' => 'a']];
        // A card of 1 × 1 around a leaf of 0.8 × 0.8.
        yield 'low-margin' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(0.8, 0.8, 9, 9)->moved(0, 0.0, 0)], '{"checks":{"off-alignment":{"severity":"off"}}}'), ['low-margin caution'], 0.36, ['set' => 'a', 'part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'low-margin of a card' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(0.8, 0.8, 9, 9)], '{"checks":{"off-alignment":{"severity":"off"}}}', '{"cards":["a_*"]}'), ['low-margin note'], 0.36, ['part' => 'a_low']];
        yield 'normals-inverted' => [static fn (): Report => self::withMesh(static fn (Mesh $m): Mesh => new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, array_map(static fn (float $x): float => -$x, $m->normals), $m->triNormals, [], $m->faces, $m->materials, $m->materialRuns)), ['normals-inverted blocker'], 1.0, ['part' => 'a_low']];
        yield 'mesh-flipped, a high that its low meets from behind' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->flipped()]), ['mesh-flipped blocker'], null, ['part' => 'a_high', 'file' => 'x_high.obj']];
        // A post of which a fifth stands in a plate: a fifth of four sides and the whole foot, of six faces of one UV area: 0.3, estimated on 128 places.
        yield 'buried' => [static fn (): Report => Assets::report(['plate_low' => Shapes::box(2, 0.4, 2)->placed(0, 0, 0.5), 'post_low' => Shapes::box(0.2, 1, 0.2)->moved(0, 0.5, 0)->placed(0.5, 0, 0.5)], ['plate_high' => Shapes::roundedBox(2, 0.4, 2, 0.02, 2, 8), 'post_high' => Shapes::roundedBox(0.2, 1, 0.2, 0.02, 2, 8)->moved(0, 0.5, 0)], '{"checks":{"surfaces-cross":{"severity":"off"}}}'), ['buried note'], 0.2891, ['set' => 'post']];
        yield 'id-missing' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#0000FF', 'c' => null]), ['id-missing blocker'], null, ['part' => 'c_high']];
        yield 'id-close' => [static fn (): Report => self::coloured(['a' => '#E8112D', 'b' => '#E0151F']), ['id-close blocker'], 3.3, ['part' => 'a_high', 'other' => 'b_high']];
        yield 'id-mix' => [static fn (): Report => self::withIds([[0, 'r'], [190, 'b']], ['r' => '#FF0000', 'b' => '#0000FF'], '#A800A0'), ['id-mix caution'], 8.367, ['part' => 'a_id', 'other' => 'a_id', 'file' => 'x_id.obj']];
        yield 'id-close where two touch' => [static fn (): Report => self::withIds([[0, 'r'], [190, 'b']], ['r' => '#FF0000', 'b' => '#C80050'], '#0000FF'), ['id-close caution'], null, ['part' => 'a_id', 'other' => 'a_id']];
        yield 'id-dull' => [static fn (): Report => self::coloured(['a' => '#808080', 'b' => '#FF0000']), ['id-dull caution'], 0.0, ['part' => 'a_high', 'file' => 'x_high.obj']];
        yield 'id-reused' => [static fn (): Report => self::withIds([[0, 'r']], ['r' => '#FF0000'], '#FF0000'), ['id-reused note'], 2.0, ['part' => 'a_id']];
        yield 'id-gradient' => [static fn (): Report => self::blended(2048, 20), ['id-gradient caution'], null, ['part' => 'a_high', 'file' => 'x_high.obj']];
        yield 'id-drift' => [static fn (): Report => self::withIds([[0, 'r']], ['r' => '#FF0000'], '#0000FF', 2e-5), ['id-drift blocker'], 2e-5, ['file' => 'x_id.obj']];
        yield 'id-drift by triangles' => [static fn (): Report => self::withIds([[0, 'r']], ['r' => '#FF0000'], '#0000FF', 0.0, 1), ['id-drift blocker'], 1.0, ['file' => 'x_id.obj']];
        yield 'id-drift, a part that is not there' => [static fn (): Report => self::withIds([[0, 'r']], ['r' => '#FF0000'], null), ['id-drift blocker'], 1.0, ['file' => 'x_id.obj']];
        yield 'id-close as a caution' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#C81400']), ['id-close caution'], null, ['part' => 'a_high', 'other' => 'b_high']];
        yield 'uv-missing' => [static fn (): Report => Assets::report(['a_low' => new Polygons(Shapes::box(1, 1, 1)->points, Shapes::box(1, 1, 1)->faces)], ['a_high' => self::rounded()], self::UVS_ALONE), ['uv-missing blocker'], 36.0, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'uv-pose' => [static fn (): Report => self::posed(['all_pose' => self::lidOpen(0.01)->with(Shapes::box(1, 1, 1)->placed(0, 0, 0.5))]), ['uv-pose blocker'], 0.01, ['file' => 'x_pose.obj']];
        yield 'uv-pose, a part that does not ship' => [static fn (): Report => self::posed(['a_pose' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5)]), ['uv-pose blocker'], null, ['file' => 'x_pose.obj']];
        yield from SurfaceFixtures::found();
        yield 'uv-outside' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(0.05, 0.0, 1.0)], ['a_high' => self::rounded()], self::UVS_ALONE), ['uv-outside blocker'], null, ['part' => 'a_low', 'file' => 'x_low.obj']];
    }

    /**
     * @param  Closure(): Report  $make
     * @param  list<string>  $codes
     * @param  array<string, string>  $subject
     */
    #[DataProvider('found')]
    public function test_a_fault_is_found_once_with_its_value(Closure $make, array $codes, ?float $value, array $subject): void
    {
        $report = $make();
        $code = explode(' ', self::dataCode($this->dataName()))[0];
        $found = array_values(array_filter(Assets::codes($report), static fn (string $one): bool => self::isAsked($code, explode(' ', $one)[0])));
        sort($found);
        sort($codes);
        self::assertSame($codes, $found);
        $finding = Assets::finding($report, $code);
        self::assertNotNull($finding);
        self::assertSame('found', Assets::state($report, $code));
        self::assertSame($subject, array_intersect_key($finding->subject, $subject));
        if ($value !== null) {
            self::assertNotNull($finding->measure);
            self::assertEqualsWithDelta($value, $finding->measure->value, max(0.006 * abs($value), 0.001 * ($value > 1 ? 50 : 1)), $finding->message);
        }
        self::assertNotSame('', $finding->remedy);
        // Three measure a second thing beside what they declare.
        $finding->measure === null ?: self::assertContains($finding->measure->unit, [Catalogue::about()[$code]->unit, ...(['explode-clash' => ['length'], 'id-drift' => ['count'], 'floater-rim' => ['px', 'deg'], 'waiver-died' => ['share']][$code] ?? [])]);
    }

    /**
     * The UVs of shapes that show something else are as they come; those of fixtures on UVs are looked at by every check. What is left to paint follows from what rays
     * meet, and is asked of its own fixtures.
     */
    private static function isAsked(string $code, string $found): bool
    {
        foreach ([Station::Surface, Station::Proof] as $station) {
            if ((Catalogue::about()[$code]->station === $station) !== (Catalogue::about()[$found]->station === $station)) {
                return false;
            }
        }

        return true;
    }

    /**
     * @return iterable<string, array{Closure(): Report}>
     */
    public static function inside(): iterable
    {
        yield 'proof-retouch' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(1, 1, 20, 20)], '{"mapSize":256}')];
        yield 'part-gone' => [static fn (): Report => self::later(['c' => 0.0, 'b' => 0.0], ['a' => 0.0, 'b' => 0.0])];
        yield 'tie-half-moved' => [static fn (): Report => self::later(['a' => 0.9e-4 * M_SQRT3], ['a' => 0.0])];
        yield 'waiver-died' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->moved(0, 0.003 * sqrt(14), 0)], waivers: [new Waiver('off-alignment', ['part' => 'a_low'], 0.00301, 'Ines Falk', 'seen from afar')])];
        yield 'unit-mismatch' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1.98, 1.98, 1.98)])];
        yield 'name-duplicate' => [static fn (): Report => self::named('a_low', 'b_low', 'a_high', 'b_high')];
        yield 'material-count' => [static fn (): Report => Assets::reportOf([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->mesh(40, [[0, 'one'], [3, 'two']])]), Assets::file('x_high.obj', ['a_high' => self::rounded()])], '{"pages":2}')];
        yield 'pair-self' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1, 1, 1)->mapped(static fn (array $p): array => [$p[0] * 1.001, $p[1], $p[2]])])];
        yield 'role-mixed' => [static fn (): Report => Assets::reportOf([Assets::file('all.obj', ['a_low' => Shapes::box(1, 1, 1), 'a_high' => self::rounded()])])];
        yield 'ray-miss' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(1, 1, 20, 20)])];
        yield 'reach-short' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(2, 2, 2)], ['a_high' => Shapes::box(2.1, 2.1, 2.1)], '{"reach":{"a":{"out":"2.6%","in":"1%"}}}')];
        yield 'set-incomplete' => [static fn (): Report => Assets::report(['drum_low' => Shapes::box(1, 1, 1), 'pawl_low' => self::off(Shapes::box(1, 1, 1))], ['drum_high' => self::rounded(), 'other_high' => self::off(self::rounded())], '{}', '{"sets":{"works":["drum","pawl","other"]}}')];
        yield 'floater-unbacked' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2, 12, 12)->with(Shapes::sheet(0.4, 0.4, 4, 4)->moved(0, 0.05, 0))])];
        yield 'floater-rim' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2, 12, 12)->with(Shapes::sheet(0.4, 0.4, 4, 4)->moved(0, 0.004, 0))])];
        yield 'floater-rim that turns' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2, 2, 12, 12)->with(self::roof(0.002, 14.0))])];
        yield 'high-unseen' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->with(Shapes::sphere(0.05, 6, 8)->moved(0, 0.49, 0))])];
        yield 'overhang' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(2, 2)], ['a_high' => Shapes::sheet(2.05, 2, 14, 12)])];
        yield 'reach-long' => [static fn (): Report => self::slats('{"rays":{"length":"unit"},"reach":{"*":{"out":0.25,"in":0.02}}}')];
        yield 'span-closed' => [static fn (): Report => self::slats('{"rays":{"length":"unit"}}', Shapes::cylinder(0.1, 0.25, 24)->moved(0, 0.275, 0))];
        yield 'ray-grazing' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1.001, 1.001, 0))], ['a_high' => self::rounded()->with(self::rounded()->moved(1.001, 1.001, 0))])];
        yield 'surfaces-cross' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5), 'b_low' => Shapes::box(0.2, 0.5, 0.2)->moved(0, 0.75, 0)->placed(0.5, 0, 0.5)], ['a_high' => self::rounded(), 'b_high' => Shapes::roundedBox(0.2, 0.5, 0.2, 0.02, 2)->moved(0, 0.75, 0)])];
        // A face that begins at another corner is no difference.
        yield 'cage-topology' => [static fn (): Report => self::caged(new Polygons(Shapes::box(1.2, 1.2, 1.2)->triangulated()->points, array_map(static fn (array $face): array => [$face[1], $face[2], $face[0]], Shapes::box(1.2, 1.2, 1.2)->triangulated()->faces)))];
        yield 'cage-pierced' => [static fn (): Report => self::caged(Shapes::box(1.12, 1.12, 1.12))];
        yield 'cage-inverted' => [static fn (): Report => self::caged(Shapes::box(1.2, 1.2, 1.2))];
        yield 'explode-clash' => [static fn (): Report => self::exploded(0.4, '{"clearance":0.39,"sets":[{"set":"a","vector":[-0.4,0,0]},{"set":"b","vector":[0,0,0]}]}')];
        yield 'explode-drift' => [static fn (): Report => self::exploded(0.4, null, 0.0002)];
        yield 'ray-lean' => [static fn (): Report => self::ribbed([0])];
        // A border of 0.002 around a leaf: 0.8 % of the card.
        yield 'low-margin' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(0.996, 0.996, 9, 9)])];
        yield 'normals-inverted' => [static fn (): Report => Assets::report(['a_low' => self::oneInverted()], ['a_high' => self::rounded()])];
        yield 'surface-gap' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::roundedBox(0.97, 0.97, 0.97, 0.005, 2)], '{"checks":{"off-alignment":{"severity":"off"}}}')];
        yield 'buried' => [static fn (): Report => Assets::report(['plate_low' => Shapes::box(2, 0.4, 2)->placed(0, 0, 0.5), 'post_low' => Shapes::box(0.2, 1, 0.2)->moved(0, 0.71, 0)->placed(0.5, 0, 0.5)], ['plate_high' => Shapes::roundedBox(2, 0.4, 2, 0.02, 2, 8), 'post_high' => Shapes::roundedBox(0.2, 1, 0.2, 0.02, 2, 8)->moved(0, 0.71, 0)])];
        yield 'sets-bleed' => [static fn (): Report => self::neighbours(0.4)];
        yield 'file-extras' => [static fn (): Report => Assets::reportOf([...self::good(), new ReadFile('c.glb', null, 'cc', new Scene('glb', [], 'm', 'Y'), null)])];
        yield 'axis-mismatch' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->turned(0, 20)])];
        yield 'axis-mismatch, a round part that a turn does not change' => [static fn (): Report => Assets::report(['a_low' => Shapes::sphere(1, 12, 24)], ['a_high' => Shapes::sphere(1, 40, 80)->turned(0, 90)])];
        yield 'off-alignment' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->moved(0.0009 * sqrt(14), 0, 0)])];
        yield 'off-alignment, planks on one side' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->with(Shapes::box(2.9, 0.2, 0.9, 3)->moved(0, 1.05, 0))])];
        yield 'off-alignment, a thicker high' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => Shapes::roundedBox(3.1, 2.1, 1.1, 0.06, 3, 2)])];
        yield 'off-alignment, a round high over a coarse low' => [static fn (): Report => Assets::report(['a_low' => Shapes::cylinder(1, 3, 12)], ['a_high' => Shapes::roundedCylinder(1, 3, 0.05, 96, 4)->turned(1, 7)])];
        yield 'transform-unfrozen' => [static fn (): Report => self::placed(Matrix::scaling(1.000009), Matrix::scaling(1.000009))];
        yield 'transform-mirrored' => [static fn (): Report => self::placed(Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [-1.0, -1.0, 1.0]))];
        yield 'pivot-differs' => [static fn (): Report => self::placed(Matrix::identity(), Matrix::ofTrs([0.0009 * M_SQRT3, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0]))];
        yield 'high-doubled' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high_one' => self::rounded(), 'a_high_two' => Shapes::cylinder(0.2, 0.1, 24)->moved(0, 0.5, 0)], '{"suffixes":{"high":["_high","_high_*"]}}')];
        yield 'name-unsafe' => [static fn (): Report => self::named(str_repeat('a', 59).'_low', 'b_low', str_repeat('a', 59).'_high', 'b_high')];
        yield 'mesh-degenerate' => [static fn (): Report => self::lowFaces(static fn (array $faces): array => $faces)];
        yield 'mesh-nonmanifold' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(1.001, 1.001, 0))], ['a_high' => self::rounded()->with(self::rounded()->moved(1.001, 1.001, 0))])];
        yield 'mesh-flipped' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(0.6, 0.6, 0.6)->flipped()->placed(2, 0, 1))], ['a_high' => self::rounded()->with(Shapes::roundedBox(0.6, 0.6, 0.6, 0.02, 3, 2)->flipped())])];
        yield 'mesh-doubled' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved(0.001, 0.5, 0)->placed(1, 0, 1))], ['a_high' => self::rounded()->with(self::rounded()->moved(0.001, 0.5, 0))])];
        yield 'mesh-loose' => [static fn (): Report => self::withFacts(new PartFacts)];
        yield 'mesh-ngon' => [static fn (): Report => Assets::report(['a_low' => GoodAssetsTest::prism(12)], ['a_high' => Shapes::roundedCylinder(1, 1, 0.05, 96, 5)])];
        yield 'normals-missing' => [static fn (): Report => self::withMesh(static fn (Mesh $m): Mesh => new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, [], [], [], $m->faces, $m->materials, $m->materialRuns, array_fill(0, $m->triangleCount(), 1)))];
        yield 'normals-invalid' => [static fn (): Report => self::withFacts(new PartFacts(normalLength: 1.0009))];
        yield 'triangle-budget' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()], '{"triangleBudget":12}')];
        yield 'material-stray' => [static fn (): Report => self::stray(0.006)];
        yield 'material-missing' => [static fn (): Report => self::named('a_low', 'b_low', 'a_high', 'b_high')];
        yield 'high-not-denser' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1, 4)], ['a_high' => Shapes::box(1.01, 1.01, 1.01, 5)])];
        yield 'high-faceted' => [static fn (): Report => Assets::report(['a_low' => Shapes::cylinder(1, 2, 8)], ['a_high' => Shapes::cylinder(1, 2, 24)])];
        yield 'high-covers-detail' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1, 1, 1, 4)->with(Shapes::cylinder(0.1, 0.3, 24)->moved(0, 0.5, 0))])];
        yield 'name-near' => [static fn (): Report => Assets::report(['bolt_01_low' => Shapes::box(1, 1, 1), 'bolt_02_low' => self::off(Shapes::box(1, 1, 1))], ['bolt_01_high' => self::rounded(), 'bolt_02_high' => self::off(self::rounded())])];
        yield 'pair-crossed' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => Shapes::box(1, 1, 1)->moved(0.06, 0, 0)], ['a_high' => self::rounded(), 'b_high' => self::rounded()->moved(0.06, 0, 0)])];
        yield 'pair-apart' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(1, 1, 9, 9)->moved(0, 0.013, 0)])];
        yield 'id-close' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#0000FF'])];
        yield 'id-close, near but not touching' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#C80050'])];
        yield 'id-mix' => [static fn (): Report => self::withIds([[0, 'r'], [190, 'b']], ['r' => '#FF0000', 'b' => '#0000FF'], '#B000B0')];
        yield 'id-dull' => [static fn (): Report => self::coloured(['a' => '#BE6060', 'b' => '#020202', 'c' => '#FFFFFF'])];
        yield 'id-reused' => [static fn (): Report => self::withIds([[0, 'r']], ['r' => '#FF0000'], '#FF0000', material: 'm_a')];
        yield 'id-gradient' => [static fn (): Report => self::blended(16, 40)];
        yield 'id-drift' => [static fn (): Report => self::withIds([[0, 'r']], ['r' => '#FF0000'], '#0000FF', 0.9e-5)];
        yield 'id-missing' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#0000FF', 'c' => '#00FF00'])];
        yield 'uv-outside' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(3.0, -2.0, 1.0)], ['a_high' => self::rounded()])];
        yield from SurfaceFixtures::inside();
        yield 'uv-pose' => [static fn (): Report => self::posed(['lid_pose' => self::lidOpen(0.0000008), 'a_pose' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5)])];
        // Divided otherwise, in another order, from another corner on, and a whole page away.
        yield 'uv-pose, one part, turned faces' => [static function (): Report {
            $all = self::lidOpen(0.0)->placed(1.0, 0, 1.0, 1.0)->with(Shapes::box(1, 1, 1)->placed(0, 0, 0.5));
            $turned = static fn (array $corners): array => [...array_slice($corners, 1), $corners[0]];

            return self::posed(['all_pose' => new Polygons($all->points, array_reverse(array_map($turned, $all->faces)), array_reverse(array_map($turned, $all->uvs)))]);
        }];
    }

    /**
     * A box and its lid baked apart from what ships.
     *
     * @param  array<string, Polygons>  $pose
     */
    private static function posed(array $pose): Report
    {
        return Assets::reportOf([
            Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5), 'lid_low' => self::off(Shapes::box(1, 1, 1)->placed(0.5, 0.5, 0.5))]),
            Assets::file('x_high.obj', ['a_high' => self::rounded(), 'lid_high' => self::off(self::rounded())]),
            Assets::file('x_pose.obj', $pose),
        ], self::UVS_ALONE);
    }

    /** The lid where it ships, its unwrap moved sideways. */
    private static function lidOpen(float $by): Polygons
    {
        return Shapes::box(1, 1, 1)->turned(0, 70)->moved(0, 1, 0)->placed(0.5 + $by, 0.5, 0.5);
    }

    /**
     * @param  Closure(): Report  $make
     */
    #[DataProvider('inside')]
    public function test_what_is_just_inside_a_limit_is_not_found(Closure $make): void
    {
        $report = $make();
        $code = self::dataCode($this->dataName());
        self::assertNull(Assets::finding($report, $code), implode(', ', Assets::codes($report)));
        self::assertContains(Assets::state($report, $code), ['passed', 'not-applicable']);
    }

    public function test_rays_are_not_shot_at_another_size_and_that_does_not_count_as_passed(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->scaled(10, 10, 10)]);
        self::assertSame('not-run', Assets::state($report, 'ray-miss'));
        self::assertFalse($report->isReady());
    }

    /** A dome whose high is turned inside out: the sliver of it that can still be judged is no margin of the whole part. */
    public function test_what_a_turned_high_leaves_to_judge_is_no_margin_of_the_whole(): void
    {
        $dome = static fn (int $n): Polygons => Shapes::sheet(1, 1, $n, $n)->mapped(static fn (array $p): array => [$p[0], 0.3 - 0.3 * ($p[0] ** 2 + $p[2] ** 2), $p[2]]);
        $report = Assets::report(['a_low' => $dome(6)], ['a_high' => $dome(20)->flipped()]);
        self::assertSame(['mesh-flipped blocker'], Assets::codesBesideSurface($report));
        self::assertSame('not-run', Assets::state($report, 'low-margin'));
    }

    /** Which side normals should look to is not known while their faces are turned; it is known of the other part. */
    public function test_normals_of_faces_turned_inside_out_are_not_judged(): void
    {
        $report = Assets::report(['a_low' => Shapes::sheet(1, 1)->flipped(), 'b_low' => self::off(Shapes::box(1, 1, 1))], ['a_high' => Shapes::sheet(1, 1, 9, 9), 'b_high' => self::off(self::rounded())]);
        self::assertNotNull(Assets::finding($report, 'mesh-flipped'));
        self::assertNull(Assets::finding($report, 'normals-inverted'));
        self::assertSame('not-run', Assets::state($report, 'normals-inverted'));
        $mended = Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(1, 1, 9, 9)]);
        self::assertNotSame('not-run', Assets::state($mended, 'normals-inverted'));
    }

    /**
     * @return iterable<string, array{int, callable(): Polygons, string}>
     */
    public static function turnedParts(): iterable
    {
        $strip = Shapes::sheet(1, 1, 4, 4);
        $against = new Polygons($strip->points, [...array_map(array_reverse(...), array_slice($strip->faces, 0, 4)), ...array_slice($strip->faces, 4)], [...array_map(array_reverse(...), array_slice($strip->uvs, 0, 4)), ...array_slice($strip->uvs, 4)]);
        yield 'inside out' => [1, static fn (): Polygons => Shapes::box(1, 1, 1)->flipped(), 'a0_low'];
        yield 'against their neighbors' => [1, static fn (): Polygons => $against, 'a0_low'];
        yield 'six' => [6, static fn (): Polygons => Shapes::sheet(1, 1)->flipped(), 'a0_low, a1_low, a2_low, a3_low, a4_low, a5_low'];
    }

    /** @param  callable(): Polygons  $low */
    #[DataProvider('turnedParts')]
    public function test_parts_with_turned_faces_are_named_where_their_normals_cannot_be_judged(int $count, callable $low, string $words): void
    {
        $lows = $highs = [];
        for ($i = 0; $i < $count; $i++) {
            $lows["a{$i}_low"] = $low()->moved(3 * $i, 0, 0);
            $highs["a{$i}_high"] = (count($low()->faces) === 6 ? self::rounded() : Shapes::sheet(1, 1, 9, 9))->moved(3 * $i, 0, 0);
        }
        $reasons = array_column(array_map(static fn ($result): array => [$result->about->code, $result->reason], Assets::report($lows, $highs)->results), 1, 0);
        self::assertSame("flip the faces that mesh-flipped reports first: $words", $reasons['normals-inverted']);
    }

    public function test_without_normals_none_of_them_can_be_inverted(): void
    {
        $bare = static fn (Mesh $m): Mesh => new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, [], [], [], $m->faces, $m->materials, $m->materialRuns);
        self::assertSame('not-applicable', Assets::state(self::withMesh($bare), 'normals-inverted'));
        $flipped = Assets::report(['a_low' => $bare(Assets::worn(Shapes::box(1, 1, 1)->flipped()->mesh()))], ['a_high' => self::rounded()]);
        self::assertSame('not-applicable', Assets::state($flipped, 'normals-inverted'));
    }

    public function test_a_set_without_area_is_not_run_and_never_passed(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(1, 1, 1)->scaled(1, 0, 0)], ['a_high' => self::rounded()], '{"checks":{"unit-mismatch":{"severity":"off"}}}');
        self::assertSame('not-run', Assets::state($report, 'ray-miss'));
        self::assertFalse($report->isReady());
    }

    public function test_a_one_triangle_part_and_a_part_far_away_are_measured(): void
    {
        $triangle = new Polygons([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 0.0, -1.0]], [[0, 1, 2]], [[[0.1, 0.1], [0.9, 0.1], [0.1, 0.9]]]);
        self::assertSame(['pair-self note'], Assets::codesBesideSurface(Assets::report(['a_low' => $triangle], ['a_high' => $triangle])));
        $far = static fn (Polygons $shape): Polygons => $shape->moved(1e6, 0, 0);
        self::assertSame([], Assets::codesBesideSurface(Assets::report(['a_low' => $far(Shapes::box(16, 16, 16))], ['a_high' => $far(Shapes::roundedBox(16, 16, 16, 1.0, 3, 2))])));
    }

    public function test_a_partner_in_the_wrong_file_is_one_finding(): void
    {
        $report = Assets::reportOf([
            Assets::file('l.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1)), 'b_high' => self::off(self::rounded())], Role::Low),
            Assets::file('h.obj', ['a_high' => self::rounded()], Role::High),
        ]);
        self::assertSame(['role-mixed blocker'], Assets::codesBesideSurface($report));
    }

    public function test_the_unit_factor_is_named(): void
    {
        foreach ([[10.0, 'a factor of 10'], [39.37, 'a factor of 39.37'], [2.54, 'a factor of 2.54']] as [$factor, $words]) {
            $report = Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->scaled($factor, $factor, $factor)]);
            self::assertStringContainsString($words, Assets::finding($report, 'unit-mismatch')->message ?? '');
        }
    }

    public function test_what_is_left_out_is_judged_by_no_check(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => new Polygons(Shapes::box(1, 1, 1)->points, Shapes::box(1, 1, 1)->faces)], ['a_high' => self::rounded()], '{}', '{"leftOut":["b"]}');
        self::assertSame([], Assets::codesBesideSurface($report));
    }

    public function test_a_standard_changes_severity_and_limit_and_can_switch_a_check_off(): void
    {
        $make = static fn (string $standard): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], $standard, rays: 16384);
        self::assertSame(['ray-miss note'], Assets::codesBesideSurface($make('{"checks":{"ray-miss":{"severity":"note"}}}')));
        self::assertSame(['ray-miss caution'], Assets::codesBesideSurface($make('{"checks":{"ray-miss":{"limit":0.03}}}')));
        self::assertSame([], Assets::codesBesideSurface($make('{"checks":{"ray-miss":{"limit":0.03,"caution":0.025}}}')), 'both limits can be moved');
        self::assertSame(['ray-miss caution'], Assets::codesBesideSurface($make('{"checks":{"ray-miss":{"limit":0.03,"caution":0.015}}}')));
        self::assertEqualsWithDelta(0.015, Assets::finding($make('{"checks":{"ray-miss":{"limit":0.03,"caution":0.015}}}'), 'ray-miss')->measure->limit ?? 0.0, 1e-12);
        $moved = static fn (string $standard): Report => Assets::report(['a_low' => Shapes::box(3, 2, 1)], ['a_high' => self::slab()->moved(0, 0.003 * sqrt(14), 0)], $standard);
        self::assertSame([], Assets::codesBesideSurface($moved('{"checks":{"off-alignment":{"caution":0.004}}}')));
        self::assertSame(['off-alignment caution'], Assets::codesBesideSurface($moved('{"checks":{"off-alignment":{"limit":0.01}}}')), 'a fifth of the limit, where nothing else is said');
        $off = $make('{"checks":{"ray-miss":{"severity":"off"}}}');
        self::assertSame([], Assets::codesBesideSurface($off));
        self::assertSame('not-applicable', Assets::state($off, 'ray-miss'));
    }

    public function test_a_waiver_holds_until_the_measure_gets_worse(): void
    {
        $waived = static fn (float $value): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], waivers: [new Waiver('ray-miss', ['set' => 'a'], $value, 'lead artist', 'behind the lid')], rays: 16384);
        self::assertTrue($waived(0.03)->isReady());
        self::assertTrue(Assets::finding($waived(0.03), 'ray-miss')->waived ?? false);
        self::assertFalse($waived(0.01)->isReady());
    }

    public function test_a_waiver_of_the_value_that_was_printed_holds(): void
    {
        foreach ([[1 / 3, false], [2 / 3, true], [1e-5 / 7, false], [12345.678912345, true]] as [$value, $lessIsWorse]) {
            $measured = new Measured($value, 1.0, 'share', $lessIsWorse);
            $printed = $measured->toArray()['value'];
            self::assertNotSame($value, $printed);
            self::assertFalse($measured->isWorseThan($printed));
            self::assertTrue((new Measured($value * ($lessIsWorse ? 1 - 1e-6 : 1 + 1e-6), 1.0, 'share', $lessIsWorse))->isWorseThan($printed));
        }
    }

    public function test_every_check_has_a_fixture_on_both_sides_or_a_reason(): void
    {
        $triggered = array_unique(array_map(self::dataCode(...), array_keys(iterator_to_array(self::found()))));
        // Sealing is tested on packages, in PackageTest; maps that came back in ReturnedMapsTest.
        $missing = array_diff(array_keys(Catalogue::about()), $triggered, ['package-readback', 'package-stale', 'package-mixed'], array_filter(array_keys(Catalogue::about()), static fn (string $code): bool => str_starts_with($code, 'map-')));
        self::assertSame([], array_values($missing));
        self::assertSame(array_map(static fn (About $about): int => $about->row, array_values(Catalogue::about())), array_unique(array_map(static fn (About $about): int => $about->row, array_values(Catalogue::about()))), 'each in a row of its own');
    }

    private static function dataCode(int|string $name): string
    {
        return (string) preg_replace('/[ ,].*/', '', (string) $name);
    }

    private static function rounded(): Polygons
    {
        return Shapes::roundedBox(1, 1, 1, 0.06, 3, 2);
    }

    private static function off(Polygons $shape): Polygons
    {
        return $shape->moved(3, 0, 0);
    }

    /**
     * @return list<ReadFile>
     */
    private static function good(): array
    {
        return [
            Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1))]),
            Assets::file('x_high.obj', ['a_high' => self::rounded(), 'b_high' => self::off(self::rounded())]),
        ];
    }

    /**
     * A delivery and the one before it: boxes side by side, their low parts moved along.
     *
     * @param  array<string, float>  $now  base → how far
     * @param  array<string, float>  $before
     */
    private static function later(array $now, array $before): Report
    {
        $files = static function (array $moves): array {
            $low = $high = [];
            foreach (array_keys($moves) as $i => $base) {
                $low["{$base}_low"] = Shapes::box(1, 1, 1)->moved(3 * $i + $moves[$base], 0, 0)->placed(0.5 * $i, 0, 0.5);
                $high["{$base}_high"] = self::rounded()->moved(3 * $i, 0, 0);
            }

            return [Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)];
        };

        return Assets::reportOf($files($now), last: LastDelivery::of(Asset::of($files($before), Standard::builtIn(), new Choices)));
    }

    private static function slab(): Polygons
    {
        return Shapes::roundedBox(3, 2, 1, 0.06, 3, 2);
    }

    /** Without notes on boxes that have nothing to do with what is shown. */
    private const UVS_ALONE = '{"checks":{"silhouette-loss":{"severity":"off"},"uv-turned":{"severity":"off"},"uv-use":{"severity":"off"}}}';

    /** A box and its high as glTF nodes with these matrices; the vertices stay where they are. */
    private static function placed(Matrix $low, ?Matrix $high = null): Report
    {
        $part = static fn (string $name, Polygons $shape, Matrix $matrix): Part => new Part($name, Assets::worn($shape->mesh()), [], null, new PartFacts($matrix, uvSets: 1));

        return Assets::reportOf([
            Assets::file('x_low.glb', [$part('a_low', Shapes::box(1, 1, 1), $low)]),
            Assets::file('x_high.glb', [$part('a_high', self::rounded(), $high ?? $low)]),
        ]);
    }

    private static function withFacts(PartFacts $facts): Report
    {
        return Assets::reportOf([
            Assets::file('x_low.obj', [new Part('a_low', Assets::worn(Shapes::box(1, 1, 1)->mesh()), [], null, $facts)]),
            Assets::file('x_high.obj', ['a_high' => self::rounded()]),
        ]);
    }

    /**
     * @param  Closure(Mesh): Mesh  $change
     */
    private static function withMesh(Closure $change): Report
    {
        return Assets::report(['a_low' => $change(Assets::worn(Shapes::box(1, 1, 1)->mesh()))], ['a_high' => self::rounded()]);
    }

    /** A box of 432 triangles of which one corner's normal points inward: 0.08 % of it. */
    private static function oneInverted(): Mesh
    {
        $m = Assets::worn(Shapes::box(1, 1, 1, 6)->mesh());
        $n = 3 * $m->triNormals[0];
        $triNormals = [intdiv(count($m->normals), 3), ...array_slice($m->triNormals, 1)];

        return new Mesh($m->positions, $m->triangles, $m->uvs, $m->triUvs, [...$m->normals, -$m->normals[$n], -$m->normals[$n + 1], -$m->normals[$n + 2]], $triNormals, [], $m->faces, $m->materials, $m->materialRuns);
    }

    /**
     * @param  Closure(list<list<int>>): list<list<int>>  $change
     */
    private static function lowFaces(Closure $change, string $standard = '{}'): Report
    {
        $box = Shapes::box(1, 1, 1);
        $faces = $change($box->faces);
        $uvs = array_map(static fn (array $face): array => array_map(static fn (int $v): array => [0.1 + 0.1 * $v, 0.2 + 0.05 * $v * $v / 7], $face), $faces);

        return Assets::report(['a_low' => new Polygons($box->points, $faces, $uvs)], ['a_high' => self::rounded()], $standard);
    }

    /** Two boxes of two materials: the second with this share of all the area. */
    private static function stray(float $share): Report
    {
        $side = sqrt($share / (1 - $share));
        $low = Shapes::box(1, 1, 1)->with(Shapes::box($side, $side, $side)->placed(1, 0, 1)->moved(2, 0, 0));

        return Assets::reportOf([
            Assets::file('x_low.obj', ['a_low' => $low->mesh(40, [[0, 'one'], [6, 'two']])]),
            Assets::file('x_high.obj', ['a_high' => self::rounded()->with(Shapes::roundedBox($side, $side, $side, 0.004, 3, 2)->moved(2, 0, 0))]),
        ]);
    }

    /** A box with a stud that stands 0.05 out of its top, in a cage. */
    private static function caged(Polygons $cage): Report
    {
        return Assets::reportOf([
            Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)]), Assets::file('x_high.obj', ['a_high' => self::rounded()->with(Shapes::cylinder(0.1, 0.2, 24)->moved(0, 0.45, 0))]), Assets::file('x_cage.obj', ['a_cage' => $cage]),
        ]);
    }

    /**
     * Two boxes that stood side by side, one moved away by a gap, held against an `explode.json` or, without one, against the original.
     *
     * @param  float  $drift  how much further its high part went
     */
    private static function exploded(float $gap, ?string $plan, float $drift = 0.0): Report
    {
        $files = static fn (float $by, float $more): array => [
            Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->moved(-0.5 - $by, 0, 0)->placed(0, 0, 0.5), 'b_low' => Shapes::box(1, 1, 1)->moved(0.5, 0, 0)->placed(0.5, 0, 0.5)]),
            Assets::file('x_high.obj', ['a_high' => self::rounded()->moved(-0.5 - $by - $more, 0, 0), 'b_high' => self::rounded()->moved(0.5, 0, 0)]),
        ];
        $assembled = $plan === null ? Assembled::ofOriginal(Measures::of($files(0.0, 0.0), Standard::builtIn(), Choices::ofJson('{}'))->asset) : Assembled::ofPlan($plan);

        return Assets::reportOf($files($gap, $drift), '{"rays":{"backFaces":true},"checks":{"off-alignment":{"severity":"off"}}'.($gap < 0.1 ? ',"reach":{"*":{"out":0.1,"in":0.1}}' : '').'}', assembled: $assembled);
    }

    /**
     * A box with ribs of 0.02 × 0.05 across its top, 0.05 from each other.
     *
     * @param  list<int>  $places
     */
    private static function ribbed(array $places): Report
    {
        $ribs = array_map(static fn (int $i): Polygons => Shapes::box(0.02, 0.06, 0.9)->moved(0.05 * $i, 0.52, 0), $places);

        return Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Polygons::join([Shapes::roundedBox(1, 1, 1, 0.01, 2), ...$ribs])], rays: 16384);
    }

    /** A panel of 2 × 2 with a hole of 0.6 × 0.6 in its middle. */
    private static function holed(): Polygons
    {
        return Shapes::welded(Polygons::join([Shapes::sheet(2, 0.7, 12, 4)->moved(0, 0, -0.65), Shapes::sheet(2, 0.7, 12, 4)->moved(0, 0, 0.65), Shapes::sheet(0.7, 0.6, 4, 4)->moved(-0.65, 0, 0), Shapes::sheet(0.7, 0.6, 4, 4)->moved(0.65, 0, 0)]));
    }

    /** A pyramid without a floor, its rim so high and its sides so steep. */
    private static function roof(float $height, float $degrees): Polygons
    {
        $top = $height + 0.2 * tan(deg2rad($degrees));

        return new Polygons([[-0.2, $height, -0.2], [-0.2, $height, 0.2], [0.2, $height, 0.2], [0.2, $height, -0.2], [0.0, $top, 0.0]], [[0, 1, 4], [1, 2, 4], [2, 3, 4], [3, 0, 4]]);
    }

    /** Two slats of 1 × 0.1 × 1 at a gap of 0.2 as one set. */
    private static function slats(string $standard, ?Polygons $more = null): Report
    {
        $high = Shapes::roundedBox(1, 0.1, 1, 0.01, 2, 8);
        $both = $high->moved(0, 0.15, 0)->with($high->moved(0, -0.15, 0));

        return Assets::report(['a_low' => Shapes::box(1, 0.1, 1)->moved(0, 0.15, 0)->placed(0, 0, 0.4)->with(Shapes::box(1, 0.1, 1)->moved(0, -0.15, 0)->placed(0.5, 0, 0.4))], ['a_high' => $more === null ? $both : $both->with($more)], $standard);
    }

    private static function bentQuad(): Polygons
    {
        $points = $faces = [];
        for ($i = 0; $i <= 8; $i++) {
            for ($j = 0; $j <= 8; $j++) {
                $points[] = [$j / 8, 0.1 * $i * $j / 64, $i / 8];
            }
        }
        for ($i = 0; $i < 8; $i++) {
            for ($j = 0; $j < 8; $j++) {
                $a = 9 * $i + $j;
                $faces[] = [$a, $a + 9, $a + 10, $a + 1];
            }
        }

        return new Polygons($points, $faces);
    }

    private static function named(string $lowA, string $lowB, string $highA, string $highB): Report
    {
        return Assets::report([$lowA => Shapes::box(1, 1, 1), $lowB => self::off(Shapes::box(1, 1, 1))], [$highA => self::rounded(), $highB => self::off(self::rounded())]);
    }

    /** A sheet of 1 × 1 in 20 × 20 squares, of which 8 (2 %) or 1 (0.25 %) is cut out of the middle. */
    private static function sheetWithHole(int $wide): Polygons
    {
        $sheet = Shapes::sheet(1, 1, 20, 20);
        $faces = [];
        foreach ($sheet->faces as $f => $face) {
            $row = intdiv($f, 20);
            $column = $f % 20;
            $cut = $wide === 0 ? $row === 10 && $column === 10 : $row >= 9 && $row < 11 && $column >= 8 && $column < 12;
            if (! $cut) {
                $faces[] = $face;
            }
        }

        return new Polygons($sheet->points, $faces);
    }

    /** Two finely cut slabs side by side with a gap; the first needs a reach of 0.15 at its boss, and sets are baked together. */
    private static function neighbours(float $gap): Report
    {
        $slab = Shapes::box(1, 0.05, 1, 12);
        $boss = Shapes::cylinder(0.1, 0.3, 24)->moved(0, 0, 0);
        $high = Shapes::box(1, 0.05, 1, 16)->with($boss->turned(2, 90)->moved(0.5, 0, 0));

        return Assets::report(
            ['a_low' => $slab->placed(0, 0, 0.5), 'b_low' => Shapes::box(1, 0.02, 1, 4)->placed(0.5, 0.5, 0.5)->moved(0, 0.035 + $gap, 0)],
            ['a_high' => $high, 'b_high' => Shapes::roundedBox(1, 0.02, 1, 0.004, 2, 2)->moved(0, 0.035 + $gap, 0)],
            '{"rays":{"setsKeptApart":false},"checks":{"ray-miss":{"severity":"off"}},"reach":{"a":{"out":0.2,"in":0.05},"b":{"out":0.005,"in":0.005}}}',
        );
    }

    /**
     * @param  array<string, string|null>  $colors  base → colour of its high part
     */
    private static function coloured(array $colors): Report
    {
        $low = $high = [];
        $i = 0;
        foreach ($colors as $base => $hex) {
            $low["{$base}_low"] = Shapes::box(1, 1, 1)->placed($i / 3, 0, 1 / 3)->moved(3 * $i, 0, 0);
            $high["{$base}_high"] = new Part("{$base}_high", self::rounded()->moved(3 * $i, 0, 0)->mesh(30, [[0, "m_$base"]]), $hex === null ? [] : ["m_$base" => $hex]);
            $i++;
        }

        return Assets::reportOf([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)]);
    }

    /**
     * Two boxes with an ID file: the first in these materials, the second in one.
     *
     * @param  list<array{int, string}>  $runs
     * @param  array<string, string>  $colors
     * @param  string|null  $second  null: the second has no ID part
     * @param  float  $drift  how far the second ID is off, as a share of D
     * @param  int  $more  triangles that it has twice
     * @param  string  $material  of the second high part
     */
    private static function withIds(array $runs, array $colors, ?string $second, float $drift = 0.0, int $more = 0, string $material = 'm_b'): Report
    {
        $low = ['a_low' => Shapes::box(1, 1, 1)->placed(0, 0, 0.5), 'b_low' => Shapes::box(1, 1, 1)->placed(0.5, 0, 0.5)->moved(3, 0, 0)];
        $a = self::rounded();
        $b = self::rounded()->moved(3, 0, 0);
        $diagonal = sqrt(4 * 4 + 1 + 1);
        $drifted = $b->moved($drift * $diagonal, 0, 0);
        $drifted = $more === 0 ? $drifted : new Polygons($drifted->points, [...$drifted->faces, array_slice($drifted->faces[0], 0, 3)], [...$drifted->uvs, array_slice($drifted->uvs[0], 0, 3)]);

        return Assets::reportOf([
            Assets::file('x_low.obj', $low), Assets::file('x_high.obj', ['a_high' => $a->mesh(30, [[0, 'm_a']]), 'b_high' => $b->mesh(30, [[0, $material]])]),
            Assets::file('x_id.obj', [
                'a_id' => new Part('a_id', $a->mesh(30, $runs), $colors),
                ...($second === null ? [] : ['b_id' => new Part('b_id', $drifted->mesh(30, [[0, 'two']]), ['two' => $second])]),
            ]),
        ]);
    }

    /** A high box painted red at one end and blue at the other, with nothing split in between. */
    private static function blended(int $mapSize, int $cuts): Report
    {
        $mesh = Shapes::roundedBox(1, 1, 1, 0.06, 3, $cuts)->mesh(30, [[0, 'm']]);
        $colors = [];
        for ($v = 0; $v < $mesh->vertexCount(); $v++) {
            array_push($colors, ...($mesh->positions[3 * $v] > 0.3 ? [1.0, 0.0, 0.0] : [0.0, 0.0, 1.0]));
        }

        return Assets::reportOf([
            Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)]),
            Assets::file('x_high.obj', ['a_high' => new Part('a_high', new Mesh($mesh->positions, $mesh->triangles, $mesh->uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals, $colors, $mesh->faces, $mesh->materials, $mesh->materialRuns))]),
        ], "{\"mapSize\":$mapSize}");
    }

    public function test_meshes_without_high_give_no_set(): void
    {
        self::assertSame([], Assets::codesBesideSurface(Assets::reportOf([])));
        self::assertSame(0, (new Mesh([], []))->triangleCount());
    }
}
