<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Words;
use Anvil\Report\JunitReport;
use Anvil\Report\Report;
use Anvil\Report\SarifReport;
use Anvil\Report\UvPicture;
use Anvil\Standard\Severity;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * Reads, pairs, sets, runs every check.
 */
final class InspectCommand extends AnvilCommand
{
    protected $signature = 'anvil:inspect '.self::INPUT.'
        {--format= : text (as without it), json, junit or sarif; of --each also html}
        {--each= : a folder; every asset in it and beneath is inspected, and one summary printed}
        {--keep= : with --each, a folder in which answers are kept, so that another run goes on where this one ended}
        {--only= : codes of the checks to run, with commas}
        {--assembled=* : what an exploded input was before: its explode.json, or the original file (may be given more than once)}
        {--uv-layout= : a picture of the UV pages side by side is written there, .svg or .png}
        {--force : replace a picture that is there}
        {--uv-layout-size=1024 : px that a page is wide in a .png, 64 to 8192}
        {--notes : print the notes as well, instead of their count alone (text)}
        {--rays= : samples, instead of the standard\'s}';

    protected $description = 'Say whether high and low poly are ready to bake, and what is wrong where they are not';

    protected function perform(): int
    {
        $format = $this->option('format') ?? ($this->wantsJson() ? 'json' : 'text');
        if ($this->option('each') !== null) {
            return $this->each((string) $this->option('each'), $format);
        }
        if (! in_array($format, ['json', 'text', 'junit', 'sarif'], true)) {
            throw new UnusableInput('input-unusable', '--format is text, json, junit or sarif');
        }
        $layout = $this->layoutPath();
        $size = $this->layoutSize();
        $report = $this->inspectFiles($this->givenFiles());
        if ($layout !== null) {
            $this->writeLayout($report, $layout, $size);
        }
        match (true) {
            $format === 'json' || $this->wantsJson() => $this->printJson($report->toArray()),
            $format === 'sarif' => $this->printJson(SarifReport::of($report)),
            $format === 'junit' => $this->output->write(JunitReport::of($report), false, OutputInterface::OUTPUT_RAW),
            default => $this->printText($report),
        };

        return $report->isReady() ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * @throws UnusableInput
     */
    private function each(string $folder, string $format): int
    {
        if (! in_array($format, ['json', 'text', 'junit', 'html'], true)) {
            throw new UnusableInput('input-unusable', '--format of --each is text, json, junit or html');
        }
        if (! is_dir($folder) || ! is_readable($folder)) {
            throw new UnusableInput('file-missing', "$folder is no folder that can be read", $folder);
        }
        if ($this->argument('files') !== []) {
            throw new UnusableInput('input-unusable', '--each takes a folder, and no files beside');
        }
        $keep = $this->option('keep');
        if (is_string($keep) && ! is_dir($keep) && ! @mkdir($keep, 0o755, true)) {
            throw new UnusableInput('input-unusable', "$keep cannot be made", $keep);
        }
        // Wrong rules are told once, not of each asset.
        $standard = $this->standard();
        $this->choices();
        $this->waivers();
        $options = $rules = [];
        foreach (['standard', 'choices', 'waivers', 'only', 'rays'] as $name) {
            $value = $this->option($name);
            if (is_string($value) && $value !== '') {
                $options[] = "--$name=$value";
                $rules[] = is_file($value) ? (string) file_get_contents($value) : '';
            }
        }
        $start = hrtime(true);
        $rows = (new EachAsset($options, $rules, is_string($keep) ? $keep : null, $this->workers(), $this->progress()))->rows($folder, $standard);
        $this->clearProgress();
        if ($rows === []) {
            throw new UnusableInput('file-missing', "$folder holds no mesh files", $folder);
        }
        $isReady = array_filter($rows, static fn (array $row): bool => $row['verdict'] !== 'ready') === [];
        match ($format) {
            'json' => $this->printJson(['tool' => 'yellow-anvil', 'schema' => 1, 'verdict' => $isReady ? 'ready' : 'blocked', 'folder' => $folder, 'assets' => $rows, 'seconds' => round((hrtime(true) - $start) / 1e9, 2)]),
            'junit' => $this->output->write(EachAsset::junit($rows), false, OutputInterface::OUTPUT_RAW),
            'html' => $this->output->write(EachAsset::html($folder, $rows), false, OutputInterface::OUTPUT_RAW),
            default => $this->printEach($rows),
        };

        return $isReady ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * @param  list<array{asset: string, verdict: string, blockers: int, cautions: int, notes: int, seconds: float, known: bool, error: string|null, causes: list<array{code: string, severity: string, message: string}>}>  $rows
     */
    private function printEach(array $rows): void
    {
        $counts = [];
        foreach ($rows as $row) {
            $counts[$row['verdict']] = ($counts[$row['verdict']] ?? 0) + 1;
            $this->line(sprintf('%-10s %-40s %3d blockers %3d cautions %3d notes%s', $row['verdict'], $row['asset'], $row['blockers'], $row['cautions'], $row['notes'], $row['known'] ? '  (kept)' : ''));
            foreach ($row['causes'] as $cause) {
                if ($cause['severity'] === 'blocker') {
                    $this->line("           $cause[code]  $cause[message]");
                }
            }
            if ($row['error'] !== null) {
                $this->line("           $row[error]");
            }
        }
        $this->newLine();
        $this->line(count($rows).(count($rows) === 1 ? ' asset: ' : ' assets: ').implode(', ', array_map(static fn (string $verdict): string => "$counts[$verdict] $verdict", array_keys($counts))));
    }

    /**
     * Where the picture of the UV pages is to go; null where none is wanted.
     *
     * @throws UnusableInput where it cannot go there
     */
    private function layoutPath(): ?string
    {
        $path = $this->option('uv-layout');
        if ($path === null || $path === '') {
            return null;
        }
        if (! in_array(strtolower(pathinfo($path, PATHINFO_EXTENSION)), ['svg', 'png'], true)) {
            throw new UnusableInput('input-unusable', "--uv-layout=$path is neither .svg nor .png");
        }
        if (! is_dir(dirname($path)) || ! is_writable(dirname($path)) || is_dir($path)) {
            throw new UnusableInput('input-unusable', "--uv-layout=$path cannot be written: its folder is not there, or may not be written to");
        }

        if (file_exists($path) && ! $this->option('force')) {
            throw new UnusableInput('input-unusable', "$path is there already; --force replaces it", $path);
        }

        return $path;
    }

    /**
     * @throws UnusableInput
     */
    private function layoutSize(): int
    {
        $size = $this->option('uv-layout-size');
        if (! is_numeric($size) || (int) $size < 64 || (int) $size > 8192) {
            throw new UnusableInput('input-unusable', '--uv-layout-size is 64 to 8192 px');
        }

        return (int) $size;
    }

    private function writeLayout(Report $report, string $path, int $size): void
    {
        $picture = UvPicture::of($report->measures);
        $bytes = strtolower(pathinfo($path, PATHINFO_EXTENSION)) === 'png' ? $picture->png($size) : $picture->svg();
        // A run that fails leaves nothing half written.
        $temporary = "$path.".bin2hex(random_bytes(4)).'.part';
        if (@file_put_contents($temporary, $bytes) !== strlen($bytes) || ! @rename($temporary, $path)) {
            @unlink($temporary);
            throw new UnusableInput('input-unusable', "--uv-layout=$path could not be written");
        }
    }

    private function printText(Report $report): void
    {
        foreach ($report->measures->asset->files as $file) {
            $this->line(sprintf('%s  %s  %d parts, %s triangles', $file->path, $file->scene->format ?? 'unreadable', count($file->scene->parts ?? []), number_format($file->scene?->triangleCount() ?? 0)));
        }
        $this->newLine();
        foreach ($report->measures->clearances() as $clearance) {
            $wrong = $clearance->firstWrong['out'];
            $this->line(sprintf('%-24s needs %s out, %s in; %s', $clearance->name, Words::length($clearance->needed->out, $report->measures->asset), Words::length($clearance->needed->in, $report->measures->asset), $wrong === null ? 'no wrong hit outward' : 'wrong hits from '.Words::length($wrong, $report->measures->asset).' out'));
        }
        $this->newLine();
        $folded = [];
        foreach ($report->causes() as $cause) {
            if ($cause->severity === Severity::Note && ! $this->option('notes')) {
                $folded[$cause->code] = true;

                continue;
            }
            $mark = match ($cause->severity) {
                Severity::Blocker => 'BLOCKER', Severity::Caution => 'caution', Severity::Note => 'note   ',
            };
            $this->line("$mark  $cause->code  $cause->message".($cause->waived ? '  (waived)' : ''));
            $this->line('         after the bake: '.(Catalogue::about()[$cause->code]->afterBake ?? ''));
            $this->line("         what mends it: $cause->remedy");
        }
        if ($folded !== []) {
            $count = $report->count(Severity::Note);
            $this->line("$count ".($count === 1 ? 'note' : 'notes').', shown with --notes: '.implode(', ', array_keys($folded)));
        }
        $passed = $notRun = 0;
        foreach ($report->results as $result) {
            $passed += $result->state === 'passed' ? 1 : 0;
            if ($result->state === 'not-run') {
                $notRun++;
                $this->line("not run  {$result->about->code}: $result->reason");
            }
        }
        $this->newLine();
        $this->line(sprintf('%s: %s, %s, %s; %d of %d checks passed%s', $report->isReady() ? 'READY' : 'NOT READY', self::counted($report, Severity::Blocker), self::counted($report, Severity::Caution), self::counted($report, Severity::Note), $passed, count($report->results), $notRun > 0 ? ", $notRun not run" : ''));
    }

    private static function counted(Report $report, Severity $severity): string
    {
        $count = $report->count($severity);

        return "$count $severity->value".($count === 1 ? '' : 's');
    }
}
