<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Whole;
use Anvil\Measures\MeasureCatalogue;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Measures\Scope;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
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
     * @param  bool  $soFar  measuring goes on: what is known by now (`Measures::soFar`)
     * @return list<CheckResult>
     */
    public static function run(Measures $measures, array $waivers = [], array $only = [], bool $soFar = false): array
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
            $outcome = $measures->asset->standard->isOff($about->code) ? Outcome::notApplicable('off by the standard') : ($soFar ? self::soFar($measures, $check) : $check->run($measures));
            $findings = [];
            foreach ($outcome->findings as $finding) {
                if ($about->station === Station::Pairing && $finding->severity === Severity::Blocker) {
                    // Told once, of the first trouble with names and all that are of one cause with it.
                    $whole ??= [$about->code, $finding->remedy, self::wholeInstead($measures, $only)];
                    $finding = $whole[0] === $about->code && $whole[1] === $finding->remedy ? $finding->withRemedy($finding->remedy.$whole[2]) : $finding;
                }
                $severity = self::severity($measures->asset->standard, $about, $finding);
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

        return self::afterwards($measures->asset->standard, $out, $waivers);
    }

    /**
     * What is said of what the others found.
     *
     * @param  list<CheckResult>  $results
     * @param  list<Waiver>  $waivers
     * @return list<CheckResult>
     */
    private static function afterwards(Standard $standard, array $results, array $waivers): array
    {
        foreach ($results as $i => $result) {
            $check = Catalogue::get($result->about->code);
            if (! $check instanceof OfResults || $standard->isOff($result->about->code)) {
                continue;
            }
            $outcome = $check->ofResults(array_values(array_filter($results, static fn (CheckResult $one): bool => $one !== $result)), $waivers);
            $findings = [];
            foreach ($outcome->findings as $finding) {
                $severity = self::severity($standard, $result->about, $finding);
                if ($severity !== null) {
                    $findings[] = $finding->withSeverity($severity)->heldBy($waivers);
                }
            }
            $results[$i] = new CheckResult($result->about, $outcome->state, $outcome->reason, $findings, $result->seconds);
        }

        return $results;
    }

    /** What a check finds in what is known by now. What it will find of the rest changes nothing of that. */
    private static function soFar(Measures $measures, Check $check): Outcome
    {
        $about = $check->about();
        if ($about->ofFile) {
            return self::fileByFile($measures, $check);
        }
        $first = $about->measures[0] ?? null;
        $reads = array_map(static fn (string $class): Scope => MeasureCatalogue::all()[$class]->scope(), [...$about->measures, ...$about->beside]);
        $toCome = in_array(Scope::Set, $reads, true) ? $measures->setsToCome() : 0;
        $waits = $toCome === 0 ? 'what it reads is still measured' : 'the rays of '.($toCome === 1 ? '1 set are' : "$toCome sets are").' still to be shot';
        if ($toCome > 0 && ($first === null || MeasureCatalogue::all()[$first]->scope() !== Scope::Set)) {
            return Outcome::waiting($waits);
        }
        try {
            $outcome = $check->run($measures);
        } catch (NotKnown) {
            return Outcome::waiting($waits);
        }

        return $toCome > 0 ? Outcome::waiting($waits, $outcome->findings) : $outcome;
    }

    private static function fileByFile(Measures $measures, Check $check): Outcome
    {
        return self::ofEach(array_map($measures->ofFile(...), array_keys($measures->asset->files)), $check);
    }

    /**
     * What files say by themselves while others are still to be read; every other check waits.
     *
     * @param  list<Measures>  $files  one each
     * @return list<CheckResult>
     */
    public static function ofFiles(array $files, string $waits): array
    {
        $out = [];
        foreach (Catalogue::all() as $check) {
            $about = $check->about();
            $isOff = $files !== [] && $files[0]->asset->standard->isOff($about->code);
            $outcome = match (true) {
                $isOff => Outcome::notApplicable('off by the standard'),
                ! $about->ofFile || $files === [] => Outcome::waiting($waits),
                default => Outcome::waiting($waits, self::ofEach($files, $check)->findings),
            };
            $findings = [];
            foreach ($outcome->findings as $finding) {
                $severity = self::severity($files[0]->asset->standard, $about, $finding);
                if ($severity !== null) {
                    $findings[] = $finding->withSeverity($severity);
                }
            }
            $out[] = new CheckResult($about, $outcome->state, $outcome->reason, $findings, 0.0);
        }

        return $out;
    }

    /** A severity set by the standard takes the place of both of a check's own; a note for what is under every limit stays one. */
    private static function severity(Standard $standard, About $about, Finding $finding): ?Severity
    {
        return self::severityBy($standard, $about, $finding->severity);
    }

    /** What a severity that a check gives of itself is by a standard; null where the check is off. */
    public static function severityBy(Standard $standard, About $about, Severity $own): ?Severity
    {
        return $own === Severity::Note && $about->severity !== Severity::Note && ! $standard->isOff($about->code) ? Severity::Note : $standard->severity($about->code, $own);
    }

    /**
     * @param  list<Measures>  $files
     */
    private static function ofEach(array $files, Check $check): Outcome
    {
        $findings = $reasons = [];
        foreach ($files as $file) {
            try {
                $outcome = $check->run($file);
            } catch (NotKnown) {
                $outcome = Outcome::waiting('what it reads is still measured');
            }
            array_push($findings, ...$outcome->findings);
            $reasons[$outcome->state] ??= $outcome->reason;
        }

        return match (true) {
            array_key_exists('waiting', $reasons) => Outcome::waiting($reasons['waiting'] ?? '', $findings),
            array_key_exists('not-run', $reasons) => Outcome::of($findings, $reasons['not-run']),
            array_key_exists('found', $reasons), array_key_exists('passed', $reasons) => Outcome::of($findings),
            default => Outcome::notApplicable($reasons['not-applicable'] ?? 'there are no files'),
        };
    }

    /**
     * What is said of the first trouble with names where the bake could do without them.
     *
     * @param  list<string>  $only
     */
    private static function wholeInstead(Measures $measures, array $only): string
    {
        $isWanted = in_array(Whole::class, self::measures($measures, $only), true) && MeasureCatalogue::get(Whole::class)->subjects($measures) !== [];
        try {
            $whole = $isWanted ? $measures->ofAsset(Whole::class) : null;
        } catch (NotKnown) {
            // Still to be looked at.
            $whole = null;
        }

        return $whole?->isClean === true ? '; or bake all as one: at '.Words::length($whole->reach->out, $measures->asset).' out and '.Words::length($whole->reach->in, $measures->asset).' in nothing goes wrong, and names are not needed ("pairing":"whole" in the standard)' : '';
    }
}
