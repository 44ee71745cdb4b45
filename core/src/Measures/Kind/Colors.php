<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\ColorId\IdColors;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * The ID colors, and what has none.
 *
 * @extends AssetMeasure<IdColors>
 */
final class Colors extends AssetMeasure
{
    public function name(): string
    {
        return 'id-colors';
    }

    public function revision(): int
    {
        return 3;
    }

    public function words(Subject $subject): string
    {
        return 'collecting the ID colors';
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$measures->asset->judged(Role::Id), ...$measures->asset->judged(Role::High)];
    }

    protected function depends(Measures $measures): mixed
    {
        return [
            $measures->asset->choices->vertexColorsAreIds,
            array_map(static fn (RoledPart $part): array => [$part->role?->value, $part->part->name, $part->part->colors, $part->part->facts->pictures], $this->meshes($measures, Subject::asset())),
        ];
    }

    public function compute(Measures $measures, Subject $subject): IdColors
    {
        return IdColors::of($measures->asset);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray($this->meshes($measures, $subject));
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): IdColors
    {
        return IdColors::ofArray($stored ?? [], $this->meshes($measures, $subject));
    }
}
