<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Geometry\Triangulation;

/**
 * Faces of any size becoming triangles while a file is read: three vertex numbers each, and the file's own face of each where some
 * face had more corners.
 *
 * @internal
 */
final class PolygonSoup
{
    /** @var list<int> */
    public array $triangles = [];

    /** @var list<int> */
    public array $triUvs = [];

    /** @var list<float> UVs a corner, where the file has them so */
    public array $uvs = [];

    /** @var list<int> face of each triangle; empty while every face is a triangle */
    public array $faces = [];

    private int $faceCount = 0;

    /**
     * @param  list<int>  $corners  three a triangle
     */
    public function addTriangles(array $corners): void
    {
        foreach ($corners as $corner) {
            $this->triangles[] = $corner;
        }
        $count = intdiv(count($corners), 3);
        if ($this->faces !== [] && $count > 0) {
            array_push($this->faces, ...range($this->faceCount, $this->faceCount + $count - 1));
        }
        $this->faceCount += $count;
        if ($this->uvs !== []) {
            array_push($this->triUvs, ...array_fill(0, count($corners), -1));
        }
    }

    /**
     * @param  list<int>  $corners  vertex numbers
     * @param  list<float>  $positions  xyz by vertex number
     * @param  list<float>|null  $uvs  two a corner
     * @return list<int> which corners the triangles took, three each
     */
    public function addPolygon(array $corners, array $positions, ?array $uvs = null): array
    {
        $count = count($corners);
        if ($count < 3) {
            return [];
        }
        $cut = [0, 1, 2];
        if ($count > 3) {
            $xyz = [];
            foreach ($corners as $v) {
                $xyz[] = $positions[3 * $v];
                $xyz[] = $positions[3 * $v + 1];
                $xyz[] = $positions[3 * $v + 2];
            }
            $cut = Triangulation::of($xyz);
            if ($this->faces === [] && $this->faceCount > 0) {
                $this->faces = range(0, $this->faceCount - 1);
            }
            for ($i = 3, $n = count($cut); $i <= $n; $i += 3) {
                $this->faces[] = $this->faceCount;
            }
        } elseif ($this->faces !== []) {
            $this->faces[] = $this->faceCount;
        }
        $this->faceCount++;
        $before = count($this->triangles);
        foreach ($cut as $corner) {
            $this->triangles[] = $corners[$corner];
        }
        if ($uvs !== null) {
            if ($this->uvs === [] && $before > 0) {
                $this->triUvs = array_fill(0, $before, -1);
            }
            $base = intdiv(count($this->uvs), 2);
            foreach ($uvs as $value) {
                $this->uvs[] = $value;
            }
            foreach ($cut as $corner) {
                $this->triUvs[] = $base + $corner;
            }
        } elseif ($this->uvs !== []) {
            foreach ($cut as $_) {
                $this->triUvs[] = -1;
            }
        }

        return $cut;
    }
}
