<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Standard\Role;
use Anvil\Surface\EdgeFaults;

/**
 * Hard edges and seams of each low part that do not go together.
 *
 * @extends PartMeasure<EdgeFaults>
 */
final class EdgeKinds extends PartMeasure
{
    public function name(): string
    {
        return 'edge-kinds';
    }

    public function revision(): int
    {
        return 1;
    }

    protected function roles(): array
    {
        return [Role::Low];
    }

    public function compute(Measures $measures, Subject $subject): EdgeFaults
    {
        return EdgeFaults::of($subject->ofPart()->part->mesh);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): EdgeFaults
    {
        return EdgeFaults::ofArray($stored ?? []);
    }
}
