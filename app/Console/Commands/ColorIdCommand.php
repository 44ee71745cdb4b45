<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Asset\ReadFile;
use Anvil\ColorId\IdFileWriter;
use Anvil\ColorId\IdPlan;
use Anvil\Formats\FolderSink;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Throwable;

/**
 * Writes ID copies of the high files, the legend and the palette.
 */
final class ColorIdCommand extends AnvilCommand
{
    protected $signature = 'anvil:color-id '.self::INPUT.'
        {--by=part : part or material}
        {--out= : folder to write to, new or empty}
        {--force : write into a folder that holds files}';

    protected $description = 'Give every part an ID colour far from all others, and write the ID files';

    protected function perform(): int
    {
        $by = $this->option('by');
        if ($by === 'shell' || $by === 'region') {
            throw new UnusableInput('input-unusable', "--by=$by is not built yet; part and material are");
        }
        if ($by !== 'part' && $by !== 'material') {
            throw new UnusableInput('input-unusable', '--by is part or material');
        }
        $given = $this->givenFiles();
        $read = array_map(ReadFile::of(...), $given);
        foreach ($read as $file) {
            if ($file->error !== null) {
                throw UnusableInput::of($file->error, $file->path);
            }
        }
        $measures = Measures::of($read, $this->standard(), $this->choices());
        $files = array_values(array_unique(array_map(static fn ($part): int => $part->file, $measures->asset->judged(Role::High))));
        if ($files === []) {
            throw new UnusableInput('input-unusable', 'there is no high part to give an ID to');
        }
        $plan = $by === 'part' ? IdPlan::byPart($measures->asset) : IdPlan::byMaterial($measures->asset);
        $sink = new FolderSink($this->outOption('DIR'), (bool) $this->option('force'));
        try {
            foreach ($files as $number) {
                IdFileWriter::write($measures->asset, $number, $given[$number]->source, $plan, $sink);
            }
            $legend = json_encode($plan->legend(), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR)."\n";
            foreach (['legend.json' => $legend, 'legend.csv' => $plan->legendCsv(), 'palette.gpl' => $plan->paletteGpl('Colour IDs')] as $name => $content) {
                $stream = $sink->open($name);
                fwrite($stream, $content);
                fclose($stream);
            }
            $sink->commit();
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }
        if ($this->wantsJson()) {
            $this->printJson($plan->legend());
        } else {
            foreach ($plan->legend()['ids'] as $id) {
                $this->line("{$id['hex']}  {$id['name']}");
            }
            $this->line(count($plan->colors).' IDs'.(count($plan->colors) > 1 ? sprintf(', the closest two ΔE00 %.1f apart', $plan->leastDistance()) : ''));
        }

        return self::SUCCESS;
    }
}
