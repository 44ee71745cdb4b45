<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\AssetClearance;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Occlusion\Shading;
use Anvil\Sets\BakeSet;

/**
 * Which sets shade each other.
 *
 * @extends AssetMeasure<array<string, list<array{other: string, share: float}>>>
 */
final class Shades extends AssetMeasure
{
    public function name(): string
    {
        return 'shades';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'looking which sets shade each other';
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return array_merge(...array_map(static fn (BakeSet $set): array => $set->low, $measures->asset->sets));
    }

    protected function depends(Measures $measures): mixed
    {
        return [
            array_map(static fn (BakeSet $set): array => [$set->name, count($set->low)], $measures->asset->sets), $measures->asset->standard->rays->smooth,
            array_map(static fn (BakeSet $set): string => $set->name, AssetClearance::staying($measures->asset)),
        ];
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        return Shading::ofAll($measures->asset);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var array<string, list<array{other: string, share: float}>> */
        return $stored ?? [];
    }
}
