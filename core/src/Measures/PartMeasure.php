<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * A measure of one part by itself.
 *
 * @template T
 *
 * @implements Measure<T>
 */
abstract class PartMeasure implements Measure
{
    public function scope(): Scope
    {
        return Scope::Part;
    }

    public function words(Subject $subject): string
    {
        return "looking at {$subject->ofPart()->part->name}";
    }

    public function reads(): array
    {
        return [];
    }

    /**
     * The roles whose judged parts it is computed of; empty for all.
     *
     * @return list<Role>
     */
    protected function roles(): array
    {
        return [];
    }

    public function subjects(Measures $measures): array
    {
        $roles = $this->roles();

        return array_map($measures->subject(...), array_values(array_filter($measures->asset->judged(), static fn (RoledPart $part): bool => $roles === [] || in_array($part->role, $roles, true))));
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [$subject->ofPart()];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        return [$subject->ofPart()->part->hash(), $this->depends($subject->ofPart())];
    }

    /** What it depends on beside the mesh. */
    protected function depends(RoledPart $part): mixed
    {
        return null;
    }
}
