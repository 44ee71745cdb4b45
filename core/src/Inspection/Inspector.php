<?php

declare(strict_types=1);

namespace Anvil\Inspection;

use Anvil\Asset\GivenFile;
use Anvil\Asset\GivenMap;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Checks\Runner;
use Anvil\Explode\Assembled;
use Anvil\Explode\ExplodePlan;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Measures\MeasureStore;
use Anvil\Measures\Plan;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Standard\Waiver;
use Closure;

/**
 * Everything in one go: reads, pairs, sets, measures, runs the checks.
 */
final class Inspector
{
    /**
     * @param  list<GivenFile>  $files
     * @param  list<Waiver>  $waivers
     * @param  list<string>  $only  check codes; empty for all
     * @param  Closure(string): void|null  $progress
     * @param  Assembled|null  $assembled  what the files were before they were exploded
     * @param  int  $workers  processes that measure, this one among them
     * @param  list<GivenMap>  $maps  that came back from a baker
     * @param  LastDelivery|null  $last  what was handed in before
     * @param  MeasureStore|null  $store  where results are kept by what they depend on
     */
    public static function inspect(array $files, Standard $standard, Choices $choices, array $waivers = [], array $only = [], ?Closure $progress = null, ?Assembled $assembled = null, int $workers = 1, array $maps = [], ?LastDelivery $last = null, ?MeasureStore $store = null): Report
    {
        $start = hrtime(true);
        $read = [];
        foreach ($files as $file) {
            $progress?->__invoke("reading {$file->source->name()}");
            $read[] = ReadFile::of($file);
        }
        $afterRead = hrtime(true);
        $measures = Measures::of($read, $standard, $choices, $maps)->since($last);
        if ($assembled !== null) {
            $measures = $measures->exploded($assembled);
        }
        if ($store !== null) {
            $measures = $measures->keptIn($store, true);
        }
        $afterPair = hrtime(true);
        Plan::of($measures, Runner::measures($measures, $only))->run($measures, $progress === null ? null : static fn (string $what, int $i, int $of) => $progress("$what ($i of $of)"), $workers);
        $progress?->__invoke('checking');
        $results = Runner::run($measures, $waivers, $only);
        $end = hrtime(true);

        $clearances = $measures->has(Rays::class) ? $measures->clearances() : [];

        return new Report($measures, $results, [
            'read' => ($afterRead - $start) / 1e9,
            'pair' => ($afterPair - $afterRead) / 1e9,
            'check' => ($end - $afterPair) / 1e9,
            'total' => ($end - $start) / 1e9,
        ], $clearances === [] ? [] : ExplodePlan::vectorsOf($measures->asset, $clearances), $waivers);
    }
}
