<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixGuess;

/**
 * The studio's own suffixes, where those of the standard fit nothing; null where they fit or none are found.
 *
 * @extends AssetMeasure<SuffixGuess|null>
 */
final class Suffixes extends AssetMeasure
{
    public function name(): string
    {
        return 'suffixes';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'reading the suffixes';
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [];
    }

    protected function depends(Measures $measures): mixed
    {
        return [
            $measures->asset->standard->toArray(),
            array_map(static fn (RoledPart $part): array => [$part->path, $part->part->name, $part->role?->value, $part->part->triangleCount(), $part->part->bounds()?->toArray()], $measures->asset->parts),
        ];
    }

    public function compute(Measures $measures, Subject $subject): ?SuffixGuess
    {
        return SuffixGuess::of($measures->asset->parts, $measures->asset->standard);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result?->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?SuffixGuess
    {
        return $stored === null ? null : SuffixGuess::ofArray($stored);
    }
}
