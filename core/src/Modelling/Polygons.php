<?php

declare(strict_types=1);

namespace Anvil\Modelling;

use Anvil\Geometry\Bytes;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Triangulation;

/**
 * Polygons with UVs, put together by code: what demo assets, fixtures and benches are made of.
 *
 * Points, UVs and faces are plain nested lists: handy rather than fast.
 */
final class Polygons
{
    /**
     * @param  list<array{float, float, float}>  $points
     * @param  list<list<int>>  $faces  point numbers, counter-clockwise from outside
     * @param  list<list<array{float, float}>>  $uvs  a list a face, or empty
     */
    public function __construct(public array $points = [], public array $faces = [], public array $uvs = [])
    {
    }

    /** Joined with another; nothing is welded. */
    public function with(self $other): self
    {
        $base = count($this->points);
        $faces = $this->faces;
        foreach ($other->faces as $face) {
            $faces[] = array_map(static fn (int $v): int => $v + $base, $face);
        }
        $bothUv = count($this->uvs) === count($this->faces) && count($other->uvs) === count($other->faces);

        return new self([...$this->points, ...$other->points], $faces, $bothUv ? [...$this->uvs, ...$other->uvs] : []);
    }

    /**
     * @param  list<self>  $all
     */
    public static function join(array $all): self
    {
        $out = new self;
        foreach ($all as $one) {
            $base = count($out->points);
            foreach ($one->points as $point) {
                $out->points[] = $point;
            }
            foreach ($one->faces as $k => $face) {
                $out->faces[] = array_map(static fn (int $v): int => $v + $base, $face);
                if (isset($one->uvs[$k])) {
                    $out->uvs[] = $one->uvs[$k];
                }
            }
        }
        if (count($out->uvs) !== count($out->faces)) {
            $out->uvs = [];
        }

        return $out;
    }

    public function moved(float $x, float $y, float $z): self
    {
        return $this->mapped(static fn (array $p): array => [$p[0] + $x, $p[1] + $y, $p[2] + $z]);
    }

    public function scaled(float $x, float $y, float $z): self
    {
        $out = $this->mapped(static fn (array $p): array => [$p[0] * $x, $p[1] * $y, $p[2] * $z]);

        return $x * $y * $z < 0 ? $out->flipped() : $out;
    }

    /** About an axis (0 x, 1 y, 2 z), in degrees, counter-clockwise seen from its tip. */
    public function turned(int $axis, float $degrees): self
    {
        $c = cos(deg2rad($degrees));
        $s = sin(deg2rad($degrees));
        $a = ($axis + 1) % 3;
        $b = ($axis + 2) % 3;

        return $this->mapped(static function (array $p) use ($a, $b, $c, $s): array {
            $q = $p;
            $q[$a] = $c * $p[$a] - $s * $p[$b];
            $q[$b] = $s * $p[$a] + $c * $p[$b];

            return [$q[0], $q[1], $q[2]];
        });
    }

    /** Wound the other way. */
    /** Every face cut into a fan of triangles. */
    public function triangulated(): self
    {
        $faces = $uvs = [];
        foreach ($this->faces as $f => $face) {
            for ($i = 1, $n = count($face); $i + 1 < $n; $i++) {
                $faces[] = [$face[0], $face[$i], $face[$i + 1]];
                if (isset($this->uvs[$f])) {
                    $uvs[] = [$this->uvs[$f][0], $this->uvs[$f][$i], $this->uvs[$f][$i + 1]];
                }
            }
        }

        return new self($this->points, $faces, $uvs);
    }

    public function flipped(): self
    {
        return new self($this->points, array_map(array_reverse(...), $this->faces), array_map(array_reverse(...), $this->uvs));
    }

    /**
     * @param  callable(array{float, float, float}): array{float, float, float}  $map
     */
    public function mapped(callable $map): self
    {
        return new self(array_map($map, $this->points), $this->faces, $this->uvs);
    }

    /** UVs scaled and moved on the page. */
    public function placed(float $u, float $v, float $scaleU, ?float $scaleV = null): self
    {
        $scaleV ??= $scaleU;
        $uvs = [];
        foreach ($this->uvs as $face) {
            $uvs[] = array_map(static fn (array $uv): array => [$u + $scaleU * $uv[0], $v + $scaleV * $uv[1]], $face);
        }

        return new self($this->points, $this->faces, $uvs);
    }

