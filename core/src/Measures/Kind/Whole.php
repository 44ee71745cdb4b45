<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\WholeBake;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Role;

/**
 * Where names are in trouble: whether they could be done without, all parts baked as one. Null where the question does not arise.
 *
 * @extends AssetMeasure<WholeBake|null>
 */
final class Whole extends AssetMeasure
{
    public function name(): string
    {
        return 'whole-bake';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'trying all parts as one';
    }

    public function reads(): array
    {
        return [Turn::class];
    }

    public function subjects(Measures $measures): array
    {
        $troubled = array_filter($measures->asset->pairing->ties, static fn (Tie $tie): bool => $tie->kind === TieKind::Open || $tie->kind === TieKind::Crossed || $tie->troubles !== []);

        return $troubled === [] ? [] : [Subject::asset()];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$measures->asset->judged(Role::Low), ...$measures->asset->judged(Role::High)];
    }

    protected function depends(Measures $measures): mixed
    {
        $standard = $measures->asset->standard;

        return [
            count($measures->asset->judged(Role::Low)), $standard->whole, $standard->rays, $standard->mapSize, $standard->rayLimits(), $standard->reach, $measures->asset->differsInSize(), $measures->quarterTurn() !== null,
        ];
    }

    public function compute(Measures $measures, Subject $subject): ?WholeBake
    {
        return WholeBake::of($measures->asset, $measures->quarterTurn());
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result?->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?WholeBake
    {
        return $stored === null ? null : WholeBake::ofArray($stored);
    }
}
