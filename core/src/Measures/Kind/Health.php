<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Geometry\MeshFaults;
use Anvil\Geometry\MeshHealth;
use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * What is wrong with the mesh of each part that is judged; edges of many faces and split fans are not looked for in a high poly.
 *
 * @extends PartMeasure<MeshFaults>
 */
final class Health extends PartMeasure
{
    public function name(): string
    {
        return 'mesh-health';
    }

    public function revision(): int
    {
        return 1;
    }

    protected function depends(RoledPart $part): bool
    {
        return $part->role !== Role::High;
    }

    public function compute(Measures $measures, Subject $subject): MeshFaults
    {
        return MeshHealth::of($subject->ofPart()->part->mesh, $this->depends($subject->ofPart()))->faults();
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): MeshFaults
    {
        return MeshFaults::ofArray($stored ?? []);
    }
}
