<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Geometry\Color;
use Anvil\Geometry\Mesh;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * The ID colours of an asset: of its ID file; without one, the high's vertex colours; without those, the colours that its materials
 * set explicitly, when at least two different ones occur (METHODS, "Colour").
 */
final readonly class IdColors
{
    /**
     * @param  string  $source  `id file`, `vertex colours`, `materials` or `none`
     * @param  array<string, IdColor>  $colors  by hex, in order of first use
     * @param  list<array{part: RoledPart, without: int, of: int}>  $missing  parts with faces that have no ID colour
     */
    private function __construct(public string $source, public array $colors, public array $missing)
    {
    }

    public static function of(Asset $asset): self
    {
        $id = $asset->judged(Role::Id);
        if ($id !== []) {
            return self::collect('id file', $id, true, true);
        }
        $high = $asset->judged(Role::High);
        foreach ($high as $part) {
            if ($part->part->mesh->colors !== []) {
                return self::collect('vertex colours', $high, true, false);
            }
        }
        $found = self::collect('materials', $high, false, true);

        return count($found->colors) >= 2 ? $found : new self('none', [], []);
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
            'colors' => array_map(static fn (IdColor $color): array => [$color->color->hex(), $color->names, array_map($number, $color->parts)], array_values($this->colors)),
            'missing' => array_map(static fn (array $one): array => [$number($one['part']), $one['without'], $one['of']], $this->missing),
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     * @param  list<RoledPart>  $parts  the same
     */
    public static function ofArray(array $stored, array $parts): self
    {
        /** @var array{source: string, colors: list<array{string, list<string>, list<int>}>, missing: list<array{int, int, int}>} $stored */
        $colors = [];
        foreach ($stored['colors'] as [$hex, $names, $numbers]) {
            $colors[$hex] = new IdColor(Color::ofHex($hex), $names, array_map(static fn (int $number): RoledPart => $parts[$number], $numbers));
        }

        return new self($stored['source'], $colors, array_map(static fn (array $one): array => ['part' => $parts[$one[0]], 'without' => $one[1], 'of' => $one[2]], $stored['missing']));
    }

    /**
     * @param  list<RoledPart>  $parts
     */
    private static function collect(string $source, array $parts, bool $byVertex, bool $byMaterial): self
    {
        /** @var array<string, array{names: array<string, true>, parts: array<string, RoledPart>}> $colors */
        $colors = [];
        $missing = [];
        foreach ($parts as $part) {
            $mesh = $part->part->mesh;
            $without = 0;
            if ($byVertex && $mesh->colors !== []) {
                foreach (self::faceColors($mesh) as $hex => $faces) {
                    if ($hex === '') {
                        $without += $faces;
                    } elseif ($hex !== 'blend') {
                        $colors[$hex]['names'][$part->part->name] = true;
                        $colors[$hex]['parts'][$part->part->name] = $part;
                    }
                }
            } elseif ($byMaterial) {
                $counts = array_count_values($mesh->triangleMaterials());
                foreach ($counts as $material => $faces) {
                    $name = $mesh->materials[$material] ?? null;
                    $hex = $name === null ? null : ($part->part->colors[$name] ?? null);
                    if ($hex === null) {
                        $without += $faces;
                    } else {
                        $colors[$hex]['names'][$name] = true;
                        $colors[$hex]['parts'][$part->part->name] = $part;
                    }
                }
            } else {
                $without = $mesh->triangleCount();
            }
            if ($without > 0) {
                $missing[] = ['part' => $part, 'without' => $without, 'of' => $mesh->triangleCount()];
            }
        }
        $out = [];
        foreach ($colors as $hex => $color) {
            $out[$hex] = new IdColor(Color::ofHex($hex), array_map(strval(...), array_keys($color['names'])), array_values($color['parts']));
        }

        return new self($source, $out, $missing);
    }

    /**
     * @return array<string, int> hex → faces; `` for faces without, `blend` for faces whose corners differ
     */
    private static function faceColors(Mesh $mesh): array
    {
        $hex = [];
        foreach (array_chunk($mesh->colors, 3) as [$r, $g, $b]) {
            $hex[] = $r < 0.0 ? '' : Color::ofSrgb($r, $g, $b)->hex();
        }
        $out = [];
        foreach (array_chunk($mesh->triangles, 3) as [$a, $b, $c]) {
            $key = $hex[$a] === $hex[$b] && $hex[$b] === $hex[$c] ? $hex[$a] : 'blend';
            $out[$key] = ($out[$key] ?? 0) + 1;
        }

        return $out;
    }
}
