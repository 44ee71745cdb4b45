<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Triangles as flat lists, in world space and file units.
 *
 * `triangles`, `triUvs` and `triNormals` run side by side, three entries a triangle; an entry of −1 means that the corner has none.
 * Empty `triUvs` or `triNormals`: no corner has any. `faces` gives the file's own face of each triangle and is empty
 * where every face is a triangle.
 */
final class Mesh
{
    /**
     * @param  list<float>  $positions  xyz, n×3, each a float32 value
     * @param  list<int>  $triangles  three position numbers a triangle
     * @param  list<float>  $uvs  uv, n×2
     * @param  list<int>  $triUvs  three UV numbers a triangle
     * @param  list<float>  $normals  xyz, n×3, as the file has them
     * @param  list<int>  $triNormals  three normal numbers a triangle
     * @param  list<float>  $colors  linear order rgb of sRGB values 0–1, one a position, n×3, or empty
     * @param  list<int>  $faces  face number of each triangle, or empty
     * @param  list<string>  $materials  names, in order of first use
     * @param  list<array{int, int}>  $materialRuns  [first triangle, material number or −1], ascending
     * @param  list<int>  $smoothing  smoothing group of each triangle, 0 for none, or empty where the file says nothing
     * @param  list<float>  $tangents  xyzw, n×4, numbered as the normals, w the sign of the bitangent `w·(n×t)` with V upward; or empty
     */
    public function __construct(
        public readonly array $positions,
        public readonly array $triangles,
        public readonly array $uvs = [],
        public readonly array $triUvs = [],
        public readonly array $normals = [],
        public readonly array $triNormals = [],
        public readonly array $colors = [],
        public readonly array $faces = [],
        public readonly array $materials = [],
        public readonly array $materialRuns = [],
        public readonly array $smoothing = [],
        public readonly array $tangents = [],
    ) {
    }

    public function triangleCount(): int
    {
        return intdiv(count($this->triangles), 3);
    }

    public function vertexCount(): int
    {
        return intdiv(count($this->positions), 3);
    }

    public function bounds(): ?Bounds
    {
        return Bounds::ofPositions($this->positions);
    }

    /**
     * The same faces over other places; normals stay those of the surface that it came from.
     *
     * @param  list<float>  $positions
     */
    public function withPositions(array $positions): self
    {
        return new self(Bytes::toFloat32($positions), $this->triangles, $this->uvs, $this->triUvs, $this->normals, $this->triNormals, [], $this->faces, $this->materials, $this->materialRuns, $this->smoothing, $this->tangents);
    }

    /** UVs, normals and colours as float32, as positions are when they are read: what is stored and read back is the same to the bit. */
    public function asFloat32(): self
    {
        return $this->uvs === [] && $this->normals === [] && $this->colors === [] && $this->tangents === [] ? $this : new self(
            $this->positions, $this->triangles, Bytes::toFloat32($this->uvs), $this->triUvs, Bytes::toFloat32($this->normals), $this->triNormals,
            Bytes::toFloat32($this->colors), $this->faces, $this->materials, $this->materialRuns, $this->smoothing, Bytes::toFloat32($this->tangents),
        );
    }

    /**
     * The same surface in other materials, without vertex colours.
     *
     * @param  list<string>  $materials
     * @param  list<array{int, int}>  $runs
     */
    public function wearing(array $materials, array $runs): self
    {
        return new self($this->positions, $this->triangles, $this->uvs, $this->triUvs, $this->normals, $this->triNormals, [], $this->faces, $materials, $runs, $this->smoothing, $this->tangents);
    }

    /**
     * @return list<int> the material number of each triangle, −1 for none
     */
    public function triangleMaterials(): array
    {
        $out = [];
        $count = $this->triangleCount();
        $current = -1;
        $next = 0;
        $runs = $this->materialRuns;
        $runCount = count($runs);
        for ($t = 0; $t < $count; $t++) {
            while ($next < $runCount && $runs[$next][0] <= $t) {
                $current = $runs[$next][1];
                $next++;
            }
            $out[] = $current;
        }

        return $out;
    }

