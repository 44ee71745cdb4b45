<?php

declare(strict_types=1);

namespace Anvil\Tests\Report;

use Anvil\Checks\Catalogue;
use Anvil\Checks\CheckResult;
use Anvil\Checks\OfResults;
use Anvil\Checks\Runner;
use Anvil\Modelling\Shapes;
use Anvil\Report\LimitValues;
use Anvil\Report\Report;
use Anvil\Standard\Standard;
use Anvil\Tests\Checks\CheckFixturesTest;
use Anvil\Tests\Measures\KeptInMemory;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\SharedMeasures;
use Closure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/** What is foretold of another standard is what the checks then find. */
#[Group('matrix')]
final class LimitValuesTest extends TestCase
{
    /** Of the built-in limit: a little stricter or looser, whichever way it goes, and beyond all. */
    private const FACTORS = [0.7, 1000.0];

    /**
     * A fixture of every check that has a limit.
     *
     * @param  Closure(): Report  $make
     */
    #[DataProvider('fixtures')]
    public function test_what_is_foretold_comes_true(Closure $make): void
    {
        $report = $make();
        $measures = $report->measures->keptIn(SharedMeasures::ofThisRun() ?? new KeptInMemory, true);
        $standard = $measures->asset->standard;
        $results = Runner::run($measures, $report->waivers);
        $values = LimitValues::ofArray(self::stored(LimitValues::of($measures, $results, $report->waivers)));
        self::assertSame(self::counts($results), self::sorted($values->under($standard)));
        self::assertSame($report->isReady(), LimitValues::isReady($values->under($standard)));
        $tried = 0;
        foreach ($results as $result) {
            $about = $result->about;
            if ($result->findings === [] || $result->state === 'not-run') {
                continue;
            }
            $limits = $about->limit === null && ! in_array($about->code, ['uv-padding', 'uv-border'], true) ? [] : array_map(static fn (float $factor): float => $factor * ($about->limit ?? 8.0) + ($about->limit === 0.0 ? $factor : 0.0), self::FACTORS);
            $others = array_map(static fn (float $limit): Standard => $standard->withLimits([$about->code => ['limit' => $limit]]), $limits);
            foreach ($about->caution === null ? [] : [0.5, 1.5] as $factor) {
                $others[] = $standard->withLimits([$about->code => ['caution' => $factor * $about->caution]]);
            }
            foreach (['off', 'note'] as $severity) {
                $others[] = Standard::ofJson((string) json_encode(array_replace_recursive($standard->toArray(), ['checks' => [$about->code => ['severity' => $severity]]])));
            }
            foreach ($others as $other) {
                if (! $values->foretells($about->code, $other) && ($other->checks[$about->code]['severity'] ?? null) === ($standard->checks[$about->code]['severity'] ?? null)) {
                    continue;
                }
                $check = Catalogue::get($about->code);
                if ($check instanceof OfResults) {
                    continue;
                }
                $tried++;
                // Measures and what they have in common hold each other: what is not needed any more is large.
                gc_collect_cycles();
                $then = Runner::run($measures->under($other), $report->waivers, [$about->code]);
                self::assertSame(self::counts($then)[$about->code] ?? [], $values->under($other)[$about->code] ?? [], "$about->code ".json_encode($other->checks[$about->code] ?? null).' '.json_encode($values->toArray()[$about->code]));
            }
        }
        self::assertGreaterThan(0, $tried);
    }

