<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Formats\Changes;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Rewriter;
use Anvil\Formats\Unreadable;
use Anvil\Inspection\Inspection;
use Anvil\Inspection\ReadFile;
use Anvil\Pairing\RenamePlan;
use Throwable;

/**
 * Prints the rename plan; with --apply writes the renamed files.
 */
final class RenameCommand extends AnvilCommand
{
    protected $signature = 'anvil:rename '.self::INPUT.'
        {--apply : write the renamed files}
        {--out= : folder to write to, new or empty}
        {--force : write into a folder that holds files}
        {--find= : letters to find in names, with --replace}
        {--replace= : what stands there instead}
        {--add-suffix : add the role suffix to every part that lacks it}';

    protected $description = 'Mend names so that parts pair: the plan, or the files with only those name bytes changed';

    protected function perform(): int
    {
        $given = $this->givenFiles();
        $read = array_map(ReadFile::of(...), $given);
        foreach ($read as $file) {
            if ($file->error !== null) {
                throw UnusableInput::of($file->error, $file->path);
            }
        }
        $inspection = Inspection::of($read, $this->standard(), $this->choices());
        $find = $this->option('find');
        $plan = match (true) {
            is_string($find) && $find !== '' => RenamePlan::replacing($inspection, $find, is_string($this->option('replace')) ? $this->option('replace') : ''),
            (bool) $this->option('add-suffix') => RenamePlan::addingSuffixes($inspection),
            default => RenamePlan::suggested($inspection),
        };
        if ($this->option('apply') && $plan->clashes === []) {
            $sink = new FolderSink($this->outOption('DIR'), (bool) $this->option('force'));
            try {
                foreach ($given as $i => $file) {
                    try {
                        Rewriter::write($file->source, new Changes($plan->namesIn($i)), $file->source->name(), $sink);
                    } catch (Unreadable $error) {
                        throw UnusableInput::of($error, $file->path);
                    }
                }
                $sink->commit();
            } catch (Throwable $error) {
                $sink->discard();
                throw $error;
            }
        }
        if ($this->wantsJson()) {
            $this->printJson($plan->toArray());
        } else {
            foreach ($plan->rows as $row) {
                $this->line("{$row['file']}: {$row['from']} -> {$row['to']}  ({$row['reason']})");
            }
            foreach ($plan->clashes as $clash) {
                $this->line("clash: $clash");
            }
            $this->line($plan->rows === [] ? 'no name has to change' : count($plan->rows).' names'.($this->option('apply') && $plan->clashes === [] ? ' changed' : ' would change'));
        }

        return $plan->clashes === [] ? self::SUCCESS : self::BLOCKED;
    }
}
