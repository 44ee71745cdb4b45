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
        {--format= : text (as without it), json, junit or sarif}
        {--only= : codes of the checks to run, with commas}
        {--assembled=* : what an exploded input was before: its explode.json, or the original file (may be given more than once)}
        {--uv-layout= : a picture of the UV pages side by side is written there, .svg or .png}
        {--uv-layout-size=1024 : px that a page is wide in a .png, 64 to 8192}
        {--rays= : samples, instead of the standard\'s}';

    protected $description = 'Say whether high and low poly are ready to bake, and what is wrong where they are not';

    protected function perform(): int
    {
        $format = $this->option('format') ?? ($this->wantsJson() ? 'json' : 'text');
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
        foreach ($report->causes() as $cause) {
            $mark = match ($cause->severity) {
                Severity::Blocker => 'BLOCKER', Severity::Caution => 'caution', Severity::Note => 'note   ',
            };
            $this->line("$mark  $cause->code  $cause->message".($cause->waived ? '  (waived)' : ''));
            $this->line('         after the bake: '.(Catalogue::about()[$cause->code]->afterBake ?? ''));
            $this->line("         what mends it: $cause->remedy");
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
