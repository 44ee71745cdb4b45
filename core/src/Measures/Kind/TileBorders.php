<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Standard\Role;
use Anvil\Surface\UvIslands;

/**
 * Islands of each low part that go over the border of their tile: how far, and where.
 *
 * @extends PartMeasure<list<array{over: float, at: array{float, float, float}}>>
 */
final class TileBorders extends PartMeasure
{
    public function name(): string
    {
        return 'tile-borders';
    }

    public function revision(): int
    {
        return 1;
    }

    protected function roles(): array
    {
        return [Role::Low];
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        $mesh = $subject->ofPart()->part->mesh;

        return UvIslands::of($mesh)->overBorders($mesh);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array{over: float, at: array{float, float, float}}> */
        return $stored ?? [];
    }
}
