<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Formats\Changes;
use Anvil\Formats\Rewriter;
use Anvil\Formats\Sink;
use Anvil\Inspection\GivenFile;
use Anvil\Inspection\Inspection;

/**
 * Writes every file of an asset with its sets moved apart, and `explode.json` with the vectors.
 */
final class ExplodedFiles
{
    /**
     * @param  list<GivenFile>  $files  those of the inspection, in its order
     */
    public static function write(Inspection $inspection, array $files, ExplodePlan $plan, Sink $sink): void
    {
        $moves = [];
        foreach ($inspection->sets as $set) {
            $vector = $plan->vectors[$set->name] ?? [0.0, 0.0, 0.0];
            if ($vector === [0.0, 0.0, 0.0]) {
                continue;
            }
            foreach ([...$set->low, ...$set->high, ...$set->id, ...$set->cage] as $part) {
                // In the unit and axes of the part's own file.
                $moves[$part->file][$part->part->name] = $inspection->frames[$part->file]->unapplied($vector) ?? $vector;
            }
        }
        foreach ($files as $i => $file) {
            Rewriter::write($file->source, new Changes([], $moves[$i] ?? []), $file->source->name(), $sink);
        }
        $stream = $sink->open('explode.json');
        fwrite($stream, json_encode($plan->toArray($inspection), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR)."\n");
        fclose($stream);
    }
}
