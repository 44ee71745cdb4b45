<?php

declare(strict_types=1);

namespace Anvil\Tests\Inspection;

use Anvil\Asset\GivenFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\StandardSchema;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Inspection\Inspector;
use Anvil\Inspection\LearnedStandard;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\LimitValues;
use Anvil\Standard\Choices;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use Anvil\Tests\Support\MemorySource;
use Anvil\Unreadable;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/** Limits that good assets all pass, and by a hair no less; and the schema of a standard, that says what the reader says. */
#[Group('matrix')]
final class LearnedStandardTest extends TestCase
{
    private const RULES = '{"rays":{"count":2048},"mapSize":128,"checks":{"silhouette-loss":{"severity":"off"}}}';

    public function test_a_limit_goes_as_far_as_the_worst_of_the_good_assets(): void
    {
        $assets = ['post' => self::asset(0.001), 'cleat' => self::asset(0.0031), 'bitt' => self::asset(0.0074)];
        $learned = LearnedStandard::of($assets, Standard::ofJson(self::RULES), new Choices);
        self::assertTrue($learned->passesAll(), (string) json_encode($learned->left));
        $off = array_values(array_filter($learned->limits, static fn (array $one): bool => $one['code'] === 'off-alignment' && $one['of'] === 'limit'));
        self::assertSame([['off-alignment', 'bitt', 'share']], array_map(static fn (array $one): array => [$one['code'], $one['asset'], $one['unit']], $off));
        self::assertEqualsWithDelta(0.0074, $off[0]['value'], 1e-5);
        self::assertGreaterThanOrEqual($off[0]['value'], $off[0]['limit']);
        self::assertEqualsWithDelta(0.0074, $off[0]['limit'], 2e-5);
        foreach ($assets as $name => $files) {
            self::assertSame([], self::faults($files, $learned->standard), "$name passes");
        }
        // A hair less, and the one that set it fails.
        $less = $learned->standard->withLimits(['off-alignment' => ['limit' => 0.99 * $off[0]['value'], 'caution' => 0.99 * $off[0]['value']]]);
        self::assertSame(['off-alignment'], self::faults($assets['bitt'], $less));
        self::assertSame([], self::faults($assets['cleat'], $less));
        // It is a standard like any other: written, and read again.
        $again = Catalogue::standard((string) json_encode($learned->standard->toArray()));
        self::assertEquals($learned->standard, $again);
    }

    public function test_what_was_measured_before_teaches_the_same(): void
    {
        $assets = ['post' => self::asset(0.001), 'cleat' => self::asset(0.0031), 'bitt' => self::asset(0.0074)];
        $standard = Standard::ofJson(self::RULES);
        $values = [];
        foreach ($assets as $name => $files) {
            $report = Inspector::inspect($files, $standard, new Choices);
            $values[$name] = LimitValues::of($report->measures, $report->results);
        }
        $learned = LearnedStandard::ofValues($values, $standard);
        $whole = LearnedStandard::of($assets, $standard, new Choices);
        self::assertEquals($whole->standard, $learned->standard);
        // What blocked silenced the rays of one: whether those are clean is known once it is checked by the new limits.
        self::assertSame(['bitt' => ['ray-miss: Rays that meet nothing (did not run; known once it is checked again)']], $learned->left);
        self::assertSame(['bitt', ['off-alignment']], [$learned->limits[1]['asset'] ?? null, array_values(array_unique(array_column($learned->limits, 'code')))]);
        self::assertSame([2, 'cleat'], [$learned->limits[0]['others'] + 1, $learned->limits[0]['asset']]);
        foreach ($values as $name => $one) {
            self::assertSame($name !== 'bitt', LimitValues::isReady($one->under($learned->standard)), $name);
        }
        // What no limit mends is told.
        $report = Inspector::inspect(self::asset(0.0, 'broken_high_'), $standard, new Choices);
        $stuck = LearnedStandard::ofValues(['broken' => LimitValues::of($report->measures, $report->results)], $standard);
        self::assertFalse($stuck->passesAll());
        self::assertSame(['broken'], array_keys($stuck->left));
        self::assertSame(['pair-no-high: No high part of that name', 'pair-no-low: No low part of that name'], array_slice($stuck->left['broken'], 0, 2));
        // Of several of one check it says how many.
        $box = static fn (float $x): Polygons => Shapes::box(1, 1, 1)->moved($x, 0, 0);
        $report = Assets::report(['bell_low' => $box(0), 'gong_low' => $box(3), 'horn_low' => $box(6)], ['pole_high' => $box(20), 'rope_high' => $box(30), 'horn_high' => $box(6)]);
        $many = LearnedStandard::ofValues(['broken' => LimitValues::of($report->measures, $report->results)], $standard);
        self::assertContains('pair-no-high: No high part of that name (2)', $many->left['broken'], (string) json_encode($many->left));
    }

