<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\ColorId\ClosePairs;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;

/**
 * Pairs of ID colors that are near each other, and whether they touch.
 *
 * @extends AssetMeasure<ClosePairs>
 */
final class TouchingColors extends AssetMeasure
{
    public function name(): string
    {
        return 'touching-colors';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'looking where ID colors touch';
    }

    public function reads(): array
    {
        return [Colors::class];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return (new Colors)->meshes($measures, $subject);
    }

    protected function depends(Measures $measures): mixed
    {
        return [
            array_map(static fn (RoledPart $part): array => [$part->role?->value, $part->part->name, $part->part->colors], $this->meshes($measures, Subject::asset())),
            $measures->asset->diagonal(), $measures->asset->standard->limitInForce('id-close'),
        ];
    }

    public function compute(Measures $measures, Subject $subject): ClosePairs
    {
        return ClosePairs::of($measures->ofAsset(Colors::class), $measures->asset->standard->limitInForce('id-close'), $measures->asset->diagonal());
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->pairs;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ClosePairs
    {
        return ClosePairs::kept($stored ?? []);
    }
}
