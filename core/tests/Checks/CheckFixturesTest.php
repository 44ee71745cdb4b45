<?php

declare(strict_types=1);

namespace Anvil\Tests\Checks;

use Anvil\Checks\Catalogue;
use Anvil\Formats\Unreadable;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Inspection\ReadFile;
use Anvil\Inspection\Report;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Standard\CheckCodes;
use Anvil\Standard\Role;
use Anvil\Tests\Support\Assets;
use Closure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Every check with a fixture that triggers it, with its measured value, and one just inside the limit that does not.
 * Limits and codes: CHECKS.md. Common practice, no published source, where a fixture names none.
 */
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
        yield 'file-unreadable' => [static fn (): Report => Assets::reportOf([new ReadFile('x_low.obj', null, 'aa', null, Unreadable::onLine(3, 'is not a face')), Assets::file('x_high.obj', ['a_high' => Shapes::box(1, 1, 1)])]), ['file-unreadable blocker'], null, ['file' => 'x_low.obj']];
        yield 'file-empty' => [static fn (): Report => Assets::reportOf([...$good(), new ReadFile('c_low.obj', null, 'cc', new Scene('obj', []), null)]), ['file-empty blocker'], 0.0, ['file' => 'c_low.obj']];
        yield 'role-unknown' => [static fn (): Report => Assets::reportOf([...$good(), Assets::file('extra.obj', ['lid' => Shapes::box(1, 1, 1)])]), ['role-unknown blocker'], null, ['part' => 'lid', 'file' => 'extra.obj']];
        yield 'role-mixed' => [static fn (): Report => Assets::reportOf([Assets::file('l.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1)), 'stray_high' => Shapes::box(1, 1, 1)], Role::Low), Assets::file('h.obj', ['a_high' => self::rounded(), 'b_high' => self::off(self::rounded())], Role::High)]), ['role-mixed blocker'], null, ['part' => 'stray_high']];
        yield 'unit-mismatch' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->scaled(100, 100, 100)]), ['unit-mismatch blocker'], 100.0, ['file' => 'x_high.obj']];
        yield 'name-duplicate' => [static fn (): Report => Assets::reportOf([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1), 'twin' => new Part('a_low', self::off(Shapes::box(1, 1, 1))->mesh())]), Assets::file('x_high.obj', ['a_high' => self::rounded()->with(self::off(self::rounded()))])]), ['name-duplicate blocker'], 2.0, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'material-count' => [static fn (): Report => Assets::reportOf([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->mesh(40, [[0, 'one'], [3, 'two']])]), Assets::file('x_high.obj', ['a_high' => self::rounded()])], '{"pages":1}'), ['material-count blocker'], 2.0, ['file' => 'x_low.obj']];
        yield 'pair-self' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1, 1, 1)->mapped(static fn (array $p): array => [$p[0] * 1.00005, $p[1], $p[2]])]), ['pair-self note'], null, ['part' => 'a_low', 'other' => 'a_high']];
        yield 'pair-self by choice' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1))], ['b_high' => self::off(self::rounded())], '{}', '{"bakedOnItself":["a"]}'), ['pair-self note'], null, ['part' => 'a_low']];
        yield 'pair-no-high' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1))], ['a_high' => self::rounded()]), ['pair-no-high blocker'], null, ['part' => 'b_low', 'file' => 'x_low.obj']];
        yield 'pair-no-low' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded(), 'b_high' => self::off(self::rounded())]), ['pair-no-low blocker'], null, ['other' => 'b_high', 'file' => 'x_high.obj']];
        yield 'suffix-case' => [static fn (): Report => self::named('a_low', 'b_low', 'a_High', 'b_high'), ['suffix-case blocker'], null, ['part' => 'a_low', 'other' => 'a_High']];
        yield 'name-case' => [static fn (): Report => self::named('a_low', 'b_low', 'A_high', 'b_high'), ['name-case blocker'], null, ['part' => 'a_low', 'other' => 'A_high']];
        yield 'suffix-missing' => [static fn (): Report => self::named('a_low', 'b_low', 'a', 'b_high'), ['suffix-missing blocker'], null, ['part' => 'a_low', 'other' => 'a']];
        yield 'suffix-missing by another separator' => [static fn (): Report => self::named('a-low', 'b_low', 'a_high', 'b_high'), ['suffix-missing blocker'], null, ['part' => 'a-low', 'other' => 'a_high']];
        yield 'suffix-missing, one and one' => [static fn (): Report => Assets::report(['Cube' => Shapes::box(1, 1, 1)], ['Cube.001' => self::rounded()]), ['suffix-missing note'], null, ['part' => 'Cube']];
        // A hole in a sheet finely cut: 2 % of it has nothing over or under it.
        yield 'ray-miss' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], rays: 16384), ['ray-miss blocker'], 0.02, ['set' => 'a']];
        yield 'ray-miss as a caution' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(0)], rays: 32768), ['ray-miss caution'], 0.0025, ['set' => 'a']];
        // Needs 0.05·√3 outward (ClosedFormTest) and has 0.08.
        yield 'reach-short' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(2, 2, 2)], ['a_high' => Shapes::box(2.1, 2.1, 2.1)], '{"reach":{"*":{"out":0.08,"in":0.01}}}'), ['reach-short blocker', 'ray-miss blocker'], 0.05 * M_SQRT3 - 0.08, ['set' => 'a']];
        yield 'sets-bleed' => [static fn (): Report => self::neighbours(0.02), ['sets-bleed blocker'], null, ['set' => 'a', 'other' => 'b']];
        yield 'id-missing' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#0000FF', 'c' => null]), ['id-missing blocker'], null, ['part' => 'c_high']];
        yield 'id-close' => [static fn (): Report => self::coloured(['a' => '#E8112D', 'b' => '#E0151F']), ['id-close blocker'], 3.3, ['part' => 'a_high', 'other' => 'b_high']];
        yield 'id-close as a caution' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#C81400']), ['id-close caution'], null, ['part' => 'a_high', 'other' => 'b_high']];
        yield 'uv-missing' => [static fn (): Report => Assets::report(['a_low' => new Polygons(Shapes::box(1, 1, 1)->points, Shapes::box(1, 1, 1)->faces)], ['a_high' => self::rounded()]), ['uv-missing blocker'], 36.0, ['part' => 'a_low', 'file' => 'x_low.obj']];
        yield 'uv-outside' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(0.05, 0.0, 1.0)], ['a_high' => self::rounded()]), ['uv-outside blocker'], null, ['part' => 'a_low', 'file' => 'x_low.obj']];
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
        $found = Assets::codes($report);
        sort($found);
        sort($codes);
        self::assertSame($codes, $found);
        $code = explode(' ', self::dataCode($this->dataName()))[0];
        $finding = Assets::finding($report, $code);
        self::assertNotNull($finding);
        self::assertSame('found', Assets::state($report, $code));
        self::assertSame($subject, array_intersect_key($finding->subject, $subject));
        if ($value !== null) {
            self::assertNotNull($finding->measure);
            self::assertEqualsWithDelta($value, $finding->measure->value, max(0.006 * abs($value), 0.001 * ($value > 1 ? 50 : 1)), $finding->message);
        }
        self::assertNotSame('', $finding->remedy);
    }

    /**
     * @return iterable<string, array{Closure(): Report}>
     */
    public static function inside(): iterable
    {
        yield 'unit-mismatch' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1.98, 1.98, 1.98)])];
        yield 'name-duplicate' => [static fn (): Report => self::named('a_low', 'b_low', 'a_high', 'b_high')];
        yield 'material-count' => [static fn (): Report => Assets::reportOf([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)->mesh(40, [[0, 'one'], [3, 'two']])]), Assets::file('x_high.obj', ['a_high' => self::rounded()])], '{"pages":2}')];
        yield 'pair-self' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1, 1, 1)->mapped(static fn (array $p): array => [$p[0] * 1.001, $p[1], $p[2]])])];
        yield 'role-mixed' => [static fn (): Report => Assets::reportOf([Assets::file('all.obj', ['a_low' => Shapes::box(1, 1, 1), 'a_high' => self::rounded()])])];
        yield 'ray-miss' => [static fn (): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => Shapes::sheet(1, 1, 20, 20)])];
        yield 'reach-short' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(2, 2, 2)], ['a_high' => Shapes::box(2.1, 2.1, 2.1)], '{"reach":{"a":{"out":"2.6%","in":"1%"}}}')];
        yield 'sets-bleed' => [static fn (): Report => self::neighbours(0.4)];
        yield 'id-close' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#0000FF'])];
        yield 'id-missing' => [static fn (): Report => self::coloured(['a' => '#FF0000', 'b' => '#0000FF', 'c' => '#00FF00'])];
        yield 'uv-outside' => [static fn (): Report => Assets::report(['a_low' => Shapes::box(1, 1, 1)->placed(3.0, -2.0, 1.0)], ['a_high' => self::rounded()])];
    }

    /**
     * @param  Closure(): Report  $make
     */
    #[DataProvider('inside')]
    public function test_what_is_just_inside_a_limit_is_not_found(Closure $make): void
    {
        $report = $make();
        $code = (string) $this->dataName();
        self::assertNull(Assets::finding($report, $code), implode(', ', Assets::codes($report)));
        self::assertContains(Assets::state($report, $code), ['passed', 'not-applicable']);
    }

    public function test_rays_are_not_shot_at_another_size_and_that_does_not_count_as_passed(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => self::rounded()->scaled(10, 10, 10)]);
        self::assertSame('not-run', Assets::state($report, 'ray-miss'));
        self::assertFalse($report->isReady());
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
        self::assertSame(['pair-self note'], Assets::codes(Assets::report(['a_low' => $triangle], ['a_high' => $triangle])));
        $far = static fn (Polygons $shape): Polygons => $shape->moved(1e6, 0, 0);
        self::assertSame([], Assets::codes(Assets::report(['a_low' => $far(Shapes::box(16, 16, 16))], ['a_high' => $far(Shapes::roundedBox(16, 16, 16, 1.0, 3, 2))])));
    }

    public function test_a_partner_in_the_wrong_file_is_one_finding(): void
    {
        $report = Assets::reportOf([
            Assets::file('l.obj', ['a_low' => Shapes::box(1, 1, 1), 'b_low' => self::off(Shapes::box(1, 1, 1)), 'b_high' => self::off(self::rounded())], Role::Low),
            Assets::file('h.obj', ['a_high' => self::rounded()], Role::High),
        ]);
        self::assertSame(['role-mixed blocker'], Assets::codes($report));
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
        self::assertSame([], Assets::codes($report));
    }

    public function test_a_standard_changes_severity_and_limit_and_can_switch_a_check_off(): void
    {
        $make = static fn (string $standard): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], $standard, rays: 16384);
        self::assertSame(['ray-miss note'], Assets::codes($make('{"checks":{"ray-miss":{"severity":"note"}}}')));
        self::assertSame(['ray-miss caution'], Assets::codes($make('{"checks":{"ray-miss":{"limit":0.03}}}')));
        $off = $make('{"checks":{"ray-miss":{"severity":"off"}}}');
        self::assertSame([], Assets::codes($off));
        self::assertSame('not-applicable', Assets::state($off, 'ray-miss'));
    }

    public function test_a_waiver_holds_until_the_measure_gets_worse(): void
    {
        $waived = static fn (float $value): Report => Assets::report(['a_low' => Shapes::sheet(1, 1)], ['a_high' => self::sheetWithHole(2)], waivers: [new \Anvil\Standard\Waiver('ray-miss', ['set' => 'a'], $value, 'lead artist', 'behind the lid')], rays: 16384);
        self::assertTrue($waived(0.03)->isReady());
        self::assertTrue(Assets::finding($waived(0.03), 'ray-miss')->waived ?? false);
        self::assertFalse($waived(0.01)->isReady());
    }

    public function test_every_check_has_a_fixture_on_both_sides_or_a_reason(): void
    {
        $triggered = array_unique(array_map(self::dataCode(...), array_keys(iterator_to_array(self::found()))));
        // Sealing is tested on packages, in PackageTest.
        $missing = array_diff(array_keys(Catalogue::about()), $triggered, ['package-readback']);
        self::assertSame([], array_values($missing));
        self::assertSame([], array_diff(array_keys(Catalogue::about()), CheckCodes::ALL));
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
        $high = Shapes::box(1, 0.05, 1)->with($boss->turned(2, 90)->moved(0.5, 0, 0));

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

    public function test_meshes_without_high_give_no_set(): void
    {
        self::assertSame([], Assets::codes(Assets::reportOf([])));
        self::assertSame(0, (new Mesh([], []))->triangleCount());
    }
}
