<?php

declare(strict_types=1);

namespace Anvil\Tests\Report;

use Anvil\Checks\Catalogue;
use Anvil\Checks\CheckResult;
use Anvil\Checks\OfResults;
use Anvil\Checks\Runner;
use Anvil\Report\LimitValues;
use Anvil\Report\Report;
use Anvil\Standard\Standard;
use Anvil\Tests\Checks\CheckFixturesTest;
use Anvil\Tests\Measures\KeptInMemory;
use Closure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What is foretold of another standard is what the checks then find. */
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
        $measures = $report->measures->keptIn($store = new KeptInMemory, true);
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