    /**
     * @return list<float> 3D area of each triangle
     */
    public function triangleAreas(): array
    {
        $p = $this->positions;
        $t = $this->triangles;
        $out = [];
        for ($i = 0, $n = count($t); $i < $n; $i += 3) {
            $a = 3 * $t[$i];
            $b = 3 * $t[$i + 1];
            $c = 3 * $t[$i + 2];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $out[] = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2) / 2;
        }

        return $out;
    }

    /** In squares of the page, of the triangles that have UVs. */
    public function uvArea(): float
    {
        $t = $this->uvs;
        $area = 0.0;
        for ($i = 0, $n = count($this->triUvs); $i < $n; $i += 3) {
            $d = $this->triUvs[$i];
            $e = $this->triUvs[$i + 1];
            $f = $this->triUvs[$i + 2];
            if ($d >= 0 && $e >= 0 && $f >= 0) {
                $area += abs(($t[2 * $e] - $t[2 * $d]) * ($t[2 * $f + 1] - $t[2 * $d + 1]) - ($t[2 * $f] - $t[2 * $d]) * ($t[2 * $e + 1] - $t[2 * $d + 1])) / 2;
            }
        }

        return $area;
    }

    /** Corners that carry no UV. */
    public function cornersWithoutUv(): int
    {
        if ($this->triUvs === []) {
            return count($this->triangles);
        }
        $missing = 0;
        foreach ($this->triUvs as $uv) {
            if ($uv < 0) {
                $missing++;
            }
        }

        return $missing;
    }

    public function hasNormals(): bool
    {
        return $this->triNormals !== [] && ! in_array(-1, $this->triNormals, true);
    }

    /**
     * @param  array{float, float, float}  $by
     */
    public function moved(array $by): self
    {
        $positions = $this->positions;
        $count = count($positions);
        $moved = [];
        for ($i = 0; $i < $count; $i += 3) {
            $moved[] = $positions[$i] + $by[0];
            $moved[] = $positions[$i + 1] + $by[1];
            $moved[] = $positions[$i + 2] + $by[2];
        }

        return $this->reshaped($moved, $this->normals, $this->tangents);
    }

    /** Placed by a matrix: positions as float32, normals made unit again, the winding put right where it mirrors. */
    public function placedBy(Matrix $matrix): self
    {
        if ($matrix->isIdentity()) {
            return $this;
        }
        $turned = $this->reshaped(Bytes::toFloat32($matrix->points($this->positions)), $this->normals === [] ? [] : $matrix->normals($this->normals), $this->tangents === [] ? [] : $matrix->tangents($this->tangents));

        return $matrix->determinant() < 0.0 ? $turned->wound() : $turned;
    }

    /** The same with each triangle wound the other way round. */
    public function wound(): self
    {
        return new self(
            $this->positions, self::otherWay($this->triangles), $this->uvs, self::otherWay($this->triUvs), $this->normals, self::otherWay($this->triNormals),
            $this->colors, $this->faces, $this->materials, $this->materialRuns, $this->smoothing, $this->tangents,
        );
    }

    /**
     * @param  list<float>  $positions
     * @param  list<float>  $normals
     * @param  list<float>  $tangents
     */
    private function reshaped(array $positions, array $normals, array $tangents): self
    {
        return new self($positions, $this->triangles, $this->uvs, $this->triUvs, $normals, $this->triNormals, $this->colors, $this->faces, $this->materials, $this->materialRuns, $this->smoothing, $tangents);
    }

    /**
     * @param  list<int>  $corners
     * @return list<int>
     */
    private static function otherWay(array $corners): array
    {
        $out = [];
        for ($i = 0, $n = count($corners); $i + 2 < $n; $i += 3) {
            $out[] = $corners[$i];
            $out[] = $corners[$i + 2];
            $out[] = $corners[$i + 1];
        }

        return $out;
    }
}
