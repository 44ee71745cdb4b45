<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Geometry\Color;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Shells;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * The high poly cut into what can wear an ID of its own.
 */
final class PieceCut
{
    /** @var array<string, int> key → number */
    private array $numbers = [];

    /** @var array<int, array{name: string, shape: string|null, parts: array<string, true>, triangles: int}> */
    private array $rows = [];

    /** @var list<int|list<int>> the piece of each part, or of each of its triangles */
    private array $of = [];

    /** @var array<string, int> part → cells of the coarser shape that it was cut on */
    private array $coarse = [];

    /**
     * @param  list<RoledPart>  $parts  the high parts
     */
    private function __construct(public readonly By $by, public readonly float $angle, public readonly array $parts)
    {
    }

    /** @param  float  $angle  faces that turn less than this, in degrees, stay together; for regions */
    public static function of(Asset $asset, By $by, float $angle = 30.0): self
    {
        $cut = new self($by, $angle, $asset->judged(Role::High));
        $setOf = [];
        foreach ($by === By::Set ? $asset->sets : [] as $set) {
            foreach ($set->high as $part) {
                $setOf[spl_object_id($part)] = $set->name;
            }
        }
        foreach ($cut->parts as $part) {
            $cut->of[] = match ($by) {
                By::Part => $cut->whole($part, $part->base, $part->part->hash()),
                By::Set => $cut->whole($part, $setOf[spl_object_id($part)] ?? $part->base, null),
                By::Material => $cut->byMaterial($part),
                By::Colors => $cut->byColors($part),
                By::Shell => $cut->divided($part, Shells::ofMesh($part->part->mesh)),
                By::Region => $cut->byRegions($part),
            };
        }

        $cut->sort();

        return $cut;
    }

    /** Pieces in the order of their keys, so that the order of parts in a file changes nothing. */
    private function sort(): void
    {
        $keys = array_map(strval(...), array_keys($this->numbers));
        usort($keys, static fn (string $a, string $b): int => [strnatcmp($a, $b), strcmp($a, $b)] <=> [0, 0]);
        $to = $rows = [];
        foreach ($keys as $number => $key) {
            $to[$this->numbers[$key]] = $number;
            $rows[] = $this->rows[$this->numbers[$key]];
        }
        $this->rows = $rows;
        $this->of = array_map(static fn (int|array $of): int|array => is_int($of) ? $to[$of] : array_map(static fn (int $piece): int => $to[$piece], $of), $this->of);
        $this->numbers = array_flip($keys);
    }

    /**
     * @return list<Piece>
     */
    public function pieces(): array
    {
        $out = [];
        foreach (array_keys($this->numbers) as $number => $key) {
            $row = $this->rows[$number];
            $out[] = new Piece((string) $key, $row['name'], $row['shape'], array_map(strval(...), array_keys($row['parts'])), $row['triangles']);
        }

        return $out;
    }

    /**
     * Of a high part by its number: its piece, or the piece of each triangle; −1 for none.
     *
     * @return int|list<int>
     */
    public function ofPart(int $number): int|array
    {
        return $this->of[$number];
    }

    /**
     * The meshes of the pieces, those of several parts once a part.
     *
     * @return list<array{int, string, Mesh}> piece, part, mesh
     */
    public function meshes(): array
    {
        $out = [];
        foreach ($this->parts as $number => $part) {
            $mesh = $part->part->mesh;
            $of = $this->of[$number];
            if (is_int($of)) {
                $out[] = [$of, $part->part->name, new Mesh($mesh->positions, $mesh->triangles)];

                continue;
            }
            $vertices = $positions = $triangles = [];
            foreach ($of as $t => $piece) {
                for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                    $v = $mesh->triangles[$k];
                    if (! isset($vertices[$piece][$v])) {
                        $vertices[$piece][$v] = count($vertices[$piece] ?? []);
                        $positions[$piece][] = $mesh->positions[3 * $v];
                        $positions[$piece][] = $mesh->positions[3 * $v + 1];
                        $positions[$piece][] = $mesh->positions[3 * $v + 2];
                    }
                    $triangles[$piece][] = $vertices[$piece][$v];
                }
            }
            foreach ($triangles as $piece => $own) {
                $out[] = [$piece, $part->part->name, new Mesh($positions[$piece], $own)];
            }
        }

