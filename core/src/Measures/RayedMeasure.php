<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Kind\Rays;

/**
 * A measure of one bake set that looks at its high poly within the reach that its rays have; of a set whose rays were not shot there is none.
 *
 * @template T
 *
 * @extends SetMeasure<T|null>
 */
abstract class RayedMeasure extends SetMeasure
{
    public function reads(): array
    {
        return [Rays::class];
    }

    public function subjects(Measures $measures): array
    {
        return array_map(Subject::set(...), $measures->wholeSets());
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$subject->ofSet()->low, ...$subject->ofSet()->target()];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        $set = $subject->ofSet();
        $rays = $measures->clearanceOf($set);

        return $rays === null ? [] : [$measures->asset->standard->rays->smooth, Measures::hashes($set->low), Measures::hashes($set->target()), $this->depends($measures, $rays)];
    }

    /** What it depends on beside the meshes. */
    abstract protected function depends(Measures $measures, SetClearance $rays): mixed;

    public function compute(Measures $measures, Subject $subject): mixed
    {
        $rays = $measures->clearanceOf($subject->ofSet());

        return $rays === null ? null : $this->measure($measures, $subject, $rays);
    }

    /**
     * @return T
     */
    abstract protected function measure(Measures $measures, Subject $subject, SetClearance $rays): mixed;
}
