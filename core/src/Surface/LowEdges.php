<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;
use WeakMap;

/**
 * What lies beyond each half-edge of a mesh (3·triangle + corner), and whether it is a seam and hard (METHODS, "Parts and topology").
 */
final class LowEdges
{
    /** Two corners this close in UV are one. */
    private const SAME_UV = 1e-6;

    /** Cosine of the 1° from which two corner normals make an edge hard. */
    private const HARD = 0.99984769515639;

    /** @var WeakMap<Mesh, self>|null what is asked of one mesh again and again */
    private static ?WeakMap $known = null;

    /**
     * @param  list<int>  $twins  half-edge → the one on the other side, −1 at a border; of an edge with more than two, the first for all after the second
     * @param  list<bool>  $seams  half-edge → whether it is a UV seam; a border is one
     * @param  list<bool>|null  $hard  half-edge → whether it is hard; null where the file tells nothing of how it is shaded
     * @param  list<float>  $normals  unit, xyz a triangle; 0 where it has no area
     * @param  list<float>  $areas  3D, a triangle
     */
    private function __construct(
        public readonly array $twins,
        public readonly array $seams,
        public readonly ?array $hard,
        public readonly array $normals,
        public readonly array $areas,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        self::$known ??= new WeakMap;

        return self::$known[$mesh] ??= self::made($mesh);
    }

    /** The corner after a half-edge's own. */
    public static function after(int $half): int
    {
        return $half % 3 === 2 ? $half - 2 : $half + 1;
    }

    /** Degrees by which the faces on both sides of a half-edge turn; null at a border or beside a face without area. */
    public function turn(int $half): ?float
    {
        $twin = $this->twins[$half];
        if ($twin < 0) {
            return null;
        }
        $a = 3 * intdiv($half, 3);
        $b = 3 * intdiv($twin, 3);
        $n = $this->normals;
        if (($n[$a] === 0.0 && $n[$a + 1] === 0.0 && $n[$a + 2] === 0.0) || ($n[$b] === 0.0 && $n[$b + 1] === 0.0 && $n[$b + 2] === 0.0)) {
            return null;
        }

        return rad2deg(acos(max(-1.0, min(1.0, $n[$a] * $n[$b] + $n[$a + 1] * $n[$b + 1] + $n[$a + 2] * $n[$b + 2]))));
    }

    private static function made(Mesh $mesh): self
    {
        $welded = Weld::ofMesh($mesh);
        $tri = $mesh->triangles;
        $count = count($tri);
        $first = [];
        $twins = $count === 0 ? [] : array_fill(0, $count, -1);
        for ($t = 0; $t < $count; $t += 3) {
            for ($k = 0; $k < 3; $k++) {
                $half = $t + $k;
                $from = $welded[$tri[$half]];
                $to = $welded[$tri[$k === 2 ? $t : $half + 1]];
                if ($from === $to) {
                    continue;
                }
                $key = $from < $to ? $from << 32 | $to : $to << 32 | $from;
                $other = $first[$key] ?? -1;
                if ($other < 0) {
                    $first[$key] = $half;
                } else {
                    $twins[$half] = $other;
                    if ($twins[$other] < 0) {
                        $twins[$other] = $half;
                    }
                }
            }
        }
        unset($first);
        $materials = count($mesh->materialRuns) > 1 ? $mesh->triangleMaterials() : [];
        $knowsHard = $mesh->triNormals !== [] || $mesh->smoothing !== [];
        [$normals, $areas] = self::faces($mesh);
        $seams = $hard = [];
        for ($half = 0; $half < $count; $half++) {
            $twin = $twins[$half];
            if ($twin < 0) {
                $seams[] = true;
                $hard[] = false;

                continue;
            }
            $after = $half % 3 === 2 ? $half - 2 : $half + 1;
            $beyond = $twin % 3 === 2 ? $twin - 2 : $twin + 1;
            // Neighbors run along their edge in opposite ways; flipped ones the same way.
            if ($welded[$tri[$half]] === $welded[$tri[$twin]]) {
                [$twin, $beyond] = [$beyond, $twin];
            }
            $t = intdiv($half, 3);
            $o = intdiv($twin, 3);
            $seams[] = ($materials !== [] && $materials[$t] !== $materials[$o]) || ! self::sameUv($mesh, $half, $beyond) || ! self::sameUv($mesh, $after, $twin);
            $hard[] = $knowsHard && $areas[$t] > 0.0 && $areas[$o] > 0.0 && self::isHard($mesh, $half, $after, $beyond, $twin);
        }

        return new self(array_values($twins), $seams, $knowsHard ? $hard : null, $normals, $areas);
    }

    private static function sameUv(Mesh $mesh, int $a, int $b): bool
    {
        if ($mesh->triUvs === []) {
            return false;
        }
        $a = $mesh->triUvs[$a];
        $b = $mesh->triUvs[$b];

        return $a >= 0 && $b >= 0 && ($a === $b || (abs($mesh->uvs[2 * $a] - $mesh->uvs[2 * $b]) <= self::SAME_UV
            && abs($mesh->uvs[2 * $a + 1] - $mesh->uvs[2 * $b + 1]) <= self::SAME_UV));
    }

    /**
     * Whether corner normals differ by over 1° at either end of an edge; by smoothing groups where there are no normals.
     *
     * @param  int  $from  corner of one face at one end, and at the other
     * @param  int  $atFrom  corners of the other face in the same places
     */
    public static function isHard(Mesh $mesh, int $from, int $to, int $atFrom, int $atTo): bool
    {
        if ($mesh->triNormals === []) {
            $a = $mesh->smoothing[intdiv($from, 3)];
            $b = $mesh->smoothing[intdiv($atFrom, 3)];

            return $a === 0 || $a !== $b;
        }

        return self::differ($mesh, $from, $atFrom) || self::differ($mesh, $to, $atTo);
    }

    private static function differ(Mesh $mesh, int $one, int $two): bool
    {
        $a = 3 * $mesh->triNormals[$one];
        $b = 3 * $mesh->triNormals[$two];
        if ($a < 0 || $b < 0 || $a === $b) {
            return false;
        }
        $n = $mesh->normals;
        $lengths = ($n[$a] ** 2 + $n[$a + 1] ** 2 + $n[$a + 2] ** 2) * ($n[$b] ** 2 + $n[$b + 1] ** 2 + $n[$b + 2] ** 2);

        return $lengths > 0.0 && self::HARD * sqrt($lengths) > $n[$a] * $n[$b] + $n[$a + 1] * $n[$b + 1] + $n[$a + 2] * $n[$b + 2];
    }

    /**
     * @return array{list<float>, list<float>} unit normals and areas; zero for a face without area (relative 1e-12)
     */
    private static function faces(Mesh $mesh): array
    {
        $p = $mesh->positions;
        $tri = $mesh->triangles;
        $normals = $areas = [];
        for ($i = 0, $count = count($tri); $i < $count; $i += 3) {
            $a = 3 * $tri[$i];
            $b = 3 * $tri[$i + 1];
            $c = 3 * $tri[$i + 2];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
            $length = sqrt($x * $x + $y * $y + $z * $z);
            if ($length <= 1e-12 * ($ux * $ux + $uy * $uy + $uz * $uz + $vx * $vx + $vy * $vy + $vz * $vz)) {
                array_push($normals, 0.0, 0.0, 0.0);
                $areas[] = 0.0;

                continue;
            }
            $normals[] = $x / $length;
            $normals[] = $y / $length;
            $normals[] = $z / $length;
            $areas[] = $length / 2;
        }

        return [$normals, $areas];
    }
}
