<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\Crossings;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Sets\BakeSet;

/**
 * Sets whose low polys go through each other.
 *
 * @extends AssetMeasure<list<array{set: string, other: string, count: int, where: list<array{float, float, float}>}>>
 */
final class Crossing extends AssetMeasure
{
    public function name(): string
    {
        return 'crossings';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'looking where sets cross';
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return array_merge(...array_map(static fn (BakeSet $set): array => $set->low, $measures->asset->sets));
    }

    protected function depends(Measures $measures): mixed
    {
        return array_map(static fn (BakeSet $set): array => [$set->name, count($set->low)], $measures->asset->sets);
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        return Crossings::of($measures->asset->sets);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array{set: string, other: string, count: int, where: list<array{float, float, float}>}> */
        return $stored ?? [];
    }
}
