<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Standard\Role;
use Anvil\Surface\Ngons;

/**
 * Faces of each low part that can be cut in more than one way.
 *
 * @extends PartMeasure<Ngons>
 */
final class LowNgons extends PartMeasure
{
    public function name(): string
    {
        return 'ngons';
    }

    public function revision(): int
    {
        return 1;
    }

    protected function roles(): array
    {
        return [Role::Low];
    }

    public function compute(Measures $measures, Subject $subject): Ngons
    {
        return Ngons::of($subject->ofPart()->part->mesh);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return ['count' => $result->count, 'most' => $result->most, 'where' => $result->where];
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): Ngons
    {
        return Ngons::kept($stored ?? []);
    }
}
