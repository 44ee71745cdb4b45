<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\Measures;
use Anvil\Measures\PartMeasure;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Surface\Islands;

/**
 * The UV islands of each low part: size, stretch, winding, turn, place on the page.
 *
 * @extends PartMeasure<Islands>
 */
final class IslandFacts extends PartMeasure
{
    public function name(): string
    {
        return 'islands';
    }

    public function revision(): int
    {
        return 1;
    }

    protected function roles(): array
    {
        return [Role::Low];
    }

    public function inputs(Measures $measures, Subject $subject): array
    {
        return [$subject->ofPart()->part->hash(), self::up($measures, $subject->ofPart())];
    }

    /** The axis that points up: Y where the file does not say. */
    private static function up(Measures $measures, RoledPart $part): int
    {
        foreach ($measures->asset->files as $file) {
            if ($file->path === $part->path && $file->scene?->upAxis === 'Z') {
                return 2;
            }
        }

        return 1;
    }

    public function compute(Measures $measures, Subject $subject): Islands
    {
        return Islands::of($subject->ofPart()->part->mesh, self::up($measures, $subject->ofPart()));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): Islands
    {
        return Islands::ofArray($stored ?? []);
    }
}
