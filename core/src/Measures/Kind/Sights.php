<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Clearance\AssetClearance;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Surface\Islands;
use Anvil\Surface\IslandSights;

/**
 * How much of each UV island is seen on the assembled low poly, and how much is hidden by other parts of its own page alone.
 *
 * @extends AssetMeasure<list<array{seen: list<float>, behind: list<float>}>>
 */
final class Sights extends AssetMeasure
{
    public function name(): string
    {
        return 'island-sights';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'looking which UV islands are seen';
    }

    public function reads(): array
    {
        return [IslandFacts::class];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return $measures->asset->judged(Role::Low);
    }

    protected function depends(Measures $measures): mixed
    {
        return [$measures->common()->hashOfStaying(), self::allSeen($measures)];
    }

    /**
     * @return list<bool> of each low part
     */
    private static function allSeen(Measures $measures): array
    {
        $sets = array_keys(AssetClearance::allSeen($measures->asset));

        return array_map(static function (RoledPart $part) use ($measures, $sets): bool {
            foreach ($sets as $name) {
                if (in_array($part, $measures->set($name)->low ?? [], true)) {
                    return true;
                }
            }

            return false;
        }, $measures->asset->judged(Role::Low));
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        $parts = $measures->asset->judged(Role::Low);
        $hiding = [];
        foreach (AssetClearance::staying($measures->asset) as $set) {
            foreach ($set->low as $part) {
                $hiding[spl_object_id($part)] = true;
            }
        }

        return IslandSights::of(
            array_map(static fn (RoledPart $part) => $part->part->mesh, $parts), array_map(static fn (RoledPart $part): Islands => $measures->ofPart(IslandFacts::class, $part), $parts),
            self::allSeen($measures), $measures->common()->assembledLow()[0], array_map(static fn (RoledPart $part): bool => isset($hiding[spl_object_id($part)]), $parts),
        );
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var list<array{seen: list<float>, behind: list<float>}> */
        return $stored ?? [];
    }
}
