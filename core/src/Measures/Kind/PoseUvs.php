<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Surface\PoseDifference;

/**
 * How the UVs of the low poly that ships differ from those of the one that is baked.
 *
 * @extends AssetMeasure<PoseDifference>
 */
final class PoseUvs extends AssetMeasure
{
    public function name(): string
    {
        return 'pose-uvs';
    }

    public function revision(): int
    {
        return 2;
    }

    public function words(Subject $subject): string
    {
        return 'comparing the UVs of both low polys';
    }

    public function subjects(Measures $measures): array
    {
        return $measures->asset->judged(Role::Pose) === [] || $measures->asset->judged(Role::Low) === [] ? [] : [Subject::asset()];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return [...$measures->asset->judged(Role::Low), ...$measures->asset->judged(Role::Pose)];
    }

    protected function depends(Measures $measures): mixed
    {
        return [$measures->asset->standard->limitInForce('uv-pose'), array_map(static fn (RoledPart $part): array => [$part->role?->value, $part->path], $this->meshes($measures, Subject::asset()))];
    }

    public function compute(Measures $measures, Subject $subject): PoseDifference
    {
        return PoseDifference::of($measures->asset->judged(Role::Low), $measures->asset->judged(Role::Pose), $measures->asset->standard->limitInForce('uv-pose'));
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): PoseDifference
    {
        return PoseDifference::kept($stored ?? ['files' => [], 'outlines' => []]);
    }
}
