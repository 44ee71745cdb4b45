<?php

declare(strict_types=1);

namespace Demo;

use Anvil\Geometry\Part;
use Anvil\Modelling\Atlas;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Closure;

/**
 * Pairs of low and high parts, laid out on one page.
 */
final class Bench
{
    /** @var array<string, array{Polygons, float}> name → shape, and the angle from which its edges are hard */
    private array $shapes = [];

    /** @var list<Part> */
    public array $high = [];

    /**
     * @param  array<string, string>  $colors  material → `#RRGGBB`; the high parts wear them
     */
    public function __construct(private readonly string $lowMaterial, private readonly array $colors)
    {
    }

    /**
     * @param  list<Polygons>  $low  shapes of the low part, each with UVs on the unit page
     * @param  list<Polygons>  $high
     * @param  string|null  $material  of the high part
     * @param  string|null  $highName  where it is not the low's base
     */
    public function pair(string $base, array $low, array $high, ?string $material = null, ?string $highName = null, string $lowSuffix = '_low', string $highSuffix = '_high', float $angle = 40.0): void
    {
        $this->shapes[$base.$lowSuffix] = [Polygons::join($low), $angle];
        if ($high !== []) {
            $this->high[] = $this->worn(($highName ?? $base).$highSuffix, $high, $material);
        }
    }

    /**
     * @param  list<Polygons>  $high
     */
    public function worn(string $name, array $high, ?string $material): Part
    {
        $joined = Polygons::join($high);

        return new Part($name, $joined->mesh(30.0, $material === null ? [] : [[0, $material]]), $material === null ? [] : [$material => $this->colors[$material]]);
    }

    /** A box of the low poly: sharp, or with one chamfer where a studio would model it. */
    public static function slab(float $x, float $y, float $z, float $px, float $py, float $pz): Polygons
    {
        return Shapes::box($x, $y, $z)->moved($px, $py, $pz);
    }

    /** Its high poly: edges rounded, faces cut fine. */
    public static function milled(float $x, float $y, float $z, float $px, float $py, float $pz, float $radius, int $segments = 3, int $cuts = 4): Polygons
    {
        return Shapes::roundedBox($x, $y, $z, $radius, $segments, $cuts)->moved($px, $py, $pz);
    }

    /** A rivet head: a dome on a flat, its axis turned to `axis` (0 x, 1 y, 2 z; a sign turns it round). */
    public static function rivet(float $radius, float $height, float $x, float $y, float $z, int $axis = 1, float $sign = 1.0): Polygons
    {
        $profile = [];
        for ($i = 0; $i <= 5; $i++) {
            $a = M_PI / 2 * $i / 5;
            $profile[] = [$i === 5 ? 0.0 : $radius * cos($a), $height * sin($a)];
        }
        $dome = Shapes::lathe([[0.0, -0.25 * $height], [$radius, -0.25 * $height], ...$profile], 14, false);
        $dome = match ($axis) {
            0 => $dome->turned(2, $sign > 0 ? -90 : 90),
            2 => $dome->turned(0, $sign > 0 ? 90 : -90),
            default => $sign > 0 ? $dome : $dome->turned(0, 180),
        };

        return $dome->moved($x, $y, $z);
    }

    /**
     * The low parts, packed on one page.
     *
     * @param  (Closure(array<string, Polygons>): array<string, Polygons>)|null  $after  what is done to the page afterwards
     * @return list<Part>
     */
    public function low(?Closure $after = null): array
    {
        $packed = Atlas::packed(array_map(static fn (array $one): Polygons => $one[0], $this->shapes));
        $packed = $after === null ? $packed : $after($packed);
        $out = [];
        foreach ($packed as $name => $shape) {
            $out[] = new Part($name, $shape->mesh($this->shapes[$name][1], [[0, $this->lowMaterial]]), [$this->lowMaterial => '#8A9097']);
        }

        return $out;
    }
}
