<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Inspection\FolderOfAssets;
use Anvil\Standard\Standard;
use Anvil\Version;
use Closure;
use XMLWriter;

/**
 * Every asset of a folder inspected, each in a process of its own, so that one that breaks takes no other with it. What was kept of an earlier run is taken from there
 * while files, rules and version are the same.
 */
final class EachAsset
{
    private const WAIT = 20_000;

    /** What is told of an asset in one line each. */
    private const MOST_CAUSES = 20;

    /**
     * @param  list<string>  $options  that each inspection is given, `--standard=FILE`
     * @param  list<string>  $rules  contents of the files that the options name
     * @param  string|null  $keep  a folder
     * @param  Closure(string): void|null  $progress
     */
    public function __construct(private readonly array $options, private readonly array $rules, private readonly ?string $keep, private readonly int $workers, private readonly ?Closure $progress)
    {
    }

    /**
     * @return list<array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, known: bool, error: string|null, causes: list<array{code: string, severity: string, message: string}>}> in the order of their names
     */
    public function rows(string $folder, Standard $standard): array
    {
        $assets = FolderOfAssets::of($folder, $standard);
        $waiting = $out = [];
        foreach ($assets as $name => $paths) {
            $key = $this->key($paths);
            $known = $this->kept((string) $name, $key);
            if ($known !== null) {
                $out[(string) $name] = [...$known, 'known' => true];
            } else {
                $waiting[] = [(string) $name, $paths, $key];
            }
        }
        $running = [];
        $all = count($assets);
        while ($waiting !== [] || $running !== []) {
            while ($waiting !== [] && count($running) < $this->workers) {
                [$name, $paths, $key] = array_shift($waiting);
                $this->progress?->__invoke("$name (".(count($out) + count($running) + 1)." of $all)");
                $running[$name] = $this->begin($name, $paths, $key);
            }
            foreach ($running as $name => $one) {
                $status = proc_get_status($one['process']);
                if ($status['running']) {
                    continue;
                }
                proc_close($one['process']);
                $row = self::row($name, $status['exitcode'], $one['out'], (hrtime(true) - $one['begun']) / 1e9);
                foreach (['out', 'err'] as $file) {
                    unlink($one[$file]);
                }
                $this->keep($name, $one['key'], $row);
                $out[$name] = [...$row, 'known' => false];
                unset($running[$name]);
            }
            usleep($running === [] ? 0 : self::WAIT);
        }
        ksort($out, SORT_STRING);

        return array_values($out);
    }

    /**
     * @param  list<string>  $paths
     * @return array{process: resource, out: string, err: string, begun: float|int, key: string}
     *
     * @throws UnusableInput where no process can be begun
     */
    private function begin(string $name, array $paths, string $key): array
    {
        [$out, $err] = [(string) tempnam(sys_get_temp_dir(), 'anvil-each-'), (string) tempnam(sys_get_temp_dir(), 'anvil-each-')];
        $process = proc_open([PHP_BINARY, '-d', 'memory_limit='.ini_get('memory_limit'), base_path('artisan'), 'anvil:inspect', '--json', '--workers=1', ...$this->options, '--', ...$paths], [0 => ['file', '/dev/null', 'r'], 1 => ['file', $out, 'w'], 2 => ['file', $err, 'w']], $pipes);

        return is_resource($process) ? ['process' => $process, 'out' => $out, 'err' => $err, 'begun' => hrtime(true), 'key' => $key] : throw new UnusableInput('input-unusable', "no process could be begun for $name");
    }

