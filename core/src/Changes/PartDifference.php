<?php

declare(strict_types=1);

namespace Anvil\Changes;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;

/**
 * In what one mesh differs from an earlier one of the same part: place, shape, UVs, shading, colors (METHODS, "What changed between deliveries").
 *
 * Corners are held against each other where both have the same triangles in the same order, as exporters keep them; else the surfaces by their nearest
 * places, and UVs and normals as heaps of triangles, whatever their order.
 */
final class PartDifference
{
    /** Of d: what is less is rounding. */
    public const SLACK = 1e-5;

    /** UVs that differ by less are the same. */
    private const UV = 1e-6;

    /** Cosine of a tenth of a degree: normals that differ by less are the same. */
    private const COSINE = 0.9999985;

    /** Two colors of one byte. */
    private const COLOR = 1 / 510;

    /** Triangles of each side whose distance is looked at, at most, evenly spread. */
    private const LOOKED_AT = 40_000;

    /** @var list<string> */
    private array $states = [];

    /** @var array<string, float> */
    private array $measure = [];

    /** @var array<int, true> triangles of now whose shape is not what it was */
    private array $off = [];

    private ?Motion $motion = null;

    private function __construct(private readonly Mesh $before, private readonly Mesh $after)
    {
    }

    /**
     * @param  array<string, string>  $colorsBefore  material → `#RRGGBB`
     * @param  array<string, string>  $colorsAfter
     * @return array{list<string>, array<string, float>} states and measure of a `PartChange`; no state: the same
     */
    public static function of(Mesh $before, Mesh $after, array $colorsBefore, array $colorsAfter): array
    {
        $self = new self($before, $after);
        $inOrder = $self->isInOrder();
        $self->shape($inOrder);
        $self->uvs($inOrder);
        $self->shading($inOrder);
        $self->colors($inOrder, $colorsBefore, $colorsAfter);

        return [$self->states, $self->measure];
    }

    /** Whether both have the same triangles in the same order over the same welded vertices. */
    private function isInOrder(): bool
    {
        if (count($this->before->triangles) !== count($this->after->triangles)) {
            return false;
        }
        [$old, $new] = [Weld::ofMesh($this->before), Weld::ofMesh($this->after)];
        $there = $back = [];
        foreach ($this->before->triangles as $i => $vertex) {
            $from = $old[$vertex];
            $to = $new[$this->after->triangles[$i]];
            if (($there[$from] ??= $to) !== $to || ($back[$to] ??= $from) !== $from) {
                return false;
            }
        }

        return true;
    }

    private function shape(bool $inOrder): void
    {
        $d = max($this->after->bounds()?->diagonal() ?? 0.0, $this->before->bounds()?->diagonal() ?? 0.0);
        $slack = self::SLACK * $d;
        $count = $this->after->triangleCount();
        $was = $this->before->triangleCount();
        if ($inOrder) {
            $this->off = $this->displaced($slack);
            if ($this->off === []) {
                return;
            }
            $this->motion = Motion::between($this->before, $this->after, $slack);
            if ($this->motion !== null) {
                $this->off = [];
                $this->states[] = 'moved';
                $this->measure += ['distance' => $this->motion->distance, 'turn' => $this->motion->turn, 'factor' => $this->motion->factor, 'greatest' => $this->motion->greatest];

                return;
            }
            $old = $this->off;
        } else {
            $this->off = $count === 0 ? [] : array_fill(0, $count, true);
            $old = $was === 0 ? [] : array_fill(0, $was, true);
        }
        [$share, $greatest, $this->off] = self::away($this->after, array_keys($this->off), $this->before, $slack);
        [$gone, $far] = self::away($this->before, array_keys($old), $this->after, $slack);
        if (max($share, $gone) > 0.0 || $count !== $was) {
            $this->states[] = 'reshaped';
            $this->measure += ['share' => max($share, $gone), 'greatest' => max($greatest, $far)];
            if ($count !== $was) {
                $this->measure += ['triangles' => (float) $count, 'wasTriangles' => (float) $was];
            }
        }
    }

    /**
     * @return array<int, true> triangles with a corner that went further than the slack
     */
    private function displaced(float $slack): array
    {
        $p = $this->before->positions;
        $q = $this->after->positions;
        $most = $slack * $slack;
        $out = [];
        foreach ($this->after->triangles as $i => $vertex) {
            $to = 3 * $vertex;
            $from = 3 * $this->before->triangles[$i];
            if (($p[$from] - $q[$to]) ** 2 + ($p[$from + 1] - $q[$to + 1]) ** 2 + ($p[$from + 2] - $q[$to + 2]) ** 2 > $most) {
                $out[intdiv($i, 3)] = true;
            }
        }

        return $out;
    }

