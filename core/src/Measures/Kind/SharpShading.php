<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\RayedMeasure;
use Anvil\Measures\Subject;
use Anvil\Surface\Relief;
use Anvil\Surface\SharpEdges;

/**
 * Smooth edges of each low part of a set that turn sharply inside an island, beside a face over which the high poly is flat.
 *
 * @extends RayedMeasure<list<array{count: int, off: float, hasHard: bool, where: list<array{float, float, float}>}>>
 */
final class SharpShading extends RayedMeasure
{
    public function name(): string
    {
        return 'sharp-shading';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return "looking at the smooth edges of $subject->key";
    }

    protected function depends(Measures $measures, SetClearance $rays): mixed
    {
        return $rays->inUse();
    }

    protected function measure(Measures $measures, Subject $subject, SetClearance $rays): array
    {
        return SharpEdges::of(new Relief($measures->common()->surfaces()[$subject->key], $rays->inUse(), $measures->asset->standard->mapSize, $rays->d));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?array
    {
        /** @var list<array{count: int, off: float, hasHard: bool, where: list<array{float, float, float}>}>|null */
        return $stored;
    }
}
