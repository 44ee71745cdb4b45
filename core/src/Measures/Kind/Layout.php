<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\SetClearance;
use Anvil\Explode\ExplodePlan;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Sets\BakeSet;

/**
 * The sets moved apart out of each other's rays, proved by shooting again. Null where no rays were shot.
 *
 * @extends AssetMeasure<ExplodePlan|null>
 */
final class Layout extends AssetMeasure
{
    public function name(): string
    {
        return 'layout';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'moving sets apart';
    }

    public function reads(): array
    {
        return [Rays::class];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return array_merge(...array_map(static fn (BakeSet $set): array => [...$set->low, ...$set->target()], $measures->asset->sets));
    }

    protected function depends(Measures $measures): mixed
    {
        $standard = $measures->asset->standard;

        return [
            $measures->layout, $measures->asset->diagonal(), $standard->rays, $standard->mapSize, $standard->rayLimits(), $measures->asset->choices->toArray(),
            array_map(static fn (BakeSet $set): array => [$set->name, count($set->low), count($set->target()), $set->bounds()?->toArray()], $measures->asset->sets),
            array_map(static fn (SetClearance $one): array => [$one->samples, $one->inUse()->toArray(), $one->bleeds], $measures->clearances()),
        ];
    }

    public function compute(Measures $measures, Subject $subject): ?ExplodePlan
    {
        $clearances = $measures->clearances();

        return $clearances === [] ? null : ExplodePlan::of($measures->asset, $clearances, ...$measures->layout);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result?->toKeep();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?ExplodePlan
    {
        return $stored === null ? null : ExplodePlan::kept($stored);
    }
}
