<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Measures\Measures;
use Anvil\Standard\Severity;
use Anvil\Standard\Waiver;

/**
 * Runs the catalogue on an inspection: severities by the standard, waivers applied.
 */
final class Runner
{
    /**
     * @param  list<Waiver>  $waivers
     * @param  list<string>  $only  codes; empty for all
     * @return list<CheckResult>
     */
    public static function run(Measures $measures, array $waivers = [], array $only = []): array
    {
        $out = [];
        $whole = null;
        foreach (Catalogue::all() as $check) {
            $about = $check->about();
            if ($only !== [] && ! in_array($about->code, $only, true)) {
                continue;
            }
            $start = hrtime(true);
            $outcome = $measures->asset->standard->isOff($about->code) ? Outcome::notApplicable('off by the standard') : $check->run($measures);
            $findings = [];
            foreach ($outcome->findings as $i => $finding) {
                if ($i === 0 && $whole === null && $about->station === Station::Pairing && $finding->severity === Severity::Blocker) {
                    $whole = self::wholeInstead($measures);
                    $finding = $finding->withRemedy($finding->remedy.$whole);
                }
                // A severity set by the standard takes the place of both of a check's own; a note for what is under every limit stays one.
                $keeps = $finding->severity === Severity::Note && $about->severity !== Severity::Note;
                $severity = $keeps ? Severity::Note : $measures->asset->standard->severity($about->code, $finding->severity);
                if ($severity !== null) {
                    $findings[] = $finding->withSeverity($severity)->heldBy($waivers);
                }
            }
            $out[] = new CheckResult($about, $outcome->state, $outcome->reason, $findings, (hrtime(true) - $start) / 1e9 + $measures->secondsBefore($about->code));
        }

        return $out;
    }

    /** What is said of the first trouble with names where the bake could do without them. */
    private static function wholeInstead(Measures $measures): string
    {
        $whole = $measures->wholeBake();

        return $whole?->isClean === true ? '; or bake all as one: at '.Words::length($whole->reach->out).' out and '.Words::length($whole->reach->in).' in nothing goes wrong, and names are not needed ("pairing":"whole" in the standard)' : '';
    }
}
