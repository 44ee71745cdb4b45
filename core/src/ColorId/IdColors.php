<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Geometry\Color;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * The ID colours of an asset: of its ID file; without one, the high's vertex colours; without those, the colours that its materials
 * set explicitly, when at least two different ones occur (METHODS, "Colour").
 */
final readonly class IdColors
{
    /** Vertex colors of a mesh are IDs where at least this share of its area lies in triangles of one color each, */
    private const FLAT = 0.9;

    /** and where no more colors than these occur in the whole asset. */
    private const MOST = 256;

    /**
     * @param  string  $source  `id file`, `vertex colours`, `materials` or `none`
     * @param  array<string, IdColor>  $colors  by hex, in order of first use
     * @param  list<array{part: RoledPart, without: int, of: int}>  $missing  parts with faces that have no ID colour
     * @param  list<array{part: RoledPart, share: float}>  $painted  high parts whose vertex colors are painted, scanned or shaded and no IDs, with the share of area in triangles of several colors
     */
    private function __construct(public string $source, public array $colors, public array $missing, public array $painted = [])
    {
    }

    public static function of(Asset $asset): self
    {
        $id = $asset->judged(Role::Id);
        if ($id !== []) {
            // What an ID stands for is told by the high poly that it was made of; a part of several materials tells nothing.
            $worn = [];
            foreach ($asset->judged(Role::High) as $part) {
                $worn[$part->base] = count($part->part->mesh->materials) === 1 && ! isset($worn[$part->base]) ? $part->part->mesh->materials : [];
            }

            return self::collect('id file', $id, true, true, $worn);
        }
        $high = $asset->judged(Role::High);
        [$flat, $painted] = $asset->choices->vertexColorsAreIds ? [array_values(array_filter($high, static fn (RoledPart $part): bool => $part->part->mesh->colors !== [])), []] : self::parted($high);
        if ($flat !== []) {
            $without = array_column($painted, 'part');
            $found = self::collect('vertex colours', array_values(array_filter($high, static fn (RoledPart $part): bool => ! in_array($part, $without, true))), true, false);

            return new self($found->source, $found->colors, $found->missing, $painted);
        }
        $found = self::collect('materials', $high, false, true);

        return count($found->colors) >= 2 ? new self($found->source, $found->colors, $found->missing, $painted) : new self('none', [], [], $painted);
    }

    /**
     * High parts with vertex colors: those whose colors are IDs, and those whose colors are painted, scanned or shaded.
     *
     * @param  list<RoledPart>  $high
     * @return array{list<RoledPart>, list<array{part: RoledPart, share: float}>}
     */
    private static function parted(array $high): array
    {
        $flat = $painted = $shares = $colors = [];
        foreach ($high as $part) {
            $mesh = $part->part->mesh;
            if ($mesh->colors === []) {
                continue;
            }
            $faces = FaceColors::ofVertices($mesh);
            $blended = $all = 0.0;
            foreach ($mesh->triangleAreas() as $t => $area) {
                $all += $area;
                $blended += $faces->of[$t] === FaceColors::BLEND ? $area : 0.0;
            }
            $share = $all > 0.0 ? $blended / $all : 0.0;
            if ($share <= 1 - self::FLAT + 1e-9) {
                $flat[] = $part;
                $shares[] = $share;
                $colors += array_fill_keys($faces->hex, true);
            } else {
                $painted[] = ['part' => $part, 'share' => $share];
            }
        }
        if (count($colors) > self::MOST) {
            // So many colors tell nothing apart.
            array_push($painted, ...array_map(static fn (RoledPart $part, float $share): array => ['part' => $part, 'share' => $share], $flat, $shares));
            $flat = [];
        }

        return [$flat, $painted];
    }

    /**
     * @param  list<RoledPart>  $parts  those that may wear a colour
     * @return array<string, mixed>
     */
    public function toArray(array $parts): array
    {
        $numbers = [];
        foreach ($parts as $number => $part) {
            $numbers[spl_object_id($part)] = $number;
        }
        $number = static fn (RoledPart $part): int => $numbers[spl_object_id($part)];

        return [
            'source' => $this->source,
            'colors' => array_map(static fn (IdColor $color): array => [$color->color->hex(), $color->names, array_map($number, $color->parts), $color->materials], array_values($this->colors)),
            'missing' => array_map(static fn (array $one): array => [$number($one['part']), $one['without'], $one['of']], $this->missing),
            'painted' => array_map(static fn (array $one): array => [$number($one['part']), $one['share']], $this->painted),
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     * @param  list<RoledPart>  $parts  the same
     */
    public static function ofArray(array $stored, array $parts): self
    {
        /** @var array{source: string, colors: list<array{string, list<string>, list<int>, list<string>}>, missing: list<array{int, int, int}>, painted: list<array{int, float|int}>} $stored */
        $colors = [];
        foreach ($stored['colors'] as [$hex, $names, $numbers, $materials]) {
            $colors[$hex] = new IdColor(Color::ofHex($hex), $names, array_map(static fn (int $number): RoledPart => $parts[$number], $numbers), $materials);
        }

        return new self(
            $stored['source'], $colors,
            array_map(static fn (array $one): array => ['part' => $parts[$one[0]], 'without' => $one[1], 'of' => $one[2]], $stored['missing']),
            array_map(static fn (array $one): array => ['part' => $parts[$one[0]], 'share' => (float) $one[1]], $stored['painted']),
        );
    }

    /**
     * The first picture that colors of these parts come from, in words; null where none do.
     *
     * @param  list<RoledPart>  $parts
     */
    public static function pictured(array $parts): ?string
    {
        foreach ($parts as $part) {
            $picture = array_values($part->part->facts->pictures)[0] ?? null;
            if ($picture !== null) {
                return "the colors of {$part->part->name} are in a picture ($picture), which is not read: give IDs as materials or vertex colors";
            }
        }

        return null;
    }

    /**
     * Which of the colors each triangle of a part wears; none for a part without any.
     *
     * @return array{list<int>, list<array{int, int}>}|null numbers among the colors, negative for none; and pairs of them that meet in a blend
     */
    public function labels(RoledPart $part): ?array
    {
        $faces = FaceColors::of($part->part, $this->source !== 'materials', $this->source !== 'vertex colours');
        if ($faces === null) {
            return null;
        }
        $numbers = array_flip(array_map(strval(...), array_keys($this->colors)));
        $of = array_map(static fn (string $hex): int => $numbers[$hex] ?? FaceColors::NONE, $faces->hex);

        return [
            array_map(static fn (int $color): int => $color < 0 ? $color : $of[$color], $faces->of),
            array_values(array_map(static fn (array $pair): array => [$of[$pair[0]], $of[$pair[1]]], $faces->blends)),
        ];
    }

    /**
     * @param  list<RoledPart>  $parts
     * @param  array<string, list<string>>  $wornBelow  base → materials of its high parts, where IDs are in a file of their own
     */
    private static function collect(string $source, array $parts, bool $byVertex, bool $byMaterial, array $wornBelow = []): self
    {
        /** @var array<string, array{names: array<string, true>, parts: array<string, RoledPart>, materials: array<string, true>}> $colors */
        $colors = [];
        $missing = [];
        foreach ($parts as $part) {
            $mesh = $part->part->mesh;
            $faces = FaceColors::of($part->part, $byVertex, $byMaterial);
            $without = $mesh->triangleCount();
            if ($faces !== null) {
                $counts = array_count_values($faces->of);
                $without = $counts[FaceColors::NONE] ?? 0;
                $isOfVertices = $byVertex && $mesh->colors !== [];
                $materials = self::materialsOf($part, $faces);
                foreach ($faces->hex as $number => $hex) {
                    if (! isset($counts[$number])) {
                        continue;
                    }
                    $colors[$hex] ??= ['names' => [], 'parts' => [], 'materials' => []];
                    foreach ($isOfVertices ? [$part->part->name] : $materials[$number] as $name) {
                        $colors[$hex]['names'][$name] = true;
                    }
                    $colors[$hex]['parts'][$part->part->name] = $part;
                    foreach ($source === 'id file' ? ($wornBelow[$part->base] ?? []) : $materials[$number] as $name) {
                        $colors[$hex]['materials'][$name] = true;
                    }
                }
            }
            if ($without > 0) {
                $missing[] = ['part' => $part, 'without' => $without, 'of' => $mesh->triangleCount()];
            }
        }
        $out = [];
        foreach ($colors as $hex => $color) {
            $out[$hex] = new IdColor(Color::ofHex($hex), array_map(strval(...), array_keys($color['names'])), array_values($color['parts']), array_map(strval(...), array_keys($color['materials'])));
        }

        return new self($source, $out, $missing);
    }

    /**
     * The materials of the triangles of each color.
     *
     * @return array<int, list<string>>
     */
    private static function materialsOf(RoledPart $part, FaceColors $faces): array
    {
        $mesh = $part->part->mesh;
        $out = array_fill(0, max(1, count($faces->hex)), []);
        if (count($mesh->materials) > 1) {
            foreach ($mesh->triangleMaterials() as $t => $material) {
                if ($faces->of[$t] >= 0 && $material >= 0) {
                    $out[$faces->of[$t]][$mesh->materials[$material]] = true;
                }
            }

            return array_map(static fn (array $names): array => array_map(strval(...), array_keys($names)), $out);
        }

        return array_map(static fn (array $none): array => $mesh->materials, $out);
    }
}
