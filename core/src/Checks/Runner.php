<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Inspection\Inspection;
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
    public static function run(Inspection $inspection, array $waivers = [], array $only = []): array
    {
        $out = [];
        foreach (Catalogue::all() as $check) {
            $about = $check->about();
            if ($only !== [] && ! in_array($about->code, $only, true)) {
                continue;
            }
            $start = hrtime(true);
            $outcome = $inspection->standard->isOff($about->code) ? Outcome::notApplicable('off by the standard') : $check->run($inspection);
            $findings = [];
            foreach ($outcome->findings as $finding) {
                // A severity set by the standard takes the place of both of a check's own; a note for what is under every limit stays one.
                $keeps = $finding->severity === Severity::Note && $about->severity !== Severity::Note;
                $severity = $keeps ? Severity::Note : $inspection->standard->severity($about->code, $finding->severity);
                if ($severity !== null) {
                    $findings[] = $finding->withSeverity($severity)->heldBy($waivers);
                }
            }
            $out[] = new CheckResult($about, $outcome->state, $outcome->reason, $findings, (hrtime(true) - $start) / 1e9);
        }

        return $out;
    }
}
