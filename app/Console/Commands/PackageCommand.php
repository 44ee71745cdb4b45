<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Checks\Finding;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Handoff\Extra;
use Anvil\Handoff\ExtraFiles;
use Anvil\Handoff\Package;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * Inspects, and if ready writes the hand-off package.
 */
final class PackageCommand extends AnvilCommand
{
    protected $signature = 'anvil:package '.self::INPUT.'
        {--rays= : samples, instead of the standard\'s}
        {--name= : the asset\'s name on the ticket; else that of the first file}
        {--assembled=* : what an exploded input was before: its explode.json, which goes into the package, or the original file}
        {--with= : what goes along, with commas: exploded, cage, ids, retouch}
        {--proof= : folder that anvil:proof wrote of these files; its maps go along}
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
        $kinds = $this->kinds();
        $given = $this->givenFiles();
        $report = $this->inspectFiles($given);
        $name = $this->option('name');
        $sealed = null;
        if ($report->isReady()) {
            $stem = (string) preg_replace('/_(low|high)$/i', '', pathinfo($given[0]->path, PATHINFO_FILENAME));
            $folder = sys_get_temp_dir().'/anvil-extra-'.bin2hex(random_bytes(8));
            try {
                $extras = array_map(static fn (string $kind): Extra => ExtraFiles::make($kind, $report->measures, $given, "$folder/$kind"), $kinds);
                $sealed = Package::write(is_string($name) && $name !== '' ? $name : $stem, $report, $given, $out, [...$extras, ...$this->trial()], plan: $this->plan());
            } catch (Unreadable $error) {
                throw new UnusableInput('input-unusable', $error->getMessage());
            } finally {
                Folder::remove($folder);
            }
        }
        $ready = $sealed !== null && $sealed->findings === [];
        if ($this->wantsJson()) {
            $this->printJson([
                ...$report->toArray(),
                'verdict' => $ready ? 'ready' : 'blocked',
                ...($sealed === null || $sealed->findings === [] ? [] : ['findings' => array_map(static fn (Finding $one): array => $one->toArray(), [...$report->findings(), ...$sealed->findings])]),
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
            $this->line($report->isReady() ? 'not sealed' : 'not sealed: the asset is not ready');
        }

        return $ready ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * @return list<string>
     *
     * @throws UnusableInput
     */
    private function kinds(): array
    {
        $with = $this->option('with');
        $kinds = is_string($with) ? array_values(array_unique(array_filter(array_map(trim(...), explode(',', $with)), static fn (string $kind): bool => $kind !== ''))) : [];
        $unknown = array_diff($kinds, ExtraFiles::KINDS);
        if ($unknown !== []) {
            throw new UnusableInput('input-unusable', '--with takes '.implode(', ', ExtraFiles::KINDS).', and not '.implode(', ', $unknown));
        }
        sort($kinds);

        return $kinds;
    }

    /**
     * @return list<Extra>
     *
     * @throws UnusableInput
     */
    private function trial(): array
    {
        $folder = $this->option('proof');
        if (! is_string($folder) || $folder === '') {
            return [];
        }
        $text = is_file("$folder/proof.json") ? (string) file_get_contents("$folder/proof.json") : null;
        try {
            $of = $text === null ? null : Json::parse($text)->string('of');
        } catch (Unreadable $error) {
            throw new UnusableInput('input-unusable', "$folder/proof.json: {$error->getMessage()}", "$folder/proof.json");
        }
        if ($of === null) {
            throw new UnusableInput('input-unusable', "$folder holds no proof.json that says what its maps were baked of; run anvil:proof again", $folder);
        }

        return [new Extra('trial', rtrim($folder, '/'), $of)];
    }

    /** The plan of an exploded input, where one was given. */
    private function plan(): ?string
    {
        foreach ((array) $this->option('assembled') as $path) {
            if (is_string($path) && FormatCatalogue::isExplodePlan(basename($path)) && is_file($path)) {
                return (string) file_get_contents($path);
            }
        }

        return null;
    }
}
