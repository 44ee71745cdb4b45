<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Surface\Islands;
use Anvil\Surface\LayoutFacts;

/**
 * What of the low poly lies on each other and how near to each other on every page: overlaps, gaps, covered area.
 *
 * @extends AssetMeasure<LayoutFacts>
 */
final class PageLayout extends AssetMeasure
{
    public function name(): string
    {
        return 'page-layout';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'laying UV islands on each other';
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
        return [self::padding($measures), array_map(static fn (array|bool $one): array|bool => is_array($one) ? array_keys($one) : $one, self::exempt($measures))];
    }

    /** The padding that is asked for, in pages. */
    private static function padding(Measures $measures): float
    {
        $standard = $measures->asset->standard;

        return $standard->padding() / $standard->mapSize;
    }

    /**
     * Of each low part the islands that may lie on others: those declared mirrored.
     *
     * @return list<array<int, true>|true>
     */
    public static function exempt(Measures $measures): array
    {
        $choices = $measures->asset->choices;

        return array_map(static function (RoledPart $part) use ($measures, $choices): array|true {
            if ($choices->isMirrored($part->base, $part->part->name)) {
                return true;
            }
            $keys = array_flip($choices->mirroredIslands[$part->part->name] ?? []);
            if ($keys === []) {
                return [];
            }
            $facts = $measures->ofPart(IslandFacts::class, $part);
            $out = [];
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                if (isset($keys[$facts->key($i)])) {
                    $out[$i] = true;
                }
            }

            return $out;
        }, $measures->asset->judged(Role::Low));
    }

    public function compute(Measures $measures, Subject $subject): LayoutFacts
    {
        $parts = $measures->asset->judged(Role::Low);

        return LayoutFacts::of(
            array_map(static fn (RoledPart $part) => $part->part->mesh, $parts), array_map(static fn (RoledPart $part): Islands => $measures->ofPart(IslandFacts::class, $part), $parts),
            self::exempt($measures), self::padding($measures),
        );
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result->toArray();
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): LayoutFacts
    {
        return LayoutFacts::ofArray($stored ?? []);
    }
}
