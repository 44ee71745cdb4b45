<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\HalfEdges;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Shells;
use Anvil\Geometry\Weld;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;

/**
 * Which labels of surfaces touch: they share an edge of a mesh, or a vertex of one lies within a distance of a face of the other, where
 * these are on different parts or shells.
 */
final class TouchGraph
{
    /** A part of more shells than this is looked at as one: only its edges tell. */
    private const SHELLS = 64;

    /** @var array<int, array{int, int}> by the lower times 2^24 plus the higher */
    private array $pairs = [];

    private function __construct()
    {
    }

    /**
     * @param  list<array{Mesh, int|list<int>}>  $parts  with one label for all triangles, or one each; negative: none
     * @param  float  $within  so near two surfaces touch, in file units
     * @param  iterable<array{int, int}>  $known  that are known to touch
     * @return list<array{int, int}> lower first, in order
     */
    public static function of(array $parts, float $within, iterable $known = []): array
    {
        $graph = new self;
        foreach ($known as [$one, $two]) {
            $graph->join($one, $two);
        }
        /** @var list<TouchBody> $bodies */
        $bodies = [];
        foreach ($parts as [$mesh, $labels]) {
            if ($mesh->triangles === []) {
                continue;
            }
            if (is_int($labels)) {
                $bodies[] = new TouchBody($mesh->positions, $mesh->triangles, $labels);

                continue;
            }
            $graph->alongEdges($mesh, $labels);
            foreach (self::shells($mesh, $labels) as $body) {
                $bodies[] = $body;
            }
        }
        foreach ($bodies as $i => $one) {
            for ($j = 0; $j < $i; $j++) {
                $two = $bodies[$j];
                if ($one->bounds->grown($within)->meets($two->bounds) && ! ($one->only !== null && $one->only === $two->only)) {
                    $graph->across($one, $two, $within);
                    $graph->across($two, $one, $within);
                }
            }
        }
        ksort($graph->pairs);

        return array_values($graph->pairs);
    }

    /**
     * @param  list<int>  $labels
     */
    private function alongEdges(Mesh $mesh, array $labels): void
    {
        $edges = HalfEdges::of($mesh->triangles, Weld::ofMesh($mesh), str_repeat('0', $mesh->triangleCount()));
        foreach ($edges->halves as $e => $both) {
            $h = ($both >> 32) - 1;
            if ($h < 0) {
                continue;
            }
            $a = $labels[intdiv($both & 0xFFFFFFFF, 3)];
            $b = $labels[intdiv($h, 3)];
            if ($a !== $b) {
                $this->join($a, $b);
            }
            foreach ($edges->more[$e] ?? [] as $other) {
                $this->join($a, $labels[intdiv($other, 3)]);
                $this->join($b, $labels[intdiv($other, 3)]);
            }
        }
    }

    /**
     * @param  list<int>  $labels
     * @return list<TouchBody>
     */
    private static function shells(Mesh $mesh, array $labels): array
    {
        $shells = Shells::ofMesh($mesh);
        $all = array_unique($shells);
        if (count($all) === 1 || count($all) > self::SHELLS) {
            return [new TouchBody($mesh->positions, $mesh->triangles, $labels)];
        }
        $triangles = $of = [];
        foreach ($shells as $t => $shell) {
            $triangles[$shell][] = $mesh->triangles[3 * $t];
            $triangles[$shell][] = $mesh->triangles[3 * $t + 1];
            $triangles[$shell][] = $mesh->triangles[3 * $t + 2];
            $of[$shell][] = $labels[$t];
        }
        $out = [];
        foreach ($triangles as $shell => $own) {
            $out[] = new TouchBody($mesh->positions, $own, $of[$shell]);
        }

        return $out;
    }

    /** The vertices of one body against the faces of another: a coarse drum in a fine ring is met by the ring's alone, so both ways are asked. */
    private function across(TouchBody $from, TouchBody $to, float $within): void
    {
        $box = $to->bounds->grown($within);
        $nearest = null;
        $labels = [];
        foreach ($from->vertices() as $v => $label) {
            $x = $from->positions[3 * $v];
            $y = $from->positions[3 * $v + 1];
            $z = $from->positions[3 * $v + 2];
            if ($label < 0 || $x < $box->min[0] || $y < $box->min[1] || $z < $box->min[2] || $x > $box->max[0] || $y > $box->max[1] || $z > $box->max[2]) {
                continue;
            }
            if ($nearest === null) {
                [$near, $labels] = $to->inside($from->bounds->grown($within));
                if ($near === []) {
                    return;
                }
                $nearest = new NearestPoint(TriangleTree::of($to->positions, $near));
            }
            $t = $nearest->find($x, $y, $z, $within);
            if ($t >= 0) {
                $this->join($label, $labels[$t]);
                // Two bodies of one label each can do no more than touch.
                if ($from->only !== null && $to->only !== null) {
                    return;
                }
            }
        }
    }

    private function join(int $one, int $two): void
    {
        if ($one !== $two && $one >= 0 && $two >= 0) {
            $low = min($one, $two);
            $high = max($one, $two);
            $this->pairs[$low << 24 | $high] ??= [$low, $high];
        }
    }
}
