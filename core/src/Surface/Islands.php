<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;

/**
 * What the UV islands of a part measure, island by island: lists side by side, in the order of their first triangles.
 */
final readonly class Islands
{
    /** A triangle of less than this share of its usual UV area has none, */
    private const FLAT = 1e-6;

    /** and one of less than this tells nothing of stretch. */
    private const SLIVER = 1e-4;

    /** The sine from which on a face is no floor or ceiling, so that it has an up. */
    private const STEEP = 0.5;

    /** What the ways up of an island's faces have in common from which on they are one. */
    private const AGREED = 0.8;

    /** A flat triangle in UV whose place is told, a part. */
    private const WHERE = 200;

    /**
     * @param  list<string>  $page  material; '' for none
     * @param  list<int>  $first  the part's own number of its first triangle
     * @param  list<int>  $triangles
     * @param  list<float>  $area  3D, square file units
     * @param  list<float>  $uvArea  squares of the page
     * @param  list<float>  $stretch  L2 of Sander et al., 1 for an isometry up to scale; 0 where it has no area
     * @param  list<float>  $minU
     * @param  list<float>  $minV
     * @param  list<float>  $maxU
     * @param  list<float>  $maxV
     * @param  list<bool>  $mirrored  wound clockwise in UV
     * @param  list<float|null>  $turned  degrees from upright, counter-clockwise, −180 to 180; null where the surface has no up
     * @param  list<array{float, float, float}>  $at  a vertex of its first triangle
     * @param  int  $flat  triangles with area in 3D and none in UV
     * @param  list<array{float, float, float}>  $flatAt
     */
    private function __construct(
        public array $page,
        public array $first,
        public array $triangles,
        public array $area,
        public array $uvArea,
        public array $stretch,
        public array $minU,
        public array $minV,
        public array $maxU,
        public array $maxV,
        public array $mirrored,
        public array $turned,
        public array $at,
        public int $flat,
        public array $flatAt,
    ) {
    }

    /**
     * Stretch: P. Sander, J. Snyder, S. Gortler, H. Hoppe, "Texture Mapping Progressive Meshes", SIGGRAPH 2001, section 3.
     *
     * @param  int  $up  the axis that points up: 1 Y, 2 Z
     */
    public static function of(Mesh $mesh, int $up): self
    {
        $islands = UvIslands::of($mesh);
        $edges = LowEdges::of($mesh);
        $none = array_fill(0, max(1, $islands->count()), 0.0);
        $triangles = array_fill(0, max(1, $islands->count()), 0);
        $area = $uvArea = $signed = $squares = $mapped = $ups = $upU = $upV = $none;
        $minU = $minV = array_fill(0, max(1, $islands->count()), INF);
        $maxU = $maxV = array_fill(0, max(1, $islands->count()), -INF);
        $p = $mesh->positions;
        $q = $mesh->uvs;
        $flat = 0;
        $flatAt = [];
        $space = array_sum($edges->areas);
        // UV area that a triangle of the part's own density would have, for each of its area.
        $usual = $space > 0.0 ? array_sum(array_map(abs(...), $islands->uvAreas)) / $space : 0.0;
        foreach ($islands->of as $t => $i) {
            if ($i < 0) {
                continue;
            }
            $a = 2 * $mesh->triUvs[3 * $t];
            $b = 2 * $mesh->triUvs[3 * $t + 1];
            $c = 2 * $mesh->triUvs[3 * $t + 2];
            [$au, $av, $bu, $bv, $cu, $cv] = [$q[$a], $q[$a + 1], $q[$b], $q[$b + 1], $q[$c], $q[$c + 1]];
            $minU[$i] = min($minU[$i], $au, $bu, $cu);
            $maxU[$i] = max($maxU[$i], $au, $bu, $cu);
            $minV[$i] = min($minV[$i], $av, $bv, $cv);
            $maxV[$i] = max($maxV[$i], $av, $bv, $cv);
            $triangles[$i]++;
            $space = $edges->areas[$t];
            $area[$i] += $space;
            $uv = $islands->uvAreas[$t];
            $a = 3 * $mesh->triangles[3 * $t];
            if (abs($uv) <= self::FLAT * $usual * $space) {
                if ($space > 0.0) {
                    $flat++;
                    if (count($flatAt) < self::WHERE) {
                        $flatAt[] = [$p[$a], $p[$a + 1], $p[$a + 2]];
                    }
                }

                continue;
            }
            $uvArea[$i] += abs($uv);
            $signed[$i] += $uv;
            // What is all but flat would outweigh everything else.
            if ($space === 0.0 || abs($uv) <= self::SLIVER * $usual * $space) {
                continue;
            }
            $b = 3 * $mesh->triangles[3 * $t + 1];
            $c = 3 * $mesh->triangles[3 * $t + 2];
            $half = 1.0 / (2.0 * $uv);
            $sum = 0.0;
            $gu = $gv = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $s = ($p[$a + $k] * ($bv - $cv) + $p[$b + $k] * ($cv - $av) + $p[$c + $k] * ($av - $bv)) * $half;
                $r = ($p[$a + $k] * ($cu - $bu) + $p[$b + $k] * ($au - $cu) + $p[$c + $k] * ($bu - $au)) * $half;
                $sum += $s * $s + $r * $r;
                if ($k === $up) {
                    [$gu, $gv] = [$s, $r];
                }
            }
            $squares[$i] += $space * $sum / 2;
            $mapped[$i] += $space;
            $length = sqrt($gu * $gu + $gv * $gv);
            $sine = sqrt(max(0.0, 1.0 - $edges->normals[3 * $t + $up] ** 2));
            if ($sine > self::STEEP && $length > 0.0) {
                $ups[$i] += $space;
                $upU[$i] += $space * $gu / $length;
                $upV[$i] += $space * $gv / $length;
            }
        }
        $materials = $mesh->triangleMaterials();
        $page = $at = $stretch = $turned = $mirrored = [];
        foreach ($islands->first as $i => $t) {
            $page[] = $mesh->materials[$materials[$t]] ?? '';
            $v = 3 * $mesh->triangles[3 * $t];
            $at[] = [$p[$v], $p[$v + 1], $p[$v + 2]];
            $stretch[] = $mapped[$i] > 0.0 ? sqrt($squares[$i] / $mapped[$i]) * sqrt($uvArea[$i] / $mapped[$i]) : 0.0;
            $mirrored[] = $signed[$i] < 0.0;
            $agreed = sqrt($upU[$i] ** 2 + $upV[$i] ** 2);
            $turned[] = $ups[$i] > 0.5 * $area[$i] && $agreed > self::AGREED * $ups[$i] ? rad2deg(atan2(-$upU[$i], $upV[$i])) : null;
        }
        $n = $islands->count();

        return new self(
            $page, $islands->first, array_slice($triangles, 0, $n), array_slice($area, 0, $n), array_slice($uvArea, 0, $n), $stretch, array_slice($minU, 0, $n), array_slice($minV, 0, $n), array_slice($maxU, 0, $n),
            array_slice($maxV, 0, $n), $mirrored, $turned, $at, $flat, $flatAt,
        );
    }

    public function count(): int
    {
        return count($this->first);
    }

    /**
     * The tile that an island's middle lies in.
     *
     * @return array{int, int}
     */
    public function tile(int $island): array
    {
        return [(int) floor(($this->minU[$island] + $this->maxU[$island]) / 2), (int) floor(($this->minV[$island] + $this->maxV[$island]) / 2)];
    }

    /** How far an island sticks out of its tile, in pages; negative: its gap to the nearest side. */
    public function over(int $island): float
    {
        [$u, $v] = $this->tile($island);

        return max($u - $this->minU[$island], $this->maxU[$island] - $u - 1, $v - $this->minV[$island], $this->maxV[$island] - $v - 1);
    }

    /** Texels to a unit of length at a map size; 0 where it has no area. */
    public function density(int $island, int $mapSize): float
    {
        return $this->area[$island] > 0.0 ? $mapSize * sqrt($this->uvArea[$island] / $this->area[$island]) : 0.0;
    }

    /** By what an island is known over deliveries, within its part: its place on the page and its size. */
    public function key(int $island): string
    {
        return hash('crc32b', sprintf('%d %.5f %.5f %.5f %.5f', $this->triangles[$island], $this->minU[$island], $this->minV[$island], $this->maxU[$island], $this->maxV[$island]));
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['page' => $this->page, 'first' => $this->first, 'triangles' => $this->triangles, 'area' => $this->area, 'uvArea' => $this->uvArea, 'stretch' => $this->stretch, 'minU' => $this->minU, 'minV' => $this->minV, 'maxU' => $this->maxU, 'maxV' => $this->maxV, 'mirrored' => $this->mirrored, 'turned' => $this->turned, 'at' => $this->at, 'flat' => $this->flat, 'flatAt' => $this->flatAt];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{page: list<string>, first: list<int>, triangles: list<int>, area: list<float>, uvArea: list<float>, stretch: list<float>, minU: list<float>, minV: list<float>, maxU: list<float>, maxV: list<float>, mirrored: list<bool>, turned: list<float|null>, at: list<array{float, float, float}>, flat: int, flatAt: list<array{float, float, float}>} $stored */
        return new self(
            $stored['page'], $stored['first'], $stored['triangles'], $stored['area'], $stored['uvArea'], $stored['stretch'], $stored['minU'], $stored['minV'], $stored['maxU'], $stored['maxV'],
            $stored['mirrored'], $stored['turned'], $stored['at'], $stored['flat'], $stored['flatAt'],
        );
    }
}