    /**
     * @return array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, error: string|null, causes: list<array{code: string, severity: string, message: string}>}
     */
    private static function row(string $name, int $code, string $path, float $seconds): array
    {
        $said = json_decode((string) file_get_contents($path), true);
        $said = is_array($said) ? $said : [];
        $causes = [];
        $counts = ['blocker' => 0, 'caution' => 0, 'note' => 0];
        $findings = is_array($said['findings'] ?? null) ? $said['findings'] : [];
        foreach (is_array($said['causes'] ?? null) ? $said['causes'] : [] as $cause) {
            if (! is_array($cause) || self::isWaived($cause, $findings)) {
                continue;
            }
            $severity = is_string($cause['severity'] ?? null) ? $cause['severity'] : 'note';
            $counts[$severity] = ($counts[$severity] ?? 0) + 1;
            if ($severity !== 'note' && count($causes) < self::MOST_CAUSES) {
                $causes[] = ['code' => is_string($cause['code'] ?? null) ? $cause['code'] : '', 'severity' => $severity, 'message' => is_string($cause['message'] ?? null) ? $cause['message'] : ''];
            }
        }
        $error = is_array($said['error'] ?? null) && is_string($said['error']['message'] ?? null) ? $said['error']['message'] : null;
        if ($said === []) {
            $error = 'the inspection did not come to its end; more memory may help';
        }
        $verdict = $error !== null ? 'unreadable' : ($code === 0 ? 'ready' : 'blocked');

        return ['asset' => $name, 'verdict' => $verdict, 'blockers' => $counts['blocker'], 'cautions' => $counts['caution'], 'notes' => $counts['note'], 'seconds' => round($seconds, 2), 'error' => $error, 'causes' => $causes];
    }

    /**
     * @param  array<mixed>  $cause
     * @param  array<mixed>  $findings
     */
    private static function isWaived(array $cause, array $findings): bool
    {
        $own = is_array($cause['findings'] ?? null) ? $cause['findings'] : [];
        foreach ($own as $position) {
            $one = is_int($position) ? ($findings[$position] ?? null) : null;
            if (! is_array($one) || ($one['waived'] ?? false) !== true) {
                return false;
            }
        }

        return $own !== [];
    }

    /**
     * All that an answer depends on.
     *
     * @param  list<string>  $paths
     */
    private function key(array $paths): string
    {
        $sums = [];
        foreach ($paths as $path) {
            $sums[] = [basename($path), hash_file('sha256', $path)];
            // Side files that lie beside it may be part of it.
            foreach (glob(dirname($path).'/*.{mtl,bin,png,jpg,jpeg}', GLOB_BRACE) ?: [] as $side) {
                $sums[] = [basename($side), filesize($side), filemtime($side)];
            }
        }

        return hash('sha256', json_encode([$sums, $this->options, $this->rules, Version::CORE], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE));
    }

    private function path(string $name): string
    {
        return "$this->keep/".preg_replace('/[^A-Za-z0-9._-]+/', '_', $name).'-'.substr(hash('sha256', $name), 0, 8).'.json';
    }

    /**
     * @return array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, error: string|null, causes: list<array{code: string, severity: string, message: string}>}|null
     */
    private function kept(string $name, string $key): ?array
    {
        $kept = $this->keep === null ? null : json_decode((string) @file_get_contents($this->path($name)), true);

        /** @var array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, error: string|null, causes: list<array{code: string, severity: string, message: string}>}|null */
        return is_array($kept) && ($kept['key'] ?? null) === $key && is_array($kept['row'] ?? null) ? $kept['row'] : null;
    }

    /**
     * @param  array<string, mixed>  $row
     */
    private function keep(string $name, string $key, array $row): void
    {
        if ($this->keep === null || $row['verdict'] === 'unreadable') {
            return;
        }
        $temporary = $this->path($name).'.part';
        file_put_contents($temporary, json_encode(['key' => $key, 'row' => $row], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE | JSON_UNESCAPED_UNICODE));
        rename($temporary, $this->path($name));
    }

