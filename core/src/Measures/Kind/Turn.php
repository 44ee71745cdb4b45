<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Place\QuarterTurn;
use Anvil\Standard\Role;

/**
 * The turn by quarters that would bring the high poly onto the low one.
 *
 * @extends AssetMeasure<QuarterTurn|null>
 */
final class Turn extends AssetMeasure
{
    public function name(): string
    {
        return 'turn';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'comparing how high and low are turned';
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$measures->asset->judged(Role::Low), ...$measures->asset->judged(Role::High)];
    }

    protected function depends(Measures $measures): mixed
    {
        return [count($measures->asset->judged(Role::Low)), $measures->asset->sizeRatio(), $measures->asset->differsInSize(), $measures->asset->standard->isOff('axis-mismatch')];
    }

    public function compute(Measures $measures, Subject $subject): ?QuarterTurn
    {
        return QuarterTurn::ofAsset($measures->asset);
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array
    {
        return $result?->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ?QuarterTurn
    {
        return $stored === null ? null : QuarterTurn::ofArray($stored);
    }
}
