<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Handoff\Package;

/**
 * Inspects, and if ready writes the hand-off package.
 */
final class PackageCommand extends AnvilCommand
{
    protected $signature = 'anvil:package '.self::INPUT.'
        {--rays= : samples, instead of the standard\'s}
        {--name= : the asset\'s name on the ticket; else that of the first file}
        {--out= : the zip to write}
        {--force : replace a zip that is there}';

    protected $description = 'Seal files, settings and verdict into one zip for hand-off, and read it back';

    protected function perform(): int
    {
        $out = $this->outOption('FILE.zip');
        if (file_exists($out) && ! $this->option('force')) {
            throw new UnusableInput('input-unusable', "$out is there already; --force replaces it", $out);
        }
        if (! is_dir(dirname($out)) || ! is_writable(dirname($out))) {
            throw new UnusableInput('input-unusable', dirname($out).' is no folder that can be written to', $out);
        }
        $given = $this->givenFiles();
        $report = $this->inspectFiles($given);
        $name = $this->option('name');
        $sealed = null;
        if ($report->isReady()) {
            $stem = (string) preg_replace('/_(low|high)$/i', '', pathinfo($given[0]->path, PATHINFO_FILENAME));
            $sealed = Package::write(is_string($name) && $name !== '' ? $name : $stem, $report, $given, $out);
        }
        $ready = $sealed !== null && $sealed->findings === [];
        if ($this->wantsJson()) {
            $this->printJson([
                ...$report->toArray(),
                'verdict' => $ready ? 'ready' : 'blocked',
                'package' => $ready ? ['path' => $out, 'sha256' => hash_file('sha256', $out), 'bytes' => filesize($out)] : null,
            ]);
        } elseif ($ready) {
            $this->line("sealed $out, and read it back");
        } else {
            foreach ([...$report->findings(), ...($sealed->findings ?? [])] as $finding) {
                if ($finding->blocks()) {
                    $this->line("BLOCKER  $finding->code  $finding->message");
                }
            }
            foreach ($report->results as $result) {
                if ($result->state === 'not-run' && $result->blocks($report->measures->asset->standard)) {
                    $this->line("not run  {$result->about->code}: $result->reason");
                }
            }
            $this->line('not sealed: the asset is not ready');
        }

        return $ready ? self::SUCCESS : self::BLOCKED;
    }
}
