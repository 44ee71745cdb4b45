<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Asset\GivenMap;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Proof\Returned\MapJudge;
use Anvil\Proof\Returned\MapVerdict;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;

/**
 * The maps that came back from a baker, held against the trial maps of their pages.
 *
 * @extends AssetMeasure<list<MapVerdict>>
 */
final class ReturnedMaps extends AssetMeasure
{
    public function name(): string
    {
        return 'returned-maps';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'holding the maps that came back against the trial';
    }

    public function reads(): array
    {
        return [Rays::class, Colors::class];
    }

    public function subjects(Measures $measures): array
    {
        return $measures->asset->maps === [] ? [] : [Subject::asset()];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return $measures->asset->maps === [] ? [] : [...$measures->asset->judged(Role::Low), ...$measures->asset->judged(Role::High), ...$measures->asset->judged(Role::Id), ...$measures->asset->judged(Role::Cage)];
    }

    protected function depends(Measures $measures): mixed
    {
        $asset = $measures->asset;

        return $asset->maps === [] ? null : [
            array_map(static fn (GivenMap $map): array => [$map->sha256, $map->kind, $map->page, $map->isTold, $map->path], $asset->maps),
            $asset->standard->rays, $asset->standard->mapSize, $asset->standard->padding(), $asset->standard->udim, $asset->standard->greenChannel,
            array_map(static fn (BakeSet $set): array => [$set->name, RoledPart::names($set->low), RoledPart::names($set->target()), $measures->clearanceOf($set)?->inUse()], $asset->sets),
            $asset->choices->occlusion, $measures->notMeasured(), $measures->ofAsset(Colors::class)->toArray([...$asset->judged(Role::Id), ...$asset->judged(Role::High)]),
        ];
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        return $measures->asset->maps === [] ? [] : MapJudge::of($measures->asset->maps, $measures->common()->pages(), $measures->common()->trialInputs());
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return array_map(static fn (MapVerdict $verdict): array => $verdict->toArray(), $result);
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array<string, mixed>> $stored */
        return array_map(MapVerdict::ofArray(...), $stored ?? []);
    }
}
