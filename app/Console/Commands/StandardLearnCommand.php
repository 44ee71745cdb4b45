<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\GivenFile;
use Anvil\Checks\Catalogue;
use Anvil\Inspection\LearnedStandard;
use Anvil\Pairing\NameReading;
use Anvil\Standard\Standard;

/**
 * Proposes a standard that assets which are known to be good all pass.
 */
final class StandardLearnCommand extends AnvilCommand
{
    protected $signature = 'anvil:standard:learn '.self::INPUT.'
        {--rays= : samples, instead of the standard\'s}
        {--out= : the standard is written there, JSON}
        {--force : replace a file that is there}';

    protected $description = 'Propose limits that assets which are known to be good all pass, each with the asset that sets it';

    protected function perform(): int
    {
        $out = $this->option('out');
        if (is_string($out) && $out !== '' && (is_dir($out) || (file_exists($out) && ! $this->option('force')) || ! is_dir(dirname($out)) || ! is_writable(dirname($out)))) {
            throw new UnusableInput('input-unusable', file_exists($out) ? "$out is there already; --force replaces it" : dirname($out).' is no folder that can be written to', $out);
        }
        $standard = $this->standard();
        $learned = LearnedStandard::of(self::assets($this->givenFiles(), $standard), $standard->named($standard->name === 'built-in' ? 'learned' : $standard->name), $this->choices(), $this->workers(), $this->progress());
        $this->clearProgress();
        // The samples of this run are no rule.
        $learned = $learned->withRays(($this->settings('standard', Catalogue::standard(...)) ?? Standard::builtIn())->rays);
        if (is_string($out) && $out !== '') {
            $temporary = "$out.".bin2hex(random_bytes(4)).'.part';
            $text = json_encode($learned->standard->toArray(), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR)."\n";
            if (@file_put_contents($temporary, $text) !== strlen($text) || ! @rename($temporary, $out)) {
                @unlink($temporary);
                throw new UnusableInput('input-unusable', "$out could not be written", $out);
            }
        }
        if ($this->wantsJson()) {
            $this->printJson(['tool' => 'yellow-anvil', 'schema' => 1, ...$learned->toArray()]);
        } else {
            $this->printText($learned);
        }

        return $learned->passesAll() ? self::SUCCESS : self::BLOCKED;
    }

    /**
     * Files of one folder whose names have one base are one asset.
     *
     * @param  list<GivenFile>  $files
     * @return array<string, list<GivenFile>> by name
     */
    private static function assets(array $files, Standard $standard): array
    {
        $groups = [];
        foreach ($files as $file) {
            $base = NameReading::of(pathinfo($file->path, PATHINFO_FILENAME), $standard)->base;
            $groups[dirname($file->path)."\0".mb_strtolower($base)][] = [$base, $file];
        }
        $out = [];
        foreach ($groups as $group) {
            $name = $group[0][0];
            for ($n = 2; isset($out[$name]); $n++) {
                $name = "{$group[0][0]} ($n)";
            }
            $out[$name] = array_column($group, 1);
        }

        return $out;
    }

    private function printText(LearnedStandard $learned): void
    {
        foreach ($learned->limits as $one) {
            $this->line(sprintf('%-20s %-8s %s → %s   set by %s (%s %s)%s', $one['code'], $one['of'], self::number($one['was']), self::number($one['limit']), $one['asset'], self::number($one['value']), $one['unit'], $one['others'] > 0 ? sprintf(', %d more beyond the limit before', $one['others']) : ''));
        }
        if ($learned->limits === []) {
            $this->line('no limit has to be moved');
        }
        foreach ($learned->left as $asset => $left) {
            foreach ($left as $one) {
                $this->line("no limit mends  $asset  $one");
            }
        }
        $this->line($learned->passesAll() ? 'all of them pass' : 'not all of them pass');
    }

    private static function number(float $value): string
    {
        return sprintf('%.4g', $value);
    }
}
