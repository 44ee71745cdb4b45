<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;

/**
 * The color of each triangle of a part: of its corners, or of its material.
 */
final readonly class FaceColors
{
    /** No color, or not at each corner. */
    public const NONE = -1;

    /** Corners of more than one color. */
    public const BLEND = -2;

    /**
     * @param  list<string>  $hex  the colors, in order of first use
     * @param  list<int>  $of  of each triangle: which of them, or NONE or BLEND
     * @param  array<int, array{int, int}>  $blends  of two colors that meet in a blend, by the first times 65,536 plus the second
     */
    private function __construct(public array $hex, public array $of, public array $blends)
    {
    }

    public static function ofVertices(Mesh $mesh): self
    {
        $number = $vertex = $hex = [];
        $colors = $mesh->colors;
        for ($i = 0, $n = count($colors); $i < $n; $i += 3) {
            if ($colors[$i] < 0.0) {
                $vertex[] = self::NONE;

                continue;
            }
            $key = (int) round(255 * max(0.0, min(1.0, $colors[$i]))) << 16 | (int) round(255 * max(0.0, min(1.0, $colors[$i + 1]))) << 8 | (int) round(255 * max(0.0, min(1.0, $colors[$i + 2])));
            if (! isset($number[$key])) {
                $number[$key] = count($hex);
                $hex[] = sprintf('#%06X', $key);
            }
            $vertex[] = $number[$key];
        }
        $of = $blends = [];
        $tri = $mesh->triangles;
        for ($i = 0, $n = count($tri); $i < $n; $i += 3) {
            $a = $vertex[$tri[$i]];
            $b = $vertex[$tri[$i + 1]];
            $c = $vertex[$tri[$i + 2]];
            if ($a === $b && $b === $c) {
                $of[] = $a;
            } elseif ($a < 0 || $b < 0 || $c < 0) {
                $of[] = self::NONE;
            } else {
                $of[] = self::BLEND;
                foreach ([[$a, $b], [$b, $c], [$a, $c]] as [$one, $two]) {
                    if ($one !== $two && count($blends) < 65536) {
                        $blends[min($one, $two) << 16 | max($one, $two)] = [min($one, $two), max($one, $two)];
                    }
                }
            }
        }

        return new self($hex, $of, $blends);
    }

    public static function ofMaterials(Part $part): self
    {
        $number = $ofMaterial = $hex = [];
        foreach ($part->mesh->materials as $i => $name) {
            // What a picture colors has no color of its own.
            $color = isset($part->facts->pictures[$name]) ? null : ($part->colors[$name] ?? null);
            if ($color !== null && ! isset($number[$color])) {
                $number[$color] = count($hex);
                $hex[] = $color;
            }
            $ofMaterial[$i] = $color === null ? self::NONE : $number[$color];
        }

        return new self($hex, array_map(static fn (int $material): int => $ofMaterial[$material] ?? self::NONE, $part->mesh->triangleMaterials()), []);
    }

    /** Of a part as its source has it: by its vertices where they have colors, else by its materials. */
    public static function of(Part $part, bool $byVertex, bool $byMaterial): ?self
    {
        if ($byVertex && $part->mesh->colors !== []) {
            return self::ofVertices($part->mesh);
        }

        return $byMaterial ? self::ofMaterials($part) : null;
    }

    /**
     * How wide the blend of a triangle is, in file units: from its corner of another color to the edge across, where all three differ the
     * least of these; and its area.
     *
     * @return array{float, float}
     */
    public static function blend(Mesh $mesh, int $triangle): array
    {
        $at = $color = [];
        for ($k = 0; $k < 3; $k++) {
            $v = $mesh->triangles[3 * $triangle + $k];
            $at[] = array_slice($mesh->positions, 3 * $v, 3);
            $color[] = Color::ofSrgb($mesh->colors[3 * $v], $mesh->colors[3 * $v + 1], $mesh->colors[3 * $v + 2])->hex();
        }
        $edge = static fn (int $i, int $j): float => sqrt(($at[$i][0] - $at[$j][0]) ** 2 + ($at[$i][1] - $at[$j][1]) ** 2 + ($at[$i][2] - $at[$j][2]) ** 2);
        // The edge across from each corner.
        $across = [$edge(1, 2), $edge(2, 0), $edge(0, 1)];
        [$x, $y, $z] = FaceNormal::long($mesh->positions, $mesh->triangles, $triangle);
        $double = sqrt($x * $x + $y * $y + $z * $z);
        $edges = match (true) {
            $color[1] === $color[2] => [$across[0]],
            $color[2] === $color[0] => [$across[1]],
            $color[0] === $color[1] => [$across[2]],
            default => $across,
        };

        return [$double / max(1e-30, max($edges)), $double / 2];
    }
}
