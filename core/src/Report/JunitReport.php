<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Checks\CheckResult;
use Anvil\Standard\Severity;
use XMLWriter;

/**
 * A report as JUnit XML: a suite a station, a case a check. Blockers are failures, a check that would block and did not run is an error,
 * cautions and notes are printed in the case.
 */
final class JunitReport
{
    public static function of(Report $report): string
    {
        $suites = [];
        foreach ($report->results as $result) {
            $suites[$result->about->station->value][] = $result;
        }
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElement('testsuites');
        $xml->writeAttribute('name', 'yellow-anvil');
        $xml->writeAttribute('tests', (string) count($report->results));
        $xml->writeAttribute('failures', (string) self::count($report->results, self::fails(...)));
        $xml->writeAttribute('errors', (string) self::count($report->results, static fn (CheckResult $result): bool => self::isError($result, $report)));
        foreach ($suites as $station => $results) {
            $xml->startElement('testsuite');
            $xml->writeAttribute('name', $station);
            $xml->writeAttribute('tests', (string) count($results));
            $xml->writeAttribute('failures', (string) self::count($results, self::fails(...)));
            $xml->writeAttribute('errors', (string) self::count($results, static fn (CheckResult $result): bool => self::isError($result, $report)));
            $xml->writeAttribute('skipped', (string) self::count($results, static fn (CheckResult $result): bool => self::isSkipped($result, $report)));
            foreach ($results as $result) {
                self::case($xml, $result, $report);
            }
            $xml->endElement();
        }
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    private static function case(XMLWriter $xml, CheckResult $result, Report $report): void
    {
        $xml->startElement('testcase');
        $xml->writeAttribute('name', $result->about->code);
        $xml->writeAttribute('classname', 'yellow-anvil.'.$result->about->station->value);
        $xml->writeAttribute('time', sprintf('%.4F', $result->seconds));
        if (self::isSkipped($result, $report)) {
            $xml->writeElement('skipped', self::text($result->reason ?? ''));
        }
        if (self::isError($result, $report)) {
            $xml->startElement('error');
            $xml->writeAttribute('type', 'not-run');
            $xml->writeAttribute('message', self::text($result->reason ?? ''));
            $xml->endElement();
        }
        $out = [];
        foreach ($result->findings as $finding) {
            if ($finding->blocks()) {
                $xml->startElement('failure');
                $xml->writeAttribute('type', $finding->code);
                $xml->writeAttribute('message', self::text($finding->message));
                $xml->text(self::text($finding->remedy));
                $xml->endElement();
            } else {
                $out[] = ($finding->waived ? 'waived ' : '').($finding->severity === Severity::Blocker ? 'blocker' : $finding->severity->value).": $finding->message. What mends it: $finding->remedy";
            }
        }
        if ($out !== []) {
            $xml->writeElement('system-out', self::text(implode("\n", $out)));
        }
        $xml->endElement();
    }

    private static function fails(CheckResult $result): bool
    {
        foreach ($result->findings as $finding) {
            if ($finding->blocks()) {
                return true;
            }
        }

        return false;
    }

    private static function isError(CheckResult $result, Report $report): bool
    {
        return $result->state === 'not-run' && ! self::fails($result) && $result->blocks($report->measures->asset->standard);
    }

    private static function isSkipped(CheckResult $result, Report $report): bool
    {
        return $result->state === 'not-applicable' || ($result->state === 'not-run' && ! self::fails($result) && ! self::isError($result, $report));
    }

    /**
     * @param  list<CheckResult>  $results
     * @param  callable(CheckResult): bool  $test
     */
    private static function count(array $results, callable $test): int
    {
        return count(array_filter($results, $test));
    }

    /** What XML 1.0 may hold. */
    private static function text(string $text): string
    {
        return (string) preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '?', mb_scrub($text));
    }
}
