<?php

declare(strict_types=1);

namespace Anvil\Explode;

use Anvil\Asset\Asset;
use Anvil\Asset\GivenFile;
use Anvil\Asset\WrittenNames;
use Anvil\Formats\Changes;
use Anvil\Formats\Rewriter;
use Anvil\Formats\Sink;
use Anvil\Pairing\RoledPart;
use Closure;

/**
 * Writes every file of an asset with its sets moved apart, and `explode.json` with the vectors.
 */
final class ExplodedFiles
{
    /**
     * @param  list<GivenFile>  $files  those of the inspection, in its order
     */
    public static function write(Asset $asset, array $files, ExplodePlan $plan, Sink $sink): void
    {
        $changes = self::changes($asset, static fn (RoledPart $part, string $set): ?array => $plan->vectors[$set] ?? null);
        $names = WrittenNames::of($files, $asset->standard);
        foreach ($files as $i => $file) {
            Rewriter::write($file->source, $changes[$i] ?? new Changes, $names[$i], $sink);
        }
        $stream = $sink->open('explode.json');
        fwrite($stream, json_encode($plan->toArray($asset), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR)."\n");
        fclose($stream);
    }

    /**
     * What puts the parts of an exploded layout back to where they were; those that drifted go back each by its own way.
     *
     * @return array<int, Changes> by file number
     */
    public static function back(Asset $asset, ?Assembled $assembled): array
    {
        return self::changes($asset, static function (RoledPart $part, string $set) use ($assembled): ?array {
            $move = $assembled?->moveOf($part, $set);

            return $move === null ? null : [-$move[0], -$move[1], -$move[2]];
        });
    }

    /**
     * @param  Closure(RoledPart, string): (array{float, float, float}|null)  $vectorOf  of a part and its set
     * @return array<int, Changes>
     */
    private static function changes(Asset $asset, Closure $vectorOf): array
    {
        $moves = [];
        foreach ($asset->sets as $set) {
            foreach ([...$set->low, ...$set->high, ...$set->id, ...$set->cage] as $part) {
                $vector = $vectorOf($part, $set->name);
                if ($vector !== null && array_filter($vector) !== []) {
                    // In the unit and axes of the part's own file.
                    $moves[$part->file][$part->part->name] = $asset->frames[$part->file]->unapplied($vector) ?? $vector;
                }
            }
        }

        return array_map(static fn (array $own): Changes => new Changes([], $own), $moves);
    }
}
