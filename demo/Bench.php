<?php

declare(strict_types=1);

namespace Demo;

use Anvil\Geometry\Part;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;

/**
 * Pairs of low and high parts, laid out on one page: a low shape takes the next free cell of a grid of UV cells.
 */
final class Bench
{
    /** @var list<Part> */
    public array $low = [];

    /** @var list<Part> */
    public array $high = [];

    private int $cell = 0;

    /**
     * @param  int  $across  cells a row of the page
     * @param  array<string, string>  $colors  material → `#RRGGBB`; the high parts wear them
     */
    public function __construct(private readonly int $across, private readonly string $lowMaterial, private readonly array $colors)
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
        $this->low[] = new Part($base.$lowSuffix, $this->laidOut($low)->mesh($angle, [[0, $this->lowMaterial]]), [$this->lowMaterial => '#8A9097']);
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
     * @param  list<Polygons>  $shapes
     */
    private function laidOut(array $shapes): Polygons
    {
        $out = [];
        $size = 1.0 / $this->across;
        foreach ($shapes as $shape) {
            $u = ($this->cell % $this->across) * $size;
            $v = intdiv($this->cell, $this->across) * $size;
            $this->cell++;
            $out[] = $shape->placed($u + 0.03 * $size, $v + 0.03 * $size, 0.94 * $size);
        }

        return Polygons::join($out);
    }
}
