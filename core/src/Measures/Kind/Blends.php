<?php

declare(strict_types=1);

namespace Anvil\Measures\Kind;

use Anvil\ColorId\FaceColors;
use Anvil\Measures\AssetMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * Where vertex colors of ID parts (of high parts where there is no ID file) blend into each other, in pixels: the share of a part's area in
 * triangles whose blend is wider than a pixel at the map size, and the widest. By the texel density of the low parts of the same set.
 *
 * @extends AssetMeasure<array<int, array{share: float|null, widest: float}>>
 */
final class Blends extends AssetMeasure
{
    public function name(): string
    {
        return 'id-blends';
    }

    public function revision(): int
    {
        return 1;
    }

    public function words(Subject $subject): string
    {
        return 'looking where ID colors blend';
    }

    public function reads(): array
    {
        return [Contents::class];
    }

    public function meshes(Measures $measures, Subject $subject): array
    {
        return self::parts($measures);
    }

    protected function depends(Measures $measures): mixed
    {
        return [
            $measures->asset->standard->mapSize,
            array_map(static fn (RoledPart $part): array => array_map(static fn (RoledPart $low): string => $low->part->hash(), self::low($measures, $part)), self::parts($measures)),
        ];
    }

    public function compute(Measures $measures, Subject $subject): array
    {
        $out = [];
        foreach (self::parts($measures) as $number => $part) {
            $mesh = $part->part->mesh;
            if ($mesh->colors === []) {
                continue;
            }
            $blends = array_keys(FaceColors::ofVertices($mesh)->of, FaceColors::BLEND, true);
            $perUnit = self::density($measures, $part);
            if ($perUnit === null) {
                $out[$number] = ['share' => $blends === [] ? 0.0 : null, 'widest' => 0.0];

                continue;
            }
            $wide = $widest = 0.0;
            foreach ($blends as $triangle) {
                [$width, $area] = FaceColors::blend($mesh, $triangle);
                $pixels = $width * $perUnit;
                $wide += $pixels > 1.0 ? $area : 0.0;
                $widest = max($widest, $pixels);
            }
            $out[$number] = ['share' => $wide / max(1e-300, array_sum($mesh->triangleAreas())), 'widest' => $widest];
        }

        return $out;
    }

    public function toArray(mixed $result, Measures $measures, Subject $subject): array
    {
        return $result;
    }

    public function ofArray(?array $stored, Measures $measures, Subject $subject): array
    {
        /** @var array<int, array{share: float|null, widest: float}> */
        return $stored ?? [];
    }

    /**
     * @return list<RoledPart>
     */
    private static function parts(Measures $measures): array
    {
        return $measures->asset->judged($measures->asset->judged(Role::Id) === [] ? Role::High : Role::Id);
    }

    /**
     * The low parts of the set that a part is in.
     *
     * @return list<RoledPart>
     */
    private static function low(Measures $measures, RoledPart $part): array
    {
        foreach ($measures->asset->sets as $set) {
            if (in_array($part, [...$set->high, ...$set->id], true)) {
                return $set->low;
            }
        }

        return [];
    }

    /** Pixels in a unit of length on the low parts of a part's set; null where these have no UVs. */
    private static function density(Measures $measures, RoledPart $part): ?float
    {
        $area = $uvArea = 0.0;
        foreach (self::low($measures, $part) as $low) {
            $contents = $measures->ofPart(Contents::class, $low);
            $area += $contents->area ?? 0.0;
            $uvArea += $contents->uvArea ?? 0.0;
        }

        return $area > 0.0 && $uvArea > 0.0 ? $measures->asset->standard->mapSize * sqrt($uvArea / $area) : null;
    }
}