    public function test_rays_are_changed_and_nothing_else(): void
    {
        $learned = LearnedStandard::of(['bitt' => self::asset(0.0074)], Standard::ofJson(self::RULES), new Choices);
        $other = $learned->withRays(Standard::builtIn()->rays);
        self::assertNotEquals($learned->standard->rays, $other->standard->rays);
        self::assertEquals($learned->standard, $other->standard->withRays($learned->standard->rays));
        self::assertSame([$learned->limits, $learned->left], [$other->limits, $other->left]);
        self::assertNotSame([], $other->limits);
    }

    public function test_limits_that_all_keep_stay_and_what_no_limit_mends_is_told(): void
    {
        $good = LearnedStandard::of(['post' => self::asset(0.0)], Standard::ofJson(self::RULES), new Choices);
        self::assertSame([[], true], [$good->limits, $good->passesAll()]);
        $alone = LearnedStandard::of(['post' => self::asset(0.0), 'broken' => self::asset(0.0, 'broken_high_')], Standard::ofJson(self::RULES), new Choices);
        self::assertFalse($alone->passesAll());
        self::assertSame(['broken'], array_keys($alone->left));
        self::assertSame([], $alone->limits);
    }

    public function test_lengths_are_learned_as_shares_of_their_size(): void
    {
        // The rounded box beside it loses more of its own size, √14, than the cylinder of twelve sides of its own.
        $rules = '{"rays":{"count":2048},"mapSize":128,"checks":{"silhouette-loss":{"severity":"caution"},"rim-wave":{"severity":"off"},"off-alignment":{"severity":"off"},"soft-over-sharp":{"severity":"off"},"proof-retouch":{"severity":"off"}}}';
        $files = self::files(Shapes::cylinder(1, 2, 12), Shapes::cylinder(1, 2, 96), 'bell', 'bell_high');
        $learned = LearnedStandard::of(['bell' => $files], Standard::ofJson($rules), new Choices);
        self::assertSame(['silhouette-loss'], array_column($learned->limits, 'code'), (string) json_encode($learned->left));
        $limit = $learned->limits[0]['limit'];
        self::assertEqualsWithDelta($learned->limits[0]['value'] / sqrt(14), $limit, 1e-4);
        self::assertNotContains('silhouette-loss', self::faults($files, $learned->standard));
        self::assertContains('silhouette-loss', self::faults($files, $learned->standard->withLimits(['silhouette-loss' => ['limit' => 0.98 * $limit]])));
    }

    public function test_a_check_that_goes_by_more_than_its_limit_keeps_it(): void
    {
        // A set that needs 0.0866 outward and has 0.08: too short on over 0.05 % of its area, whatever the limit of the length.
        $rules = Standard::ofJson('{"rays":{"count":4096},"mapSize":128,"reach":{"bell":{"out":0.08,"in":0.01}},"checks":{"ray-miss":{"severity":"off"},"proof-retouch":{"severity":"off"},"surface-gap":{"severity":"off"},"span-closed":{"severity":"off"},"off-alignment":{"severity":"off"}}}');
        $learned = LearnedStandard::of(['bell' => self::files(Shapes::box(2, 2, 2), Shapes::box(2.1, 2.1, 2.1, 2), 'bell', 'bell_high')], $rules, new Choices);
        self::assertNotContains('reach-short', array_column($learned->limits, 'code'));
        self::assertArrayNotHasKey('reach-short', $learned->standard->checks);
        self::assertStringStartsWith('reach-short: ', $learned->left['bell'][0] ?? '');
    }

