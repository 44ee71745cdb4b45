<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Asset\ReadFile;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Standard\Severity;

/**
 * A report as SARIF 2.1.0 (OASIS, "Static Analysis Results Interchange Format", 2020): a rule a check, a result a finding.
 */
final class SarifReport
{
    /**
     * @return array<string, mixed>
     */
    public static function of(Report $report): array
    {
        $codes = [];
        foreach ($report->results as $i => $result) {
            $codes[$result->about->code] = $i;
        }

        return [
            '$schema' => 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
            'version' => '2.1.0',
            'runs' => [[
                'tool' => ['driver' => ['name' => 'yellow-anvil', 'rules' => array_map(self::rule(...), $report->results)]],
                'invocations' => [['executionSuccessful' => true, 'toolExecutionNotifications' => self::notRun($report)]],
                'artifacts' => array_map(static fn (ReadFile $file): array => ['location' => ['uri' => self::uri($file->path)], 'hashes' => ['sha-256' => $file->sha256]], $report->measures->asset->files),
                'results' => array_map(static fn (Finding $finding): array => self::result($finding, $codes[$finding->code]), $report->findings()),
                'properties' => ['verdict' => $report->isReady() ? 'ready' : 'blocked'],
            ]],
        ];
    }

    /**
     * @return array<string, mixed>
     */
    private static function rule(CheckResult $result): array
    {
        $about = $result->about;

        return [
            'id' => $about->code,
            'shortDescription' => ['text' => $about->title],
            'fullDescription' => ['text' => $about->measured],
            'help' => ['text' => "After a bake: $about->afterBake. What mends it: $about->remedy. Source: $about->source."],
            'defaultConfiguration' => ['level' => self::level($about->severity)],
        ];
    }

    /**
     * @return array<string, mixed>
     */
    private static function result(Finding $finding, int $rule): array
    {
        $out = ['ruleId' => $finding->code, 'ruleIndex' => $rule, 'level' => self::level($finding->severity), 'message' => ['text' => "$finding->message. What mends it: $finding->remedy."]];
        $location = [];
        if (isset($finding->subject['file'])) {
            $location['physicalLocation'] = ['artifactLocation' => ['uri' => self::uri($finding->subject['file'])]];
        }
        $logical = [];
        foreach (['part' => 'object', 'other' => 'object', 'set' => 'module'] as $key => $kind) {
            if (isset($finding->subject[$key])) {
                $logical[] = ['name' => $finding->subject[$key], 'kind' => $kind];
            }
        }
        if ($logical !== []) {
            $location['logicalLocations'] = $logical;
        }
        if ($location !== []) {
            $out['locations'] = [$location];
        }
        $out['properties'] = array_filter(['measure' => $finding->measure?->toArray(), 'texels' => $finding->texels, 'count' => $finding->count, 'where' => $finding->where === [] ? null : $finding->where], static fn (mixed $value): bool => $value !== null);
        if ($out['properties'] === []) {
            unset($out['properties']);
        }
        if ($finding->waived) {
            $out['suppressions'] = [['kind' => 'external', 'status' => 'accepted']];
        }

        return $out;
    }

    /**
     * @return list<array<string, mixed>>
     */
    private static function notRun(Report $report): array
    {
        $out = [];
        foreach ($report->results as $result) {
            if ($result->state === 'not-run') {
                $out[] = ['level' => $result->blocks($report->measures->asset->standard) ? 'error' : 'warning', 'message' => ['text' => "{$result->about->code} was not run: $result->reason"], 'associatedRule' => ['id' => $result->about->code]];
            }
        }

        return $out;
    }

    private static function level(Severity $severity): string
    {
        return match ($severity) {
            Severity::Blocker => 'error', Severity::Caution => 'warning', Severity::Note => 'note',
        };
    }

    private static function uri(string $path): string
    {
        $uri = implode('/', array_map(rawurlencode(...), explode('/', str_replace('\\', '/', mb_scrub($path)))));

        return str_starts_with($uri, '/') ? "file://$uri" : $uri;
    }
}