        return $out;
    }

    /**
     * Parts that had too many regions and were cut on a coarser shape.
     *
     * @return array<string, int> name → cells along its longest side
     */
    public function coarse(): array
    {
        return $this->coarse;
    }

    private function whole(RoledPart $part, string $key, ?string $shape): int
    {
        return $this->add($key, $key, $shape, $part, $part->part->triangleCount());
    }

    /**
     * @return int|list<int>
     */
    private function byMaterial(RoledPart $part): int|array
    {
        $mesh = $part->part->mesh;
        $counts = array_count_values($mesh->triangleMaterials());
        $piece = [];
        foreach ($counts as $material => $count) {
            $name = $mesh->materials[$material] ?? 'no material';
            $piece[$material] = $this->add($name, $name, null, $part, $count);
        }

        return count($piece) === 1 ? array_values($piece)[0] : array_map(static fn (int $material): int => $piece[$material], $mesh->triangleMaterials());
    }

    /**
     * @return list<int>
     */
    private function byColors(RoledPart $part): array
    {
        $mesh = $part->part->mesh;
        $faces = $mesh->colors !== [] ? FaceColors::ofVertices($mesh) : FaceColors::ofMaterials($part->part);
        $of = $faces->of;
        foreach (array_keys($of, FaceColors::BLEND, true) as $t) {
            // A blend goes to the color that two of its corners have, else to that of the first.
            $hex = [];
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->triangles[3 * $t + $k];
                $hex[] = Color::ofSrgb($mesh->colors[$v], $mesh->colors[$v + 1], $mesh->colors[$v + 2])->hex();
            }
            $of[$t] = (int) array_search($hex[1] === $hex[2] ? $hex[1] : $hex[0], $faces->hex, true);
        }
        $names = [];
        if ($mesh->colors === []) {
            foreach ($mesh->materials as $material) {
                $names[$part->part->colors[$material] ?? ''] ??= $material;
            }
        }
        $piece = [];
        foreach (array_count_values($of) as $color => $count) {
            $key = $faces->hex[$color] ?? 'no color';
            $piece[$color] = $this->add($key, $names[$key] ?? $key, null, $part, $count);
        }

        return array_map(static fn (int $color): int => $piece[$color], $of);
    }

    /**
     * @return int|list<int>
     */
    private function byRegions(RoledPart $part): int|array
    {
        $cut = RegionCut::of($part->part->mesh, $this->angle);
        if ($cut->cells > 0) {
            $this->coarse[$part->part->name] = $cut->cells;
        }

        return $this->divided($part, $cut->of);
    }

    /**
     * A part in pieces of its own, numbered from 1 in order of their first triangles.
     *
     * @param  list<int>  $labels
     * @return int|list<int>
     */
    private function divided(RoledPart $part, array $labels): int|array
    {
        $counts = array_count_values($labels);
        if (count($counts) < 2) {
            return $this->add("{$part->part->name}#1", $part->base, "{$part->part->hash()}#1", $part, count($labels));
        }
        $piece = [];
        foreach ($counts as $label => $count) {
            $number = count($piece) + 1;
            $piece[$label] = $this->add("{$part->part->name}#$number", "$part->base $number", "{$part->part->hash()}#$number", $part, $count);
        }

        return array_map(static fn (int $label): int => $piece[$label], $labels);
    }

    private function add(string $key, string $name, ?string $shape, RoledPart $part, int $triangles): int
    {
        $number = $this->numbers[$key] ??= count($this->rows);
        $row = $this->rows[$number] ?? ['name' => $name, 'shape' => $shape, 'parts' => [], 'triangles' => 0];
        $row['parts'][$part->part->name] = true;
        $row['triangles'] += $triangles;
        // Several parts under one name are no longer one shape.
        $row['shape'] = count($row['parts']) > 1 ? null : $row['shape'];
        $this->rows[$number] = $row;

        return $number;
    }
}
