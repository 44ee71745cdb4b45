<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\ReadFile;
use Anvil\Asset\RenamePlan;
use Anvil\Asset\WrittenNames;
use Anvil\Formats\Changes;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Rewriter;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Unreadable;
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
        {--add-suffix= : add this suffix, such as _low, to every name that lacks it; a role\'s suffix goes to the parts of that role only}
        {--number= : new bases by a pattern such as bolt_##, where # stands for the digits of a number; with --find only bases that hold these letters}
        {--follow= : high or low: the other side takes the names of this one by place and size}';

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
        $measures = Measures::of($read, $this->standard(), $this->choices());
        $plan = $this->plan($measures);
        if ($this->option('apply') && $plan->clashes === []) {
            $sink = new FolderSink($this->outOption('DIR'), (bool) $this->option('force'));
            try {
                $names = WrittenNames::of($given, $measures->asset->standard);
                foreach ($given as $i => $file) {
                    try {
                        Rewriter::write($file->source, new Changes($plan->namesIn($i)), $names[$i], $sink);
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
            foreach ($plan->unsafe as $unsafe) {
                $this->line("careful: $unsafe");
            }
            foreach ($plan->clashes as $clash) {
                $this->line("clash: $clash");
            }
            $this->line($plan->rows === [] ? 'no name has to change' : count($plan->rows).' names'.($this->option('apply') && $plan->clashes === [] ? ' changed' : ' would change'));
        }

        return $plan->clashes === [] ? self::SUCCESS : self::BLOCKED;
    }

    private function plan(Measures $measures): RenamePlan
    {
        $find = is_string($this->option('find')) ? $this->option('find') : '';
        $replace = is_string($this->option('replace')) ? $this->option('replace') : null;
        $number = $this->option('number');
        $follow = $this->option('follow');
        // Without a suffix behind it the option reads as null, which is also what it reads as when it is not there.
        $suffix = $this->option('add-suffix') ?? ($this->input->hasParameterOption('--add-suffix') ? '' : null);
        if (count(array_filter([$replace !== null, $number !== null, $follow !== null, $suffix !== null])) > 1) {
            throw new UnusableInput('input-unusable', 'give one of --find with --replace, --add-suffix, --number and --follow');
        }
        if (is_string($number)) {
            return $number === '' ? throw new UnusableInput('input-unusable', '--number needs a pattern such as bolt_##') : RenamePlan::numbering($measures->asset, $number, 1, $find);
        }
        if ($follow !== null) {
            if ($follow !== 'high' && $follow !== 'low') {
                throw new UnusableInput('input-unusable', '--follow is high or low');
            }

            return RenamePlan::following($measures->asset, Role::from($follow));
        }
        if ($suffix !== null) {
            return is_string($suffix) && $suffix !== '' ? RenamePlan::addingSuffix($measures->asset, $suffix) : RenamePlan::addingSuffixes($measures->asset);
        }
        if ($find !== '') {
            return RenamePlan::replacing($measures->asset, $find, $replace ?? '');
        }
        if ($replace !== null) {
            throw new UnusableInput('input-unusable', '--replace needs --find');
        }

        return RenamePlan::suggested($measures->asset);
    }
}
