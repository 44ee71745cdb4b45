<?php

declare(strict_types=1);

namespace Anvil\Measures;

/**
 * A measure of all that was handed in together.
 *
 * @template T
 *
 * @implements Measure<T>
 */
abstract class AssetMeasure implements Measure
{
    public function scope(): Scope
    {
        return Scope::Asset;
    }

    public function reads(): array
    {
        return [];
    }

    public function subjects(Measures $measures): array
    {
        return [Subject::asset()];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        return [Measures::hashes($this->meshes($measures, $subject)), $this->depends($measures)];
    }

    /** What it depends on beside the meshes. */
    protected function depends(Measures $measures): mixed
    {
        return null;
    }
}
