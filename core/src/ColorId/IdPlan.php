<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Geometry\Color;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * Which colour each high part is to wear: one a base, or one a material.
 */
final readonly class IdPlan
{
    /**
     * @param  string  $by  `part` or `material`
     * @param  array<string, Color>  $colors  base or material name → colour
     * @param  array<string, list<string>>  $parts  the same names → ID part names
     */
    private function __construct(public string $by, public array $colors, public array $parts)
    {
    }

    public static function byPart(Asset $asset): self
    {
        $parts = [];
        foreach ($asset->judged(Role::High) as $part) {
            $parts[$part->base][] = self::idName($part, $asset);
        }

        return self::spread('part', $parts);
    }

    public static function byMaterial(Asset $asset): self
    {
        $parts = [];
        foreach ($asset->judged(Role::High) as $part) {
            foreach ($part->part->mesh->materials === [] ? ['no material'] : $part->part->mesh->materials as $material) {
                $parts[$material][] = self::idName($part, $asset);
            }
        }

        return self::spread('material', $parts);
    }

    /** What a high part is called in the ID file. */
    public static function idName(RoledPart $part, Asset $asset): string
    {
        return $part->base.$asset->standard->suffixFor(Role::Id);
    }

    public function leastDistance(): float
    {
        return Palette::leastDistance(array_values($this->colors));
    }

    /**
     * As `legend.json` has it.
     *
     * @return array{leastDeltaE00: float|null, ids: list<array{name: string, hex: string, parts: list<string>, material?: string}>}
     */
    public function legend(): array
    {
        $ids = [];
        foreach ($this->colors as $name => $color) {
            $id = ['name' => (string) $name, 'hex' => $color->hex(), 'parts' => array_values(array_unique($this->parts[$name]))];
            if ($this->by === 'material') {
                $id['material'] = (string) $name;
            }
            $ids[] = $id;
        }
        $least = $this->leastDistance();

        return ['leastDeltaE00' => is_finite($least) ? round($least, 4) : null, 'ids' => $ids];
    }

    public function legendCsv(): string
    {
        $out = "name,hex,parts\n";
        foreach ($this->legend()['ids'] as $id) {
            $out .= implode(',', array_map(static fn (string $cell): string => preg_match('/[",\n\r]/', $cell) === 1 ? '"'.str_replace('"', '""', $cell).'"' : $cell, [$id['name'], $id['hex'], implode(' ', $id['parts'])]))."\n";
        }

        return $out;
    }

    /** The palette as GPL, a text format that several painting programs read. */
    public function paletteGpl(string $name): string
    {
        $out = "GIMP Palette\nName: $name\nColumns: 8\n#\n";
        foreach ($this->colors as $id => $color) {
            $out .= sprintf("%3d %3d %3d\t%s\n", $color->red, $color->green, $color->blue, $id);
        }

        return $out;
    }

    /**
     * @param  array<string|int, list<string>>  $parts
     */
    private static function spread(string $by, array $parts): self
    {
        ksort($parts, SORT_STRING);
        $names = array_map(strval(...), array_keys($parts));
        $colors = $names === [] ? [] : array_combine($names, Palette::spread(count($names)));

        return new self($by, $colors, $names === [] ? [] : array_combine($names, array_values($parts)));
    }
}
