<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Asset\GivenMap;
use Anvil\Checks\Cause;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Checks\Proof\ProofRetouch;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Pairing\RoledPart;
use Anvil\Report\Report;
use Anvil\Standard\Severity;

/**
 * The sheet that goes with a hand-off: files, bake settings with the reason for each value, verdict. No clock and no machine in it.
 */
final readonly class Ticket
{
    private function __construct(public string $asset, public Report $report)
    {
    }

    public static function of(string $asset, Report $report): self
    {
        return new self($asset, $report);
    }

    /**
     * @return list<array{setting: string, value: string, reason: string}>
     */
    public function settings(): array
    {
        $standard = $this->report->measures->asset->standard;
        $choices = $this->report->measures->asset->choices;
        $suffixes = [];
        foreach ($standard->suffixes as $role => $list) {
            $suffixes[] = "$role ".implode(' ', $list);
        }
        $apart = $standard->rays->setsKeptApart;
        $rows = [
            ['match parts', $standard->whole ? 'all parts as one set' : 'by name, letter for letter', $standard->whole ? 'the standard says whole: no name matters' : 'bakers compare exactly (common practice)'],
            ['suffixes', implode(', ', $suffixes), "as typed, from the standard \"$standard->name\""],
            ['map size', "$standard->mapSize px", 'from the standard'],
            ['padding', rtrim(rtrim(number_format($standard->padding(), 1), '0'), '.').' px', abs($standard->padding() - $standard->mapSize / 256) < 1e-9 ? 'map size / 256 (common practice)' : 'from the standard'],
            ['sets', $apart ? 'kept apart: each meets its own high poly only' : 'all high parts stand in each other\'s way', $apart ? 'from the standard; no set can print on another' : 'from the standard; the check sets-bleed guards it'],
            ['occlusion', is_string($choices->occlusion) ? ($choices->occlusion === 'own' ? 'each set shades only itself' : 'all sets shade each other') : 'as listed in the choices', 'from the asset\'s choices'],
            ['back faces', $standard->rays->backFaces ? 'stop rays too' : 'do not stop rays', 'from the standard; the reach was measured so'],
            ['ray directions', ($standard->rays->smooth ? 'averaged at vertices' : 'the file\'s own normals').', '.($standard->rays->cageLength ? 'length as interpolated' : 'unit length'), 'from the standard; the reach is in this measure'],
            ['normal map green', $standard->greenChannel, 'from the standard; engines differ, and the wrong one is mended by inverting green (common practice)'],
            ['tangent basis', 'MikkTSpace', 'what the engines that read glTF expect'],
            ['bits per channel', '16 for normal and height, 8 for the others', 'fewer bits show steps on smooth shapes (common practice)'],
            ['samples', '4×4 to 64 a texel; occlusion 512 to 1024 rays for the last bake', 'common practice'],
            ['color space', 'normal, occlusion and ID are data: linear, not sRGB', 'a curve on data bends it (common practice)'],
            ['order', 'normal and occlusion first and clean', 'other maps are made from them (common practice)'],
        ];
        if ($choices->leftOut !== []) {
            $rows[] = ['left out', implode(', ', $choices->leftOut), 'by choice'];
        }
        if ($choices->bakedOnItself !== []) {
            $rows[] = ['baked on itself', implode(', ', $choices->bakedOnItself), 'by choice'];
        }

        return array_map(static fn (array $row): array => ['setting' => $row[0], 'value' => $row[1], 'reason' => $row[2]], $rows);
    }

    /**
     * @return list<array{set: string, low: list<string>, high: list<string>, out: float|null, in: float|null, outShare: float|null, inShare: float|null, reason: string}>
     */
    public function sets(): array
    {
        $out = [];
        foreach ($this->report->measures->asset->sets as $set) {
            $clearance = $this->report->measures->clearances()[$set->name] ?? null;
            $reach = $clearance?->inUse();
            $out[] = [
                'set' => $set->name,
                'low' => RoledPart::names($set->low),
                'high' => RoledPart::names($set->target()),
                'out' => $reach?->out,
                'in' => $reach?->in,
                'outShare' => $reach === null || $clearance === null ? null : $reach->out / $clearance->d,
                'inShare' => $reach === null || $clearance === null ? null : $reach->in / $clearance->d,
                'reason' => $clearance === null ? 'not measured'
                    : ($clearance->set !== null ? 'from the standard' : 'recommended').'; needs '.Words::length($clearance->needed->out, $this->report->measures->asset).' out and '.Words::length($clearance->needed->in, $this->report->measures->asset).' in'
                    .($clearance->firstWrong['out'] === null ? ', no wrong hit outward' : ', wrong hits from '.Words::length($clearance->firstWrong['out'], $this->report->measures->asset).' out'),
            ];
        }

        return $out;
    }

    /**
     * What is left to paint by hand after the bake, a page.
     *
     * @return list<array{page: string, texels: int, share: float}>
     */
    public function pages(): array
    {
        $measures = $this->report->measures;

        return $measures->asset->sets === [] ? [] : array_map(static fn (array $one): array => ['page' => $one[0]->page, 'texels' => $one[0]->texels, 'share' => $one[0]->share()], ProofRetouch::pages($measures));
    }

    /**
     * Maps that came back from a baker, with what is said of each.
     *
     * @return list<array{path: string, kind: string|null, page: string|null, sha256: string, codes: list<string>, verdict: string}>
     */
    public function maps(): array
    {
        $measures = $this->report->measures;
        $codes = [];
        foreach ($this->report->findings() as $finding) {
            if (str_starts_with($finding->code, 'map-')) {
                $codes[$finding->subject['file'] ?? ''][$finding->code] = $finding->severity->value;
            }
        }
        $out = [];
        $paths = self::mapPaths($measures->asset->maps);
        foreach ($measures->asset->maps === [] ? [] : $measures->ofAsset(ReturnedMaps::class) as $number => $map) {
            $own = $codes[$map->path] ?? [];
            $out[] = ['path' => $paths[$number], 'kind' => $map->kind, 'page' => $map->page, 'sha256' => $map->sha256, 'codes' => array_map(strval(...), array_keys($own)), 'verdict' => in_array('blocker', $own, true) ? 'wrong' : ($own === [] ? 'fits' : 'fits, with remarks')];
        }

        return $out;
    }

    /**
     * What was accepted of what is found, by whom and why.
     *
     * @return list<array{code: string, subject: array<string, string>, message: string, value: float|null, by: string, reason: string, until: string|null}>
     */
    public function waivers(): array
    {
        $out = [];
        foreach ($this->report->findings() as $finding) {
            $waiver = $finding->waiver($this->report->waivers);
            if ($waiver !== null) {
                $out[] = ['code' => $finding->code, 'subject' => $finding->subject, 'message' => $finding->message, 'value' => $waiver->value, 'by' => $waiver->by, 'reason' => $waiver->reason, 'until' => $waiver->until];
            }
        }

        return $out;
    }

    /**
     * Where maps lie in the package, each by a name of its own.
     *
     * @param  list<GivenMap>  $maps
     * @return list<string> in their order
     */
    public static function mapPaths(array $maps): array
    {
        $out = $taken = [];
        foreach ($maps as $map) {
            $name = pathinfo($map->path, PATHINFO_FILENAME);
            $ending = pathinfo($map->path, PATHINFO_EXTENSION);
            $unique = $name;
            for ($n = 2; isset($taken[mb_strtolower("$unique.$ending")]); $n++) {
                $unique = "$name-$n";
            }
            $taken[mb_strtolower("$unique.$ending")] = true;
            $out[] = "maps/$unique.$ending";
        }

        return $out;
    }

    /**
     * @param  list<array{path: string, role: string|null, sha256: string, bytes: int}>  $files
     * @return array<string, mixed>
     */
    public function toArray(array $files): array
    {
        return [
            'tool' => 'yellow-anvil',
            'schema' => 1,
            'asset' => $this->asset,
            'verdict' => $this->report->isReady() ? 'ready' : 'blocked',
            'files' => $files,
            'settings' => $this->settings(),
            'sets' => $this->sets(),
            'pages' => $this->pages(),
            'maps' => $this->maps(),
            'waivers' => $this->waivers(),
            'findings' => array_map(static fn (Finding $finding): array => $finding->toArray(), $this->report->findings()),
            'checks' => array_map(static fn (CheckResult $result): array => array_diff_key($result->toArray(), ['seconds' => 0]), $this->report->results),
            'standard' => $this->report->measures->asset->standard->toArray(),
            'choices' => $this->report->measures->asset->choices->toArray(),
        ];
    }

    /**
     * A page that stands alone: no script, no picture, nothing loaded.
     *
     * @param  list<array{path: string, role: string|null, sha256: string, bytes: int}>  $files
     */
    public function html(array $files): string
    {
        $e = static fn (string $text): string => htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE, 'UTF-8');
        $cells = static fn (string ...$row): string => '<tr><td>'.implode('</td><td>', $row).'</td></tr>';
        $mark = static fn (Severity $severity): string => match ($severity) {
            Severity::Blocker => '&#11043; blocker', Severity::Caution => '&#9650; caution', Severity::Note => '&#9679; note',
        };
        $fileRows = implode('', array_map(static fn (array $file): string => $cells('<code>'.$e($file['path']).'</code>', $e($file['role'] ?? '–'), number_format($file['bytes']).' bytes', '<code>'.$e(substr($file['sha256'], 0, 16)).'…</code>'), $files));
        $settingRows = implode('', array_map(static fn (array $row): string => $cells($e($row['setting']), '<b>'.$e($row['value']).'</b>', $e($row['reason'])), $this->settings()));
        $length = fn (?float $value, ?float $share): string => $value === null || $share === null ? '–' : Words::length($value, $this->report->measures->asset).' <small>('.Words::percent($share).' of the size of the set)</small>';
        $setRows = implode('', array_map(static fn (array $set): string => $cells('<code>'.$e($set['set']).'</code>', $length($set['out'], $set['outShare']), $length($set['in'], $set['inShare']), $e($set['reason'])), $this->sets()));
        $pageRows = implode('', array_map(static fn (array $page): string => $cells('<code>'.$e($page['page']).'</code>', number_format($page['texels']).' texels', Words::percent($page['share']).' of those inside islands'), $this->pages()));
        $pageTable = $pageRows === '' ? '' : "<h2>Left to paint after the bake</h2><table><tr><th>page</th><th>retouch mask</th><th>share</th></tr>$pageRows</table>";
        $mapRows = implode('', array_map(static fn (array $map): string => $cells('<code>'.$e($map['path']).'</code>', $e(($map['kind'] ?? '–').', '.($map['page'] ?? '–')), $e($map['verdict'].($map['codes'] === [] ? '' : ': '.implode(', ', $map['codes']))), '<code>'.$e(substr($map['sha256'], 0, 16)).'…</code>'), $this->maps()));
        $mapTable = $mapRows === '' ? '' : "<h2>Maps that came back</h2><table><tr><th>file</th><th>kind, page</th><th>against the trial</th><th>SHA-256</th></tr>$mapRows</table>";
        $waiverRows = implode('', array_map(static fn (array $one): string => $cells('<code>'.$e($one['code']).'</code>', $e($one['message']), $e($one['by']), $e($one['reason'].($one['until'] === null ? '' : " (until {$one['until']})"))), $this->waivers()));
        $waiverTable = $waiverRows === '' ? '' : "<h2>Waived</h2><table><tr><th>check</th><th>what</th><th>by</th><th>reason</th></tr>$waiverRows</table>";
        $causes = $this->report->causes();
        $findingRows = implode('', array_map(static fn (Cause $cause): string => $cells($mark($cause->severity).($cause->waived ? ' (waived)' : ''), '<code>'.$e($cause->code).'</code>', $e($cause->message)), $causes));
        $findingTable = $causes === [] ? '<p>No findings.</p>' : "<table><tr><th>severity</th><th>check</th><th>what</th></tr>$findingRows</table>";
        $verdict = $this->report->isReady() ? 'Ready to bake' : 'Not ready';
        $passed = count(array_filter($this->report->results, static fn (CheckResult $result): bool => $result->state === 'passed'));
        $all = count($this->report->results);
        $name = $e($this->asset);

        return <<<HTML
            <!doctype html>
            <html lang="en"><head><meta charset="utf-8"><title>$name – hand-off ticket</title>
            <style>
            body{font:15px/1.5 system-ui,sans-serif;color:#22303a;background:#f6f3ec;max-width:60rem;margin:2rem auto;padding:0 1rem}
            h1{margin:0}h2{margin:2rem 0 .5rem;font-size:1.1rem}table{border-collapse:collapse;width:100%}
            td,th{text-align:left;padding:.35rem .6rem .35rem 0;border-bottom:1px solid #cfc8b8;vertical-align:top}th{font-weight:600}
            code{font-family:ui-monospace,monospace}small{color:#5a6670}.verdict{display:inline-block;border:2px solid;padding:.2rem .7rem;font-weight:700}
            </style></head><body>
            <h1>$name</h1><p class="verdict">$verdict</p><p>$passed of $all checks passed; the others are below, or had nothing to look at.</p>
            <h2>Files</h2><table><tr><th>file</th><th>role</th><th>size</th><th>SHA-256</th></tr>$fileRows</table>
            <h2>Bake settings</h2><table><tr><th>setting</th><th>value</th><th>why</th></tr>$settingRows</table>
            <h2>Reach a set</h2><table><tr><th>set</th><th>out</th><th>in</th><th>why</th></tr>$setRows</table>
            $pageTable$mapTable$waiverTable
            <h2>Findings</h2>$findingTable
            </body></html>

            HTML;
    }
}
