<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Cage\CageFiles;
use Anvil\Cage\CageFit;
use Anvil\Checks\Words;
use Anvil\Formats\FolderSink;
use Throwable;

/**
 * Writes a fitted cage for each low file.
 */
final class CageCommand extends AnvilCommand
{
    protected $signature = 'anvil:cage '.self::INPUT.'
        {--straight : where details lean, vertices turn so that rays go straight along those faces}
        {--rays= : samples, instead of the standard\'s}
        {--out= : folder to write to, new or empty}
        {--force : write into a folder that holds files}';

    protected $description = 'Fit a cage by vertex to every low file, enclosing its high poly and staying under wrong hits';

    protected function perform(): int
    {
        $report = $this->inspectFiles($this->givenFiles());
        $measures = $report->measures;
        foreach ($measures->asset->files as $file) {
            if ($file->error !== null) {
                throw UnusableInput::of($file->error, $file->path);
            }
        }
        if ($measures->clearances() === []) {
            throw new UnusableInput('input-unusable', $measures->notMeasured() === [] ? 'no set has both low and high parts' : (string) current($measures->notMeasured()));
        }
        $fits = CageFit::ofAll($measures->asset, $measures->clearances(), (bool) $this->option('straight'));
        $sink = new FolderSink($this->outOption('DIR'), (bool) $this->option('force'));
        try {
            $names = CageFiles::write($measures->asset, $fits, $sink);
            $sink->commit();
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }
        $clean = true;
        $rows = [];
        foreach ($fits as $fit) {
            $clean = $clean && $fit->isClean();
            $rows[] = [
                'set' => $fit->set, 'vertices' => $fit->vertices, 'more' => $fit->more, 'less' => $fit->less,
                'left' => ['wrongShare' => $fit->rays->wrongShare, 'outsideShare' => $fit->rays->outsideShare, 'outsideBy' => $fit->rays->outsideBy],
                ...($this->option('straight') ? ['straight' => $fit->straight] : []),
            ];
        }
        if ($this->wantsJson()) {
            $this->printJson(['files' => $names, 'sets' => $rows, 'notFitted' => (object) $measures->notMeasured()]);
        } else {
            foreach ($rows as $row) {
                $left = $row['left'];
                $straight = $row['straight'] ?? null;
                $this->line(sprintf('%-24s %d vertices: %d needed more than the single distance, %d less', $row['set'], $row['vertices'], $row['more'], $row['less'])
                    .($straight === null ? '' : "; {$straight['turned']} turned: details move ".Words::length($straight['leanAfter'], $measures->asset).' aside instead of '.Words::length($straight['leanBefore'], $measures->asset))
                    .($left['wrongShare'] > 0.0005 ? '; no cage mends '.Words::percent($left['wrongShare']).' of its area, where rays go wrong' : '')
                    .($left['outsideBy'] > 0.0 ? '; the high poly stands out by '.Words::length($left['outsideBy'], $measures->asset) : ''));
            }
            foreach ($measures->notMeasured() as $set => $reason) {
                $this->line("$set: no cage, $reason");
            }
            $this->line('written: '.implode(', ', $names));
        }

        return $clean ? self::SUCCESS : self::BLOCKED;
    }
}
