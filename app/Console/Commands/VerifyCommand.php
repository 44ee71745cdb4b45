<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Checks\Finding;
use Anvil\Handoff\Verification;
use Anvil\Unreadable;

/**
 * For who receives a package: is it what was sealed?
 */
final class VerifyCommand extends AnvilCommand
{
    protected $signature = 'anvil:verify {package : the zip that was received}
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
        $isSound = $verification !== null && $verification->isSound();
        $sha256 = hash_file('sha256', $path);
        if ($this->wantsJson()) {
            $this->printJson([
                'tool' => 'yellow-anvil', 'schema' => 1, 'verdict' => $isSound ? 'ready' : 'blocked', 'package' => ['path' => $path, 'sha256' => $sha256, 'bytes' => filesize($path)],
                'asset' => $verification?->asset, 'files' => $verification === null ? [] : array_map(static fn (string $name, string $sum): array => ['path' => $name, 'sha256' => $sum], array_map(strval(...), array_keys($verification->sums)), $verification->sums),
                'findings' => $verification === null ? [['code' => 'package-readback', 'severity' => 'blocker', 'message' => basename($path).": $trouble", 'remedy' => 'ask for the package again', 'subject' => ['file' => basename($path)]]] : array_map(static fn (Finding $one): array => $one->toArray(), $verification->findings),
            ]);
        } else {
            foreach ($verification->findings ?? [] as $finding) {
                $this->line("BLOCKER  $finding->message");
            }
            if ($verification === null) {
                $this->line('BLOCKER  '.basename($path).": $trouble");
            }
            $this->line($isSound ? sprintf('as it was sealed: %s, %d files, SHA-256 %s', $verification->asset ?? '', count($verification->sums), $sha256) : 'not as it was sealed: do not use it');
        }

        return $isSound ? self::SUCCESS : self::BLOCKED;
    }
}