    /**
     * @return iterable<string, array{string, bool}>
     */
    public static function standards(): iterable
    {
        yield 'nothing' => ['{}', true];
        yield 'all of it' => ['{"name":"x","suffixes":{"low":"_lp","high":["_hp","_hp_*"],"id":"_id"},"pairing":"whole","mapSize":4096,"pages":2,"triangleBudget":9000,"texelDensity":512.5,"greenChannel":"-Y","unit":"cm","idColors":{"brass*":"#E8112D"},"rays":{"direction":"split","length":"unit","backFaces":true,"count":4096,"setsKeptApart":false},"reach":{"*":{"out":"1%","in":0.5},"lid":{"out":null}},"checks":{"uv-padding":{"severity":"off","limit":16},"ray-miss":{"limit":0.01,"caution":0.001}}}', true];
        yield 'pages by tiles' => ['{"pages":"udim"}', true];
        yield 'an unknown key' => ['{"mapsize":2048}', false];
        yield 'an unknown check' => ['{"checks":{"uv-pading":{"limit":1}}}', false];
        yield 'an unknown key of a check' => ['{"checks":{"uv-padding":{"max":1}}}', false];
        yield 'a severity that is none' => ['{"checks":{"uv-padding":{"severity":"fatal"}}}', false];
        yield 'a limit in words' => ['{"checks":{"uv-padding":{"limit":"16"}}}', false];
        yield 'a map of no size' => ['{"mapSize":0}', false];
        yield 'too many rays' => ['{"rays":{"count":99999999}}', false];
        yield 'a reach below nothing' => ['{"reach":{"*":{"out":-1}}}', false];
        yield 'a reach in words' => ['{"reach":{"*":{"out":"1 cm"}}}', false];
        yield 'a star in the middle' => ['{"suffixes":{"low":"_*_low"}}', false];
        yield 'a color that is none' => ['{"idColors":{"a":"red"}}', false];
        yield 'another green' => ['{"greenChannel":"Y"}', false];
        yield 'a list' => ['[]', false];
    }

    #[DataProvider('standards')]
    public function test_the_schema_says_what_the_reader_says(string $json, bool $isOne): void
    {
        try {
            Catalogue::standard($json);
            $isRead = true;
        } catch (Unreadable) {
            $isRead = false;
        }
        self::assertSame($isOne, $isRead);
        $result = (new Validator)->validate(json_decode($json), StandardSchema::json());
        self::assertSame($isOne, $result->isValid());
    }

    public function test_the_schema_in_the_docs_is_that_of_the_code(): void
    {
        self::assertSame(StandardSchema::json(), (string) file_get_contents(dirname(__DIR__, 3).'/docs/standard.schema.json'), 'run php bin/check-pages.php');
    }

    /**
     * @return list<GivenFile>
     */
    private static function asset(float $off, string $high = ''): array
    {
        return self::files(Shapes::box(3, 2, 1)->moved(0, $off * sqrt(14), 0), Shapes::roundedBox(3, 2, 1, 0.06, 3, 2), 'part', $high === '' ? 'part_high' : $high);
    }

    /**
     * @return list<GivenFile>
     */
    private static function files(Polygons $low, Polygons $high, string $base, string $highName): array
    {
        $sink = new MemorySink;
        // Two of each, so that names count; the second is sound.
        ObjWriter::write([new Part("{$base}_low", Assets::worn($low->placed(0.0, 0.02, 0.46)->mesh())), new Part('other_low', Assets::worn(Shapes::box(3, 2, 1)->moved(9, 0, 0)->placed(0.5, 0.02, 0.46)->mesh()))], 'x_low.obj', $sink);
        ObjWriter::write([new Part($highName, Assets::worn($high->mesh())), new Part('other_high', Assets::worn(Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(9, 0, 0)->mesh()))], 'x_high.obj', $sink);

        return array_map(static fn (string $name): GivenFile => new GivenFile($name, null, new MemorySource($name, $sink->content($name))), ['x_low.obj', 'x_high.obj']);
    }

    /**
     * @param  list<GivenFile>  $files
     * @return list<string> codes of what blocks or cautions
     */
    private static function faults(array $files, Standard $standard): array
    {
        return array_values(array_unique(array_map(static fn (Finding $one): string => $one->code, array_filter(Inspector::inspect($files, $standard, new Choices)->findings(), static fn (Finding $one): bool => $one->severity !== Severity::Note))));
    }
}