    /**
     * The triangles of one mesh that lie off another's surface, by their corners and middles.
     *
     * @param  list<int>  $triangles  that may
     * @return array{float, float, array<int, true>} share of the mesh's area, greatest distance, those triangles
     */
    private static function away(Mesh $mesh, array $triangles, Mesh $other, float $slack): array
    {
        if ($triangles === []) {
            return [0.0, 0.0, []];
        }
        $areas = $mesh->triangleAreas();
        $whole = array_sum($areas);
        if ($other->triangles === []) {
            return [1.0, $mesh->bounds()?->diagonal() ?? 0.0, array_fill_keys($triangles, true)];
        }
        $nearest = new NearestPoint(TriangleTree::of($other->positions, $other->triangles));
        $p = $mesh->positions;
        $t = $mesh->triangles;
        $step = max(1, (int) ceil(count($triangles) / self::LOOKED_AT));
        $squares = $off = [];
        $area = $looked = $all = $greatest = 0.0;
        $most = $slack * $slack;
        foreach ($triangles as $i => $n) {
            $all += $areas[$n];
            if ($i % $step !== 0) {
                continue;
            }
            $looked += $areas[$n];
            $worst = 0.0;
            $x = $y = $z = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $vertex = $t[3 * $n + $k];
                $x += $p[3 * $vertex] / 3;
                $y += $p[3 * $vertex + 1] / 3;
                $z += $p[3 * $vertex + 2] / 3;
                if (! isset($squares[$vertex])) {
                    $nearest->find($p[3 * $vertex], $p[3 * $vertex + 1], $p[3 * $vertex + 2]);
                    $squares[$vertex] = $nearest->squared;
                }
                $worst = max($worst, $squares[$vertex]);
            }
            $nearest->find($x, $y, $z);
            $worst = max($worst, $nearest->squared);
            $greatest = max($greatest, $worst);
            if ($worst > $most) {
                $area += $areas[$n];
                $off[$n] = true;
            }
        }

