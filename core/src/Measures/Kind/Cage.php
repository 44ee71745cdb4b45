<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Cage\HeldCage;
use Anvil\Measures\Measures;
use Anvil\Measures\SetMeasure;
use Anvil\Measures\Subject;
use Anvil\Sets\BakeSet;

/**
 * The cage that was handed in for a set, held against its low poly.
 *
 * @extends SetMeasure<HeldCage>
 */
final class Cage extends SetMeasure
{
    public function name(): string
    {
        return 'cage';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return "looking at the cage of $subject->key";
    }

    public function reads(): array
    {
        return [Rays::class];
    }

    public function subjects(Measures $measures): array
    {
        return array_map(Subject::set(...), array_values(array_filter($measures->asset->sets, static fn (BakeSet $set): bool => $set->cage !== [] && $set->low !== [])));
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$subject->ofSet()->low, ...$subject->ofSet()->cage, ...$subject->ofSet()->target()];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        $set = $subject->ofSet();
        $measured = $measures->clearanceOf($set);

        return [
            Measures::hashes($set->low), Measures::hashes($set->cage), Measures::hashes($set->target()), array_map(static fn ($part): string => $part->base, [...$set->low, ...$set->cage]),
            $measures->asset->standard->rays, $measured?->samples, $measured?->inUse()->toArray(),
        ];
    }

    public function compute(Measures $measures, Subject $subject): HeldCage
    {
        return HeldCage::of($measures->asset, $subject->ofSet(), $measures->clearanceOf($subject->ofSet()));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): HeldCage
    {
        return HeldCage::ofArray($stored ?? [], $subject->ofSet());
    }
}