    /**
     * @param  list<array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, known: bool, error: string|null, causes: list<array{code: string, severity: string, message: string}>}>  $rows
     */
    public static function junit(array $rows): string
    {
        $text = static fn (string $text): string => (string) preg_replace('/[^\x{9}\x{a}\x{d}\x{20}-\x{d7ff}\x{e000}-\x{fffd}\x{10000}-\x{10ffff}]/u', '?', mb_scrub($text));
        $count = static fn (string $verdict): string => (string) count(array_filter($rows, static fn (array $row): bool => $row['verdict'] === $verdict));
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElement('testsuites');
        $xml->writeAttribute('name', 'yellow-anvil');
        $xml->startElement('testsuite');
        foreach (['name' => 'assets', 'tests' => (string) count($rows), 'failures' => $count('blocked'), 'errors' => $count('unreadable')] as $key => $value) {
            $xml->writeAttribute($key, $value);
        }
        foreach ($rows as $row) {
            $xml->startElement('testcase');
            $xml->writeAttribute('name', $text($row['asset']));
            $xml->writeAttribute('classname', 'yellow-anvil.assets');
            $xml->writeAttribute('time', sprintf('%.2F', $row['seconds']));
            if ($row['verdict'] === 'unreadable') {
                $xml->startElement('error');
                $xml->writeAttribute('message', $text($row['error'] ?? ''));
                $xml->endElement();
            }
            foreach ($row['verdict'] === 'blocked' ? $row['causes'] : [] as $cause) {
                if ($cause['severity'] === 'blocker') {
                    $xml->startElement('failure');
                    $xml->writeAttribute('type', $cause['code']);
                    $xml->writeAttribute('message', $text($cause['message']));
                    $xml->endElement();
                }
            }
            if ($row['verdict'] === 'blocked' && $row['blockers'] === 0) {
                $xml->startElement('failure');
                $xml->writeAttribute('type', 'not-run');
                $xml->writeAttribute('message', 'a check that would block did not run');
                $xml->endElement();
            }
            $xml->endElement();
        }
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    /**
     * A page that stands alone.
     *
     * @param  list<array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, known: bool, error: string|null, causes: list<array{code: string, severity: string, message: string}>}>  $rows
     */
    public static function html(string $folder, array $rows): string
    {
        $e = static fn (string $text): string => htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE, 'UTF-8');
        $ready = count(array_filter($rows, static fn (array $row): bool => $row['verdict'] === 'ready'));
        $body = '';
        foreach ($rows as $row) {
            $causes = implode('', array_map(static fn (array $cause): string => '<li><b>'.$e($cause['severity']).'</b> '.$e($cause['message']).' <code>'.$e($cause['code']).'</code></li>', $row['causes']));
            $what = $row['error'] !== null ? $e($row['error']) : ($causes === '' ? '' : "<ul>$causes</ul>");
            $body .= '<tr class="'.$row['verdict'].'"><td>'.$e($row['asset']).'</td><td>'.$row['verdict']."</td><td>{$row['blockers']}</td><td>{$row['cautions']}</td><td>{$row['notes']}</td><td>$what</td></tr>\n";
        }
        $title = $e(basename($folder)).': '.count($rows).' assets, '.$ready.' ready to bake';

        return <<<HTML
            <!doctype html>
            <html lang="en"><head><meta charset="utf-8"><title>$title</title>
            <style>body{font:14px/1.45 sans-serif;color:#22303a;background:#f6f3ec;margin:2em}table{border-collapse:collapse;width:100%}th,td{text-align:left;vertical-align:top;padding:4px 8px;border-bottom:1px solid #d3cbba}ul{margin:0;padding-left:1.2em}.blocked td:nth-child(2),.unreadable td:nth-child(2){color:#a3202a;font-weight:700}.ready td:nth-child(2){color:#2c6a3f;font-weight:700}code{color:#57626b}</style>
            </head><body><h1>$title</h1>
            <table><tr><th>asset</th><th>verdict</th><th>blockers</th><th>cautions</th><th>notes</th><th>what</th></tr>
            $body</table></body></html>

            HTML;
    }
}
