<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\GivenFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Formats\FileSource;
use Anvil\Handoff\Staleness;
use Anvil\Handoff\Verification;
use Anvil\Json;
use Anvil\Standard\Choices;
use Anvil\Unreadable;
use ZipArchive;

/**
 * For who receives a package: is it what was sealed?
 */
final class VerifyCommand extends AnvilCommand
{
    protected $signature = 'anvil:verify {package : the zip that was received}
        {--with=* : a file as it is now; the package is told to be stale where it differs from these}
        {--standard= : standard as it is now, JSON, held against the one that was sealed}
        {--choices= : choices as they are now, JSON}
        {--json : print one JSON document and nothing else}';

    protected $description = 'Say whether a package is as it was sealed: checksums, ticket against files, meshes read again';

    protected function perform(): int
    {
        $path = $this->argument('package');
        if (! is_file($path) || ! is_readable($path)) {
            throw new UnusableInput('file-missing', "$path is not there, or may not be read", $path);
        }
        $trouble = null;
        try {
            $verification = Verification::of($path);
        } catch (Unreadable $error) {
            // What was received is no package: that is an answer, not a wrong question.
            $verification = null;
            $trouble = $error->getMessage();
        }
        $stale = $verification === null ? [] : $this->stale($path);
        $isSound = $verification !== null && $verification->isSound() && $stale === [];
        $sha256 = hash_file('sha256', $path);
        if ($this->wantsJson()) {
            $this->printJson([
                'tool' => 'yellow-anvil', 'schema' => 1, 'verdict' => $isSound ? 'ready' : 'blocked', 'package' => ['path' => $path, 'sha256' => $sha256, 'bytes' => filesize($path)],
                'asset' => $verification?->asset, 'files' => $verification === null ? [] : array_map(static fn (string $name, string $sum): array => ['path' => $name, 'sha256' => $sum], array_map(strval(...), array_keys($verification->sums)), $verification->sums),
                'findings' => $verification === null ? [['code' => 'package-readback', 'severity' => 'blocker', 'message' => basename($path).": $trouble", 'remedy' => 'ask for the package again', 'subject' => ['file' => basename($path)]]] : array_map(static fn (Finding $one): array => $one->toArray(), [...$verification->findings, ...$stale]),
            ]);
        } else {
            foreach ([...$verification->findings ?? [], ...$stale] as $finding) {
                $this->line("BLOCKER  $finding->message");
            }
            if ($verification === null) {
                $this->line('BLOCKER  '.basename($path).": $trouble");
            }
            $this->line($isSound ? sprintf('as it was sealed: %s, %d files, SHA-256 %s', $verification->asset ?? '', count($verification->sums), $sha256) : ($verification !== null && $verification->isSound() ? 'as it was sealed, and out of date' : 'not as it was sealed: do not use it'));
        }

        return $isSound ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * @return list<Finding>
     */
    private function stale(string $path): array
    {
        $files = array_map(static function (mixed $file): GivenFile {
            $file = is_string($file) ? $file : '';
            if (! is_file($file)) {
                throw new UnusableInput('file-missing', "$file is not there", $file);
            }

            return new GivenFile($file, null, new FileSource($file));
        }, array_values((array) $this->option('with')));
        $standard = $this->settings('standard', Catalogue::standard(...));
        $choices = $this->settings('choices', Choices::ofJson(...));
        if ($files === [] && $standard === null && $choices === null) {
            return [];
        }
        $zip = new ZipArchive;
        $text = $zip->open($path, ZipArchive::RDONLY) === true ? $zip->getFromName('ticket.json', 64 << 20) : false;
        try {
            return $text === false ? [] : Staleness::of(Json::parse($text), $files, $standard, $choices);
        } catch (Unreadable) {
            // Told already: the ticket is none.
            return [];
        }
    }
}
