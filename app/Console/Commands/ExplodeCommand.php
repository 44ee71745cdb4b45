<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Explode\ExplodedFiles;
use Anvil\Explode\ExplodePlan;
use Anvil\Formats\FolderSink;
use Throwable;

/**
 * Moves sets out of each other's rays and writes the files so.
 */
final class ExplodeCommand extends AnvilCommand
{
    protected $signature = 'anvil:explode '.self::INPUT.'
        {--all : move every set, in conflict or not}
        {--clearance= : gap between moved sets, in file units (2 % of the asset by default)}
        {--rays= : samples, instead of the standard\'s}
        {--out= : folder to write to, new or empty}
        {--force : write into a folder that holds files}';

    protected $description = 'Move sets that get in each other\'s rays apart, prove it, and write the exploded files';

    protected function perform(): int
    {
        $clearance = $this->option('clearance');
        if ($clearance !== null && (! is_numeric($clearance) || (float) $clearance < 0)) {
            throw new UnusableInput('input-unusable', '--clearance takes a length of 0 or more');
        }
        $given = $this->givenFiles();
        $report = $this->inspectFiles($given);
        foreach ($report->measures->asset->files as $file) {
            if ($file->error !== null) {
                throw UnusableInput::of($file->error, $file->path);
            }
        }
        if ($report->measures->clearances() === []) {
            throw new UnusableInput('input-unusable', $report->measures->notMeasured() === [] ? 'no set has both low and high parts' : (string) current($report->measures->notMeasured()));
        }
        $plan = ExplodePlan::of($report->measures->asset, $report->measures->clearances(), $clearance === null ? null : (float) $clearance, (bool) $this->option('all'));
        $sink = new FolderSink($this->outOption('DIR'), (bool) $this->option('force'));
        try {
            ExplodedFiles::write($report->measures->asset, $given, $plan, $sink);
            $sink->commit();
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }
        if ($this->wantsJson()) {
            $this->printJson($plan->toArray($report->measures->asset));
        } else {
            foreach ($plan->moved() as $set) {
                $this->line(sprintf('%-24s %s', $set, implode(' ', array_map(static fn (float $v): string => (string) $v, $plan->vectors[$set]))));
            }
            $this->line(count($plan->moved()).' of '.count($report->measures->asset->sets).sprintf(' sets move; bleed %.2f %% before, %.2f %% after', 100 * $plan->worst($plan->bleedBefore), 100 * $plan->worst($plan->bleedAfter)));
        }

        return $plan->isProved() ? self::SUCCESS : self::BLOCKED;
    }
}
