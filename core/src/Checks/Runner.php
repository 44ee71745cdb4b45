<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Whole;
use Anvil\Measures\MeasureCatalogue;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;
use Anvil\Standard\Waiver;

/**
 * Runs the catalogue on an inspection: severities by the standard, waivers applied.
 */
final class Runner
{
    /**
     * The measures that checks read.
     *
     * @param  list<string>  $only  codes; empty for all
     * @return list<string> classes
     */
    public static function measures(Measures $measures, array $only = []): array
    {
        $out = [];
        foreach (Catalogue::all() as $check) {
            $about = $check->about();
            if (($only === [] || in_array($about->code, $only, true)) && ! $measures->asset->standard->isOff($about->code)) {
                $out += array_flip([...$about->measures, ...$about->beside]);
            }
        }

        // Where rays are shot anyway, it is worth a look whether names could be done without.
        return array_keys(isset($out[Rays::class]) ? $out + [Whole::class => true] : $out);
    }

    /**
     * @param  list<Waiver>  $waivers
     * @param  list<string>  $only  codes; empty for all
     * @return list<CheckResult>
     */
    public static function run(Measures $measures, array $waivers = [], array $only = []): array
    {
        $out = [];
        $whole = null;
        $told = [];
        foreach (Catalogue::all() as $check) {
            $about = $check->about();
            if ($only !== [] && ! in_array($about->code, $only, true)) {
                continue;
            }
            $before = $measures->seconds();
            $start = hrtime(true);
            $outcome = $measures->asset->standard->isOff($about->code) ? Outcome::notApplicable('off by the standard') : $check->run($measures);
            $findings = [];
            foreach ($outcome->findings as $i => $finding) {
                if ($i === 0 && $whole === null && $about->station === Station::Pairing && $finding->severity === Severity::Blocker) {
                    $whole = self::wholeInstead($measures, $only);
                    $finding = $finding->withRemedy($finding->remedy.$whole);
                }
                // A severity set by the standard takes the place of both of a check's own; a note for what is under every limit stays one.
                $keeps = $finding->severity === Severity::Note && $about->severity !== Severity::Note;
                $severity = $keeps ? Severity::Note : $measures->asset->standard->severity($about->code, $finding->severity);
                if ($severity !== null) {
                    $findings[] = $finding->withSeverity($severity)->heldBy($waivers);
                }
            }
            $seconds = (hrtime(true) - $start) / 1e9;
            // What a measure took before any check ran is told under the first check that is about it.
            foreach ($about->measures as $class) {
                $seconds += isset($told[$class]) ? 0.0 : $before[$class] ?? 0.0;
                $told[$class] = true;
            }
            $out[] = new CheckResult($about, $outcome->state, $outcome->reason, $findings, $seconds);
        }

        return $out;
    }

    /**
     * What is said of the first trouble with names where the bake could do without them.
     *
     * @param  list<string>  $only
     */
    private static function wholeInstead(Measures $measures, array $only): string
    {
        $isWanted = in_array(Whole::class, self::measures($measures, $only), true) && MeasureCatalogue::get(Whole::class)->subjects($measures) !== [];
        $whole = $isWanted ? $measures->ofAsset(Whole::class) : null;

        return $whole?->isClean === true ? '; or bake all as one: at '.Words::length($whole->reach->out).' out and '.Words::length($whole->reach->in).' in nothing goes wrong, and names are not needed ("pairing":"whole" in the standard)' : '';
    }
}
