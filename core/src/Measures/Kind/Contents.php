<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Geometry\MeshContents;
use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * What each part holds, of low parts with areas and what is without UV, normal or material.
 *
 * @extends PartMeasure<MeshContents>
 */
final class Contents extends PartMeasure
{
    public function name(): string
    {
        return 'contents';
    }

    public function revision(): int
    {
        return 1;
    }

    public function subjects(Measures $measures): array
    {
        return array_map($measures->subject(...), $measures->asset->parts);
    }

    protected function depends(RoledPart $part): bool
    {
        return $part->role === Role::Low;
    }

    public function compute(Measures $measures, Subject $subject): MeshContents
    {
        return MeshContents::of($subject->ofPart()->part->mesh, $this->depends($subject->ofPart()));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): MeshContents
    {
        return MeshContents::ofArray($stored ?? []);
    }
}
