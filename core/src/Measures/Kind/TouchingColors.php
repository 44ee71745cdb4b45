<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\ColorId\ClosePairs;
use Anvil\ColorId\TouchGraph;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * How the ID colors lie to each other, and which touch.
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
        return 2;
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
            array_map(static fn (RoledPart $part): array => [$part->role?->value, $part->part->name, $part->part->colors, $part->part->facts->pictures], $this->meshes($measures, Subject::asset())),
            $measures->asset->diagonal(), $measures->asset->standard->limitInForce('id-close'), $measures->asset->standard->limitInForce('id-mix'),
        ];
    }

    public function compute(Measures $measures, Subject $subject): ClosePairs
    {
        $ids = $measures->ofAsset(Colors::class);
        $bodies = $blends = [];
        if (count($ids->colors) > 1 && count($ids->colors) <= ClosePairs::MOST) {
            foreach ($measures->asset->judged($ids->source === 'id file' ? Role::Id : Role::High) as $part) {
                $labels = $ids->labels($part);
                if ($labels !== null) {
                    $bodies[] = [$part->part->mesh, $labels[0]];
                    array_push($blends, ...$labels[1]);
                }
            }
        }
        $standard = $measures->asset->standard;

        return ClosePairs::of($ids, TouchGraph::of($bodies, ClosePairs::NEAR * $measures->asset->diagonal(), $blends), $standard->limitInForce('id-close'), $standard->limitInForce('id-mix'));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): ClosePairs
    {
        return ClosePairs::kept($stored ?? []);
    }
}