    /**
     * A mesh with normals: faces meeting at under `angle` degrees are smooth over their edge.
     *
     * @param  list<array{int, string}>  $materialOfFace  runs: [first face, material]
     */
    public function mesh(float $angle = 40.0, array $materialOfFace = []): Mesh
    {
        $flat = [];
        foreach ($this->points as $p) {
            array_push($flat, $p[0], $p[1], $p[2]);
        }
        $positions = Bytes::toFloat32($flat);
        $place = [];
        $placeOf = [];
        foreach (array_chunk($positions, 3) as $i => $p) {
            $placeOf[$i] = $place[pack('g3', ...$p)] ??= $i;
        }
        $normals = array_map(fn (array $face): array => $this->newell($face, $positions), $this->faces);
        $around = [];
        foreach ($this->faces as $f => $face) {
            foreach ($face as $v) {
                $around[$placeOf[$v]][] = $f;
            }
        }
        $cos = cos(deg2rad($angle));
        $triangles = $triUvs = $triNormals = $uvs = $outNormals = $faceOf = $runs = $materials = [];
        $normalNumber = $uvNumber = [];
        $next = 0;
        $hasUv = count($this->uvs) === count($this->faces);
        foreach ($this->faces as $f => $face) {
            while (isset($materialOfFace[$next]) && $materialOfFace[$next][0] <= $f) {
                $name = $materialOfFace[$next++][1];
                if (! in_array($name, $materials, true)) {
                    $materials[] = $name;
                }
                $runs[] = [intdiv(count($triangles), 3), (int) array_search($name, $materials, true)];
            }
            $xyz = $cornerNormal = $cornerUv = [];
            foreach ($face as $k => $v) {
                array_push($xyz, $positions[3 * $v], $positions[3 * $v + 1], $positions[3 * $v + 2]);
                $sum = [0.0, 0.0, 0.0];
                foreach ($around[$placeOf[$v]] as $g) {
                    $dot = $normals[$f][0] * $normals[$g][0] + $normals[$f][1] * $normals[$g][1] + $normals[$f][2] * $normals[$g][2];
                    if ($g === $f || $dot >= $cos * $normals[$f][3] * $normals[$g][3]) {
                        for ($c = 0; $c < 3; $c++) {
                            $sum[$c] += $normals[$g][$c];
                        }
                    }
                }
                $length = sqrt($sum[0] ** 2 + $sum[1] ** 2 + $sum[2] ** 2) ?: 1.0;
                $unit = [round($sum[0] / $length, 6), round($sum[1] / $length, 6), round($sum[2] / $length, 6)];
                $key = implode(' ', $unit);
                if (! isset($normalNumber[$key])) {
                    $normalNumber[$key] = count($normalNumber);
                    // Rounded for sharing, then unit again.
                    $length = sqrt($unit[0] ** 2 + $unit[1] ** 2 + $unit[2] ** 2) ?: 1.0;
                    array_push($outNormals, $unit[0] / $length, $unit[1] / $length, $unit[2] / $length);
                }
                $cornerNormal[] = $normalNumber[$key];
                if ($hasUv) {
                    $key = sprintf('%.9F %.9F', ...$this->uvs[$f][$k]);
                    if (! isset($uvNumber[$key])) {
                        $uvNumber[$key] = count($uvNumber);
                        array_push($uvs, $this->uvs[$f][$k][0], $this->uvs[$f][$k][1]);
                    }
                    $cornerUv[] = $uvNumber[$key];
                }
            }
            foreach (Triangulation::of($xyz) as $i => $corner) {
                $triangles[] = $face[$corner];
                $triNormals[] = $cornerNormal[$corner];
                if ($hasUv) {
                    $triUvs[] = $cornerUv[$corner];
                }
                if ($i % 3 === 0) {
                    $faceOf[] = $f;
                }
            }
        }

        return new Mesh($positions, $triangles, $uvs, $triUvs, $outNormals, $triNormals, [], count($faceOf) === count($this->faces) ? [] : $faceOf, $materials, $runs);
    }

    /**
     * @param  list<int>  $face
     * @param  list<float>  $positions
     * @return array{float, float, float, float} normal times twice the area, and its length
     */
    private function newell(array $face, array $positions): array
    {
        $x = $y = $z = 0.0;
        $n = count($face);
        foreach ($face as $k => $v) {
            $w = $face[($k + 1) % $n];
            [$ax, $ay, $az] = [$positions[3 * $v], $positions[3 * $v + 1], $positions[3 * $v + 2]];
            [$bx, $by, $bz] = [$positions[3 * $w], $positions[3 * $w + 1], $positions[3 * $w + 2]];
            $x += ($ay - $by) * ($az + $bz);
            $y += ($az - $bz) * ($ax + $bx);
            $z += ($ax - $bx) * ($ay + $by);
        }

        return [$x, $y, $z, sqrt($x * $x + $y * $y + $z * $z)];
    }
}
