<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Asset\GivenMap;
use Anvil\Checks\Cause;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Checks\Proof\ProofRetouch;
use Anvil\Checks\Words;
use Anvil\ColorId\Legend;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Measures\Kind\Shades;
use Anvil\Measures\NotKnown;
use Anvil\Pairing\RoledPart;
use Anvil\Report\Report;
use Anvil\Standard\Severity;

/**
 * The sheet that goes with a hand-off: files, bake settings with the reason for each value, verdict. No clock and no machine in it.
 */
final readonly class Ticket
{
    private function __construct(public string $asset, public Report $report, public string $of, public ?int $delivery)
    {
    }

    /**
     * @param  string|null  $of  hash of what is sealed
     * @param  int|null  $delivery  its number, where there are several
     */
    public static function of(string $asset, Report $report, ?string $of = null, ?int $delivery = null): self
    {
        return new self($asset, $report, $of ?? MadeOf::of($report->measures->asset), $delivery);
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
     * Which other sets darken a set where occlusion is baked with them, and whether that is wanted.
     *
     * @return list<array{set: string, by: string, share: float, wanted: bool}>
     */
    public function shades(): array
    {
        $measures = $this->report->measures;
        $occlusion = $measures->asset->choices->occlusion;
        $out = [];
        try {
            $found = $measures->asset->sets === [] ? [] : $measures->ofAsset(Shades::class);
        } catch (NotKnown) {
            $found = [];
        }
        foreach ($found as $set => $others) {
            foreach ($others as ['other' => $by, 'share' => $share]) {
                $out[] = ['set' => (string) $set, 'by' => $by, 'share' => $share, 'wanted' => $occlusion === 'all' || (is_array($occlusion) && $measures->asset->choices->mayShade((string) $set, $by))];
            }
        }

        return $out;
    }

    /**
     * Parts that are judged by no check, and stay out of the bake.
     *
     * @return list<array{part: string, file: string}>
     */
    public function leftOut(): array
    {
        $asset = $this->report->measures->asset;

        return array_values(array_map(static fn (RoledPart $part): array => ['part' => $part->part->name, 'file' => basename($part->path)], array_filter($asset->parts, static fn (RoledPart $part): bool => $asset->choices->leavesOut($part->base, $part->part->name))));
    }

    /**
     * Which color stands for what.
     *
     * @return list<array{name: string, hex: string, parts: list<string>, material?: string}>
     */
    public function legend(): array
    {
        return Legend::ofColors($this->report->measures->ofAsset(Colors::class))?->toArray()['ids'] ?? [];
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
     * @param  list<array{path: string, kind: string, sha256: string, bytes: int, of: string}>  $outputs
     * @return array<string, mixed>
     */
    public function toArray(array $files, array $outputs = []): array
    {
        return [
            'tool' => 'yellow-anvil',
            'schema' => 1,
            'asset' => $this->asset,
            ...($this->delivery === null ? [] : ['delivery' => $this->delivery]),
            'of' => $this->of,
            'verdict' => $this->report->isReady() ? 'ready' : 'blocked',
            'files' => $files,
            'outputs' => $outputs,
            'settings' => $this->settings(),
            'sets' => $this->sets(),
            'shades' => $this->shades(),
            'leftOut' => $this->leftOut(),
            'pages' => $this->pages(),
            'ids' => $this->legend(),
            'maps' => $this->maps(),
            'waivers' => $this->waivers(),
            'findings' => array_map(static fn (Finding $finding): array => $finding->toArray(), $this->report->findings()),
            'checks' => array_map(static fn (CheckResult $result): array => array_diff_key($result->toArray(), ['seconds' => 0]), $this->report->results),
            'standard' => $this->report->measures->asset->standard->toArray(),
            'choices' => $this->report->measures->asset->choices->toArray(),
        ];
    }

    /**
     * A page that stands alone and prints: no script, no picture, nothing loaded.
     *
     * @param  list<array{path: string, role: string|null, sha256: string, bytes: int}>  $files
     * @param  list<array{path: string, kind: string, sha256: string, bytes: int, of: string}>  $outputs
     */
    public function html(array $files, array $outputs = []): string
    {
        $e = static fn (string $text): string => htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE, 'UTF-8');
        $cells = static fn (string ...$row): string => '<tr><td>'.implode('</td><td>', $row).'</td></tr>';
        $mark = static fn (Severity $severity): string => match ($severity) {
            Severity::Blocker => '&#11043; blocker', Severity::Caution => '&#9650; caution', Severity::Note => '&#9679; note',
        };
        $fileRows = implode('', array_map(static fn (array $file): string => $cells('<code>'.$e($file['path']).'</code>', $e($file['role'] ?? '–'), number_format($file['bytes']).' bytes', '<code class="sum">'.$e($file['sha256']).'</code>'), $files));
        $outputRows = implode('', array_map(static fn (array $one): string => $cells('<code>'.$e($one['path']).'</code>', $e(Extra::KINDS[$one['kind']] ?? $one['kind']), number_format($one['bytes']).' bytes', '<code class="sum">'.$e($one['sha256']).'</code>'), $outputs));
        $outputTable = $outputRows === '' ? '' : "<h2>What goes along</h2><table><tr><th>file</th><th>what</th><th>size</th><th>SHA-256</th></tr>$outputRows</table>";
        $settingRows = implode('', array_map(static fn (array $row): string => $cells($e($row['setting']), '<b>'.$e($row['value']).'</b>', $e($row['reason'])), $this->settings()));
        $length = fn (?float $value, ?float $share): string => $value === null || $share === null ? '–' : Words::length($value, $this->report->measures->asset).' <small>('.Words::percent($share).' of the size of the set)</small>';
        $setRows = implode('', array_map(static fn (array $set): string => $cells('<code>'.$e($set['set']).'</code>', $length($set['out'], $set['outShare']), $length($set['in'], $set['inShare']), $e($set['reason'])), $this->sets()));
        $shaders = [];
        foreach ($this->shades() as $one) {
            $shaders[$one['set']][$one['wanted'] ? 'together' : 'apart'][] = '<code>'.$e($one['by']).'</code> '.Words::percent($one['share']);
        }
        $shadeRows = implode('', array_map(static fn (string $set, array $by): string => $cells('<code>'.$e($set).'</code>', implode(', ', $by['together'] ?? ['–']), implode(', ', $by['apart'] ?? ['–'])), array_map(strval(...), array_keys($shaders)), $shaders));
        $shadeTable = $shadeRows === '' ? '' : "<h2>Who shades whom</h2><p>Share of a set's directions in which another set stands nearest.</p><table><tr><th>set</th><th>bake occlusion together with</th><th>keep apart from</th></tr>$shadeRows</table>";
        $outParts = array_map(static fn (array $one): string => '<code>'.$e($one['part']).'</code>', $this->leftOut());
        $outText = $outParts === [] ? '' : '<h2>Left out of the bake</h2><p>'.implode(', ', $outParts).'</p>';
        $idRows = implode('', array_map(static fn (array $id): string => $cells('<span class="swatch" style="background:'.$e($id['hex']).'"></span> <code>'.$e($id['hex']).'</code>', '<code>'.$e($id['name']).'</code>', '<code>'.$e(implode(', ', array_slice($id['parts'], 0, 12)).(count($id['parts']) > 12 ? ', …' : '')).'</code>'), $this->legend()));
        $idTable = $idRows === '' ? '' : "<h2>Color IDs</h2><table><tr><th>color</th><th>ID</th><th>parts</th></tr>$idRows</table>";
        $pageRows = implode('', array_map(static fn (array $page): string => $cells('<code>'.$e($page['page']).'</code>', number_format($page['texels']).' texels', Words::percent($page['share']).' of those inside islands'), $this->pages()));
        $pageTable = $pageRows === '' ? '' : "<h2>Left to paint after the bake</h2><table><tr><th>page</th><th>retouch mask</th><th>share</th></tr>$pageRows</table>";
        $mapRows = implode('', array_map(static fn (array $map): string => $cells('<code>'.$e($map['path']).'</code>', $e(($map['kind'] ?? '–').', '.($map['page'] ?? '–')), $e($map['verdict'].($map['codes'] === [] ? '' : ': '.implode(', ', $map['codes']))), '<code class="sum">'.$e($map['sha256']).'</code>'), $this->maps()));
        $mapTable = $mapRows === '' ? '' : "<h2>Maps that came back</h2><table><tr><th>file</th><th>kind, page</th><th>against the trial</th><th>SHA-256</th></tr>$mapRows</table>";
        $waiverRows = implode('', array_map(static fn (array $one): string => $cells('<code>'.$e($one['code']).'</code>', $e($one['message']), $e($one['by']), $e($one['reason'].($one['until'] === null ? '' : " (until {$one['until']})"))), $this->waivers()));
        $waiverTable = $waiverRows === '' ? '' : "<h2>Waived</h2><table><tr><th>check</th><th>what</th><th>by</th><th>reason</th></tr>$waiverRows</table>";
        $causes = $this->report->causes();
        $isReady = $this->report->isReady();
        $findingRows = implode('', array_map(static fn (Cause $cause): string => $cells($mark($cause->severity).($cause->waived ? ' (waived)' : ''), '<code>'.$e($cause->code).'</code>', $e($cause->message).($isReady ? '' : '<br><small>'.$e($cause->remedy).'</small>')), $causes));
        $findingTable = $causes === [] ? '<p>No findings.</p>' : "<table><tr><th>severity</th><th>check</th><th>what</th></tr>$findingRows</table>";
        $verdict = $isReady ? 'Ready to bake' : 'Not ready';
        // What stands in the way is what is read first.
        [$findingsFirst, $findingsLast] = $isReady ? ['', "<h2>Findings</h2>$findingTable"] : ["<h2>Findings</h2>$findingTable", ''];
        $passed = count(array_filter($this->report->results, static fn (CheckResult $result): bool => $result->state === 'passed'));
        $all = count($this->report->results);
        $name = $e($this->asset);
        $number = $this->delivery === null ? '' : " <small>delivery $this->delivery</small>";
        $of = $this->of;

        return <<<HTML
            <!doctype html>
            <html lang="en"><head><meta charset="utf-8"><title>$name – hand-off ticket</title>
            <style>
            body{font:15px/1.5 system-ui,sans-serif;color:#22303a;background:#f6f3ec;max-width:60rem;margin:2rem auto;padding:0 1rem}
            h1{margin:0}h2{margin:2rem 0 .5rem;font-size:1.1rem}table{border-collapse:collapse;width:100%}
            td,th{text-align:left;padding:.35rem .6rem .35rem 0;border-bottom:1px solid #cfc8b8;vertical-align:top}th{font-weight:600}
            code{font-family:ui-monospace,monospace}.sum{font-size:.75em;overflow-wrap:anywhere}.swatch{display:inline-block;width:2.2em;height:1em;border:1px solid #22303a;vertical-align:-.1em;print-color-adjust:exact;-webkit-print-color-adjust:exact}
            @media print{body{background:#fff;max-width:none;margin:0;font-size:11px}h2{break-after:avoid}tr{break-inside:avoid}}@page{margin:14mm}
            small{color:#5a6670}.verdict{display:inline-block;border:2px solid;padding:.2rem .7rem;font-weight:700}
            </style></head><body>
            <h1>$name$number</h1><p class="verdict">$verdict</p><p>$passed of $all checks passed; the others are below, or had nothing to look at.</p>
            $findingsFirst
            <h2>Files</h2><table><tr><th>file</th><th>role</th><th>size</th><th>SHA-256</th></tr>$fileRows</table>
            $outputTable
            <h2>Bake settings</h2><table><tr><th>setting</th><th>value</th><th>why</th></tr>$settingRows</table>
            <h2>Reach a set</h2><table><tr><th>set</th><th>out</th><th>in</th><th>why</th></tr>$setRows</table>
            $shadeTable$outText$idTable$pageTable$mapTable$waiverTable
            $findingsLast
            <p><small>Of <code class="sum">$of</code>: the files, the standard and the choices as one hash.</small></p>
            </body></html>

            HTML;
    }
}