    /** What keeps its limit has a value, too, and goes beyond a stricter one. */
    public function test_what_passes_is_foretold_of_stricter_limits(): void
    {
        $report = Assets::report(
            ['a_low' => Shapes::box(3, 2, 1), 'b_low' => Shapes::box(2, 2, 2)->moved(9, 0, 0)],
            ['a_high' => Shapes::roundedBox(3, 2, 1, 0.02, 3, 2), 'b_high' => Shapes::roundedBox(2, 2, 2, 0.03, 3, 2)->moved(9, 0.002, 0)], '{"mapSize":256,"checks":{"name-unsafe":{"severity":"off"}}}',
        );
        $measures = $report->measures->keptIn(SharedMeasures::ofThisRun() ?? new KeptInMemory, true);
        $standard = $measures->asset->standard;
        $values = LimitValues::of($measures, Runner::run($measures));
        $found = 0;
        foreach (['silhouette-loss' => 1e-6, 'uv-use' => 0.999, 'high-not-denser' => 1e6, 'uv-stretch' => 1.0 + 1e-7, 'buried' => 1e-9, 'id-dull' => 0.9, 'rim-wave' => 1e-9] as $code => $limit) {
            $other = $standard->withLimits([$code => ['limit' => $limit]]);
            self::assertTrue($values->foretells($code, $other), $code);
            $then = self::counts(Runner::run($measures->under($other), only: [$code]))[$code] ?? [];
            self::assertSame($then, $values->under($other)[$code] ?? [], $code);
            $found += array_sum($then);
        }
        self::assertGreaterThan(5, $found);
        // A shift is measured, and what is under its limits was not told: only looser ones are foretold.
        self::assertFalse($values->foretells('off-alignment', $standard->withLimits(['off-alignment' => ['limit' => 1e-5]])));
        self::assertTrue($values->foretells('off-alignment', $standard->withLimits(['off-alignment' => ['limit' => 0.02]])));
        self::assertFalse($values->foretells('no-such', $standard));
        self::assertFalse($values->foretells('mesh-doubled', $standard->withLimits(['mesh-doubled' => ['limit' => -1.0]])), 'nothing is less than none');
        // The worst of a check is what a limit has to let pass; what no limit decides is counted.
        $strict = Standard::ofJson('{"mapSize":256,"checks":{"silhouette-loss":{"severity":"caution","limit":1e-6}}}');
        $faults = array_values(array_filter($values->faults($strict), static fn (array $one): bool => $one['code'] === 'silhouette-loss'));
        $worst = max(array_column($values->toArray()['silhouette-loss']['values'], 0));
        self::assertSame([['code' => 'silhouette-loss', 'of' => 'limit', 'was' => 1e-6, 'value' => $worst, 'less' => false, 'count' => 2]], $faults);
        self::assertGreaterThan(min(array_column($values->toArray()['silhouette-loss']['values'], 0)), $worst);
    }

    /**
     * @return iterable<string, array{Closure(): Report}>
     */
    public static function fixtures(): iterable
    {
        $about = Catalogue::about();
        $seen = [];
        foreach (CheckFixturesTest::found() as $name => $fixture) {
            if ($name === 'waiver-died') {
                yield $name => [$fixture[0]];
            }
            // Those that speak as a caution have a limit of their own to be tried.
            $code = (string) preg_replace('/[ ,].*/', '', $name);
            $key = str_contains($name, 'as a caution') ? "$code caution" : $code;
            if (isset($about[$code]) && ($about[$code]->limit !== null || str_starts_with($code, 'uv-')) && ! isset($seen[$key])) {
                $seen[$key] = true;
                yield $name => [$fixture[0]];
            }
        }
    }

    /**
     * @param  list<CheckResult>  $results
     * @return array<string, array<string, int>>
     */
    private static function counts(array $results): array
    {
        $out = [];
        foreach ($results as $result) {
            foreach ($result->findings as $finding) {
                $key = $finding->severity->value.($finding->waived ? ' waived' : '');
                $out[$result->about->code][$key] = ($out[$result->about->code][$key] ?? 0) + 1;
            }
            if ($result->state === 'not-run' && $result->about->severity->value === 'blocker') {
                $out[$result->about->code]['not-run'] = 1;
            }
        }

        return self::sorted($out);
    }

    /**
     * @param  array<string, array<string, int>>  $counts
     * @return array<string, array<string, int>>
     */
    private static function sorted(array $counts): array
    {
        ksort($counts);

        return array_map(static function (array $one): array {
            ksort($one);

            return $one;
        }, $counts);
    }

    /** @return array<string, mixed> through JSON, as it is kept */
    private static function stored(LimitValues $values): array
    {
        return json_decode((string) json_encode($values->toArray(), JSON_PRESERVE_ZERO_FRACTION), true);
    }
}
