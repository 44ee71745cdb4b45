<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\ReadFile;
use Anvil\ColorId\By;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\ColorId\Legend;
use Anvil\ColorId\Palette;
use Anvil\Formats\FolderSink;
use Anvil\Json;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Unreadable;
use Throwable;

/**
 * Gives the high poly color IDs, and writes ID files, the legend and the palette.
 */
final class ColorIdCommand extends AnvilCommand
{
    protected $signature = 'anvil:color-id '.self::INPUT.'
        {--by=part : what wears one ID: part, material, shell, region, set, or colors (as they are now)}
        {--angle=30 : faces that turn less than this many degrees stay in one region}
        {--pin= : colors that are fixed, JSON: {"brass*": "#E8112D"}}
        {--keep= : legend.json of an earlier delivery; its IDs keep their colors}
        {--onto=copy : copy writes ID files of their own, high writes onto the high files}
        {--as=materials : materials or vertex-colours}
        {--all-eyes : spread colors for protan, deutan and tritan vision, too}
        {--out= : folder to write to, new or empty}
        {--force : write into a folder that holds files}';

    protected $description = 'Give the high poly color IDs far from each other, and write the ID files';

    protected function perform(): int
    {
        $by = By::tryFrom((string) $this->option('by')) ?? throw new UnusableInput('input-unusable', '--by is one of '.implode(', ', array_column(By::cases(), 'value')));
        $angle = $this->option('angle');
        if (! is_numeric($angle) || $angle <= 0 || $angle >= 180) {
            throw new UnusableInput('input-unusable', '--angle is a number of degrees between 0 and 180');
        }
        $onto = $this->oneOf('onto', ['copy', 'high']) === 'high';
        $asVertexColors = $this->oneOf('as', ['materials', 'vertex-colours', 'vertex-colors']) !== 'materials';
        $sheet = new IdSheet($by, (float) $angle, (bool) $this->option('all-eyes'));
        $keep = $this->option('keep');
        if (is_string($keep)) {
            $kept = $this->parsed($keep, static fn (string $text): IdSheet => IdSheet::ofLegend($text, $by, (float) $angle));
            $sheet = new IdSheet($by, (float) $angle, $sheet->allEyes, [], $kept->ids);
        }
        $given = $this->givenFiles();
        $read = array_map(ReadFile::of(...), $given);
        foreach ($read as $file) {
            if ($file->error !== null) {
                throw UnusableInput::of($file->error, $file->path);
            }
        }
        $standard = $this->standard();
        $sheet = $sheet->withPins($standard->idColors);
        $pin = $this->option('pin');
        if (is_string($pin)) {
            $sheet = $sheet->withPins($this->parsed($pin, static fn (string $text): array => Standard::colors(Json::parse($text))));
        }
        $asset = Measures::of($read, $standard, $this->choices())->asset;
        $files = array_values(array_unique(array_map(static fn (RoledPart $part): int => $part->file, $asset->judged(Role::High))));
        if ($files === []) {
            throw new UnusableInput('input-unusable', 'there is no high part to give an ID to');
        }
        $plan = IdPlan::of($asset, $sheet);
        $sink = new FolderSink($this->outOption('DIR'), (bool) $this->option('force'));
        $legend = Legend::ofPlan($plan, $asset, $onto);
        try {
            $writer = new IdFileWriter($asset, $plan, $onto, $asVertexColors);
            foreach ($files as $number) {
                $writer->write($number, $given[$number]->source, $sink);
            }
            $legend->write($sink);
            $sink->commit();
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }
        $this->told($plan, $legend);

        return self::SUCCESS;
    }

    private function told(IdPlan $plan, Legend $legend): void
    {
        if ($this->wantsJson()) {
            $this->printJson($legend->toArray());

            return;
        }
        foreach ($plan->ids as $id) {
            $this->line("{$id->color->hex()}  $id->name");
        }
        $line = count($plan->ids).(count($plan->ids) === 1 ? ' ID' : ' IDs');
        if (count($plan->ids) > 1) {
            $line .= sprintf(', the closest two ΔE00 %.1f apart (%.1f to the eye that tells colors apart worst)', $plan->leastDistance(), Palette::leastToAll($plan->colors()));
        }
        if ($plan->touching !== []) {
            $line .= sprintf('; the closest two that touch %.1f (%.1f before colors were exchanged)', $plan->leastTouching(), $plan->leastBefore);
        }
        $this->line($line);
        foreach ($plan->remarks() as $remark) {
            $this->line(ucfirst($remark).'.');
        }
    }

    /**
     * @param  list<string>  $allowed
     */
    private function oneOf(string $option, array $allowed): string
    {
        $value = $this->option($option);

        return is_string($value) && in_array($value, $allowed, true) ? $value : throw new UnusableInput('input-unusable', "--$option is ".implode(' or ', $allowed));
    }

    /**
     * @template T
     *
     * @param  callable(string): T  $parse
     * @return T
     */
    private function parsed(string $path, callable $parse): mixed
    {
        if (! is_file($path) || ! is_readable($path)) {
            throw new UnusableInput('file-missing', "$path is not there or may not be read", $path);
        }
        try {
            return $parse((string) file_get_contents($path, length: 4 << 20));
        } catch (Unreadable $error) {
            throw UnusableInput::of($error, $path);
        }
    }
}
