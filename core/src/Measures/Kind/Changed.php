<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Asset\LastDelivery;
use Anvil\Asset\LastPart;
use Anvil\Changes\PartChange;
use Anvil\Changes\PartChanges;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;

/**
 * What became of each part since the last delivery. Nothing where there is none.
 *
 * @extends AssetMeasure<list<PartChange>>
 */
final class Changed extends AssetMeasure
{
    public function name(): string
    {
        return 'changed';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'comparing with the last delivery';
    }

    public function subjects(Measures $measures): array
    {
        return $measures->asset->last === null ? [] : [Subject::asset()];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        $last = $measures->asset->last;

        return $last === null ? [] : PartChanges::changed($measures->asset, $last);
    }

    protected function depends(Measures $measures): mixed
    {
        $last = $measures->asset->last;

        return $last === null ? null : [
            array_map(static fn (RoledPart $part): array => [$part->part->name, $part->role?->value, $part->part->hash(), $part->part->colors], PartChanges::parts($measures->asset)),
            self::of($last),
        ];
    }

    /**
     * @return list<array<mixed>>
     */
    private static function of(LastDelivery $last): array
    {
        return array_map(static fn (LastPart $part): array => [$part->name, $part->role?->value, $part->hash, $part->colors], $last->parts);
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        $last = $measures->asset->last;

        return $last === null ? [] : PartChanges::of($measures->asset, $last);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return array_map(static fn (PartChange $change): array => $change->toArray(), $result);
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array<mixed>> $stored */
        return array_map(PartChange::ofArray(...), $stored ?? []);
    }
}
