<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\RayedMeasure;
use Anvil\Measures\Subject;
use Anvil\Surface\Relief;
use Anvil\Surface\RimWaves;

/**
 * How far the height of the high poly over each low part of a set swings along its round rims.
 *
 * @extends RayedMeasure<list<array{swing: float, pixels: float, sides: float, radius: float, count: int, where: list<array{float, float, float}>}>>
 */
final class RimHeights extends RayedMeasure
{
    public function name(): string
    {
        return 'rim-heights';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return "going along the rims of $subject->key";
    }

    protected function depends(Measures $measures, SetClearance $rays): mixed
    {
        return [$rays->inUse(), $measures->asset->standard->mapSize];
    }

    protected function measure(Measures $measures, Subject $subject, SetClearance $rays): array
    {
        return RimWaves::of(new Relief($measures->common()->surfaces()[$subject->key], $rays->inUse(), $measures->asset->standard->mapSize, $rays->d));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?array
    {
        /** @var list<array{swing: float, pixels: float, sides: float, radius: float, count: int, where: list<array{float, float, float}>}>|null */
        return $stored;
    }
}