        return [$whole > 0.0 && $looked > 0.0 ? min(1.0, $area / $looked * $all / $whole) : 0.0, sqrt($greatest), $off];
    }

    private function uvs(bool $inOrder): void
    {
        [$old, $new] = [$this->before->triUvs, $this->after->triUvs];
        if ($old === [] && $new === []) {
            return;
        }
        if ($inOrder) {
            $share = $this->share(function (int $i) use ($old, $new): bool {
                [$from, $to] = [$old[$i] ?? -1, $new[$i] ?? -1];

                return $from < 0 || $to < 0 ? ($from < 0) !== ($to < 0) : abs($this->before->uvs[2 * $from] - $this->after->uvs[2 * $to]) > self::UV || abs($this->before->uvs[2 * $from + 1] - $this->after->uvs[2 * $to + 1]) > self::UV;
            });
        } else {
            $share = self::heaps(self::heap($this->before, $old, $this->before->uvs, 2), self::heap($this->after, $new, $this->after->uvs, 2));
        }
        $this->tell('re-unwrapped', 'uvShare', $share);
    }

    /** Where the shape is as it was: corner normals follow a shape that changes. */
    private function shading(bool $inOrder): void
    {
        [$old, $new] = [$this->before->triNormals, $this->after->triNormals];
        if ($old === [] && $new === []) {
            $this->tell('re-shaded', 'shadingShare', $inOrder && $this->before->smoothing !== $this->after->smoothing ? $this->share(fn (int $i): bool => ($this->before->smoothing[intdiv($i, 3)] ?? 0) !== ($this->after->smoothing[intdiv($i, 3)] ?? 0)) : 0.0);

            return;
        }
        if ($old === [] || $new === []) {
            $this->tell('re-shaded', 'shadingShare', 1.0);

            return;
        }
        if (! $inOrder) {
            // Of a shape that is another, shading cannot be told from shape.
            $this->tell('re-shaded', 'shadingShare', $this->states === [] ? self::heaps(self::heap($this->before, $old, $this->before->normals, 3), self::heap($this->after, $new, $this->after->normals, 3)) : 0.0);

            return;
        }
        $beside = $this->besideOff();
        $r = $this->motion->rotation ?? [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0];
        $n = $this->before->normals;
        $m = $this->after->normals;
        $this->tell('re-shaded', 'shadingShare', $this->share(function (int $i) use ($old, $new, $n, $m, $r, $beside): bool {
            [$from, $to] = [3 * ($old[$i] ?? -1), 3 * ($new[$i] ?? -1)];
            if ($from < 0 || $to < 0 || isset($beside[$this->after->triangles[$i]])) {
                return $from < 0 xor $to < 0;
            }
            [$x, $y, $z] = [$n[$from], $n[$from + 1], $n[$from + 2]];
            $dot = ($r[0] * $x + $r[1] * $y + $r[2] * $z) * $m[$to] + ($r[3] * $x + $r[4] * $y + $r[5] * $z) * $m[$to + 1] + ($r[6] * $x + $r[7] * $y + $r[8] * $z) * $m[$to + 2];

            return $dot < self::COSINE * sqrt(($x * $x + $y * $y + $z * $z) * ($m[$to] ** 2 + $m[$to + 1] ** 2 + $m[$to + 2] ** 2));
        }));
    }

    /**
     * @return array<int, true> vertices of now at places where a triangle is not what it was
     */
    private function besideOff(): array
    {
        if ($this->off === []) {
            return [];
        }
        $welded = Weld::ofMesh($this->after);
        $places = $out = [];
        foreach (array_keys($this->off) as $triangle) {
            for ($k = 0; $k < 3; $k++) {
                $places[$welded[$this->after->triangles[3 * $triangle + $k]]] = true;
            }
        }
        foreach ($welded as $vertex => $place) {
            if (isset($places[$place])) {
                $out[$vertex] = true;
            }
        }

        return $out;
    }

    /**
     * @param  array<string, string>  $colorsBefore
     * @param  array<string, string>  $colorsAfter
     */
    private function colors(bool $inOrder, array $colorsBefore, array $colorsAfter): void
    {
        $look = static fn (Mesh $mesh, array $colors): array => array_map(static fn (int $number): string => $number < 0 ? '' : $mesh->materials[$number].' '.strtoupper(is_string($colors[$mesh->materials[$number]] ?? null) ? $colors[$mesh->materials[$number]] : ''), $mesh->triangleMaterials());
        $old = $look($this->before, $colorsBefore);
        $new = $look($this->after, $colorsAfter);
        $c = $this->before->colors;
        $e = $this->after->colors;
        if (($c === []) !== ($e === [])) {
            $share = 1.0;
        } elseif ($inOrder) {
            $share = $this->share(function (int $i) use ($old, $new, $c, $e): bool {
                $triangle = intdiv($i, 3);
                [$from, $to] = [3 * $this->before->triangles[$i], 3 * $this->after->triangles[$i]];

                return $old[$triangle] !== $new[$triangle] || ($c !== [] && max(abs($c[$from] - $e[$to]), abs($c[$from + 1] - $e[$to + 1]), abs($c[$from + 2] - $e[$to + 2])) > self::COLOR);
            });
        } else {
            // Of other triangles only which looks there are can be told.
            $share = array_diff($old, $new) === [] && array_diff($new, $old) === [] ? 0.0 : 1.0;
        }
        $this->tell('recoloured', 'colorShare', $share);
    }

    private function tell(string $state, string $key, float $share): void
    {
        if ($share > 0.0) {
            $this->states[] = $state;
            $this->measure[$key] = $share;
        }
    }

    /**
     * @param  callable(int): bool  $differs  of a corner
     * @return float share of the triangles with a corner that differs
     */
    private function share(callable $differs): float
    {
        $count = count($this->after->triangles);
        $differing = 0;
        for ($i = 0; $i < $count; $i += 3) {
            $differing += $differs($i) || $differs($i + 1) || $differs($i + 2) ? 1 : 0;
        }

        return $count === 0 ? 0.0 : $differing / ($count / 3);
    }

    /**
     * Each triangle by what its corners have, whatever corner comes first.
     *
     * @param  list<int>  $numbers  three a triangle
     * @param  list<float>  $values
     * @return array<string, int> how often
     */
    private static function heap(Mesh $mesh, array $numbers, array $values, int $size): array
    {
        $out = [];
        for ($i = 0, $count = count($mesh->triangles); $i < $count; $i += 3) {
            $corners = [];
            for ($k = 0; $k < 3; $k++) {
                $number = $numbers[$i + $k] ?? -1;
                // Adding nothing makes −0 and 0 one.
                $corners[] = $number < 0 ? '' : implode(' ', array_map(static fn (float $value): string => sprintf('%.5g', round($value, 5) + 0.0), array_slice($values, $size * $number, $size)));
            }
            sort($corners);
            $key = implode('|', $corners);
            $out[$key] = ($out[$key] ?? 0) + 1;
        }

        return $out;
    }

    /**
     * @param  array<string, int>  $old
     * @param  array<string, int>  $new
     * @return float share of the triangles of both that the other has not
     */
    private static function heaps(array $old, array $new): float
    {
        $differing = 0;
        foreach ($old + $new as $key => $any) {
            $differing += abs(($old[$key] ?? 0) - ($new[$key] ?? 0));
        }
        $all = array_sum($old) + array_sum($new);

        return $all === 0 ? 0.0 : $differing / $all;
    }
}
