<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshHealth;
use Anvil\Geometry\SurfacePoints;
use Anvil\Geometry\Weld;
use Anvil\Rays\HighSurface;
use Anvil\Rays\LowSurface;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;

/**
 * Which shells of a set, low or high, face the wrong way: a low shell that faces away from its high, a high shell that its low meets from
 * behind (CHECKS, `mesh-flipped`). Where the two disagree, the one is told that its closedness, its own corner normals or its shape
 * gives away; where nothing does, the low one.
 */
final readonly class Facing
{
    /** High surface further than this share of d says nothing. */
    private const NEAR = 0.05;

    private const SAME = 1e-4;

    private const LOW_POINTS = 720;

    private const HIGH_POINTS = 20_000;

    private const MOST_A_SHELL = 24;

    private const LEAST_A_SHELL = 4;

    /**
     * @param  array<int, true>  $lowTriangles  of the set's low surface: in shells that face the wrong way, by themselves or against their high, and those wound against their neighbours with what lies around them
     * @param  list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>  $low  shells that face away from their high and are not inside out by themselves
     * @param  array<int, true>  $highShells
     * @param  list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>  $high  shells that their low meets from behind
     */
    private function __construct(public array $lowTriangles = [], public array $low = [], public array $highShells = [], public array $high = [])
    {
    }

    public static function of(SetSurfaces $set): self
    {
        $low = $set->low();
        $high = $set->high();
        $d = $set->lowBounds()?->diagonal() ?? 0.0;
        if ($d <= 0.0 || $low->triangles === [] || $high->triangles === []) {
            return new self;
        }
        [$bad, $insideOut] = self::byThemselves($set);
        $lowShells = self::byShell($low->shells);
        $away = self::away($set, $low, $high, $d, $lowShells);
        $behind = self::behind($low, $high, $d);
        $lowFound = $highFound = $highNumbers = [];
        foreach ($away as $shell => $where) {
            if (! isset($insideOut[$shell])) {
                $lowFound[$shell] = $where;
            }
        }
        foreach ($behind as $shell => [$where, $lowShell, $triangles]) {
            // A low shell that is inside out sees a sound high from behind.
            if (isset($insideOut[$lowShell])) {
                continue;
            }
            $shape = ShellShape::of($high->positions, $high->triangles, $high->welded(), $triangles);
            if ($shape->isRightWayRound() || (! $shape->isInsideOut() && isset($away[$lowShell]) && ! self::isHigh($set, $low, $lowShells[$lowShell], $high, $triangles, $shape))) {
                continue;
            }
            unset($lowFound[$lowShell]);
            $highNumbers[$shell] = true;
            $part = $high->partOf($triangles[0]);
            $highFound[] = ['part' => $part, 'triangles' => count($triangles), 'first' => $triangles[0] - $high->parts[$part], 'where' => $where];
        }
        $told = [];
        foreach ($lowFound as $shell => $where) {
            foreach ($lowShells[$shell] as $t) {
                $bad[$t] = true;
            }
            $part = self::partOf($low, $lowShells[$shell][0]);
            $told[] = ['part' => $part, 'triangles' => count($lowShells[$shell]), 'first' => $lowShells[$shell][0] - $low->parts[$part], 'where' => $where];
        }

        return new self($bad, $told, $highNumbers, $highFound);
    }

    /**
     * Low triangles that are turned by their mesh alone: in closed shells turned inside out, or wound against their neighbours, those with
     * all that touch them, since directions are shared at vertices.
     *
     * @return array{array<int, true>, array<int, true>} triangles, shells that are inside out
     */
    private static function byThemselves(SetSurfaces $set): array
    {
        $low = $set->low();
        $bad = $shells = [];
        foreach ($set->lowMeshes() as $n => $mesh) {
            $first = $low->parts[$n];
            $health = MeshHealth::of($mesh, false);
            if ($health->insideOut > 0) {
                for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
                    if (isset($health->insideOutShells[$health->shellOf($t)])) {
                        $bad[$first + $t] = true;
                        $shells[$low->shells[$first + $t]] = true;
                    }
                }
            }
            if ($health->turned === []) {
                continue;
            }
            $welded = Weld::ofMesh($mesh);
            $touched = [];
            foreach (array_keys($health->turned) as $t) {
                for ($k = 0; $k < 3; $k++) {
                    $touched[$welded[$mesh->triangles[3 * $t + $k]]] = true;
                }
            }
            foreach ($mesh->triangles as $i => $v) {
                if (isset($touched[$welded[$v]])) {
                    $bad[$first + intdiv($i, 3)] = true;
                }
            }
        }

        return [$bad, $shells];
    }

    /**
     * Low shells of which over half meets high surface near it, all of it from behind.
     *
     * @param  array<int, list<int>>  $shells
     * @return array<int, array{float, float, float}> shell → a place on it
     */
    private static function away(SetSurfaces $set, LowSurface $low, HighSurface $high, float $d, array $shells): array
    {
        $points = SurfacePoints::of($set->lowMeshes(), max(self::LOW_POINTS, min(self::HIGH_POINTS, 16 * count($shells))));
        $cast = new SegmentCast($high->tree());
        $reach = self::NEAR * $d;
        $of = $facing = $behind = $where = [];
        $look = static function (int $t, float $x, float $y, float $z) use ($low, $cast, $reach, $d, $high, &$of, &$facing, &$behind, &$where): void {
            [$nx, $ny, $nz] = [$low->normals[3 * $t], $low->normals[3 * $t + 1], $low->normals[3 * $t + 2]];
            $shell = $low->shells[$t];
            $of[$shell] = ($of[$shell] ?? 0) + 1;
            $front = $back = INF;
            $first = -INF;
            $isFirstFront = false;
            $cast->all($x, $y, $z, $nx, $ny, $nz, -$reach, $reach, 0);
            foreach ($cast->t as $k => $height) {
                [$mx, $my, $mz] = $high->normal($cast->triangle[$k]);
                $isFront = $mx * $nx + $my * $ny + $mz * $nz > 0.0;
                if ($height > $first) {
                    [$first, $isFirstFront] = [$height, $isFront];
                }
                if ($isFront) {
                    $front = min($front, abs($height));
                } else {
                    $back = min($back, abs($height));
                }
            }
            // Of a thin high, a leaf or a sheet, its outer side counts: what the ray meets first.
            if (($front <= $back + self::SAME * $d && $front < INF) || $isFirstFront) {
                $facing[$shell] = ($facing[$shell] ?? 0) + 1;
            } elseif ($back < INF) {
                $behind[$shell] = ($behind[$shell] ?? 0) + 1;
                $where[$shell] ??= [$x, $y, $z];
            }
        };
        for ($i = 0, $n = $points->count(); $i < $n; $i++) {
            $look($points->triangles[$i], $points->at[3 * $i], $points->at[3 * $i + 1], $points->at[3 * $i + 2]);
        }
        foreach ($shells as $shell => $triangles) {
            // Small shells get some of their own.
            for ($k = 0; ($of[$shell] ?? 0) < self::LEAST_A_SHELL && $k < self::LEAST_A_SHELL; $k++) {
                $t = $triangles[intdiv($k * count($triangles), self::LEAST_A_SHELL)];
                [$a, $b, $c] = [3 * $low->triangles[3 * $t], 3 * $low->triangles[3 * $t + 1], 3 * $low->triangles[3 * $t + 2]];
                $u = 0.2 + 0.15 * $k;
                $v = 0.2 + 0.1 * ($k % 2);
                $p = $low->positions;
                $look($t, $p[$a] + $u * ($p[$b] - $p[$a]) + $v * ($p[$c] - $p[$a]), $p[$a + 1] + $u * ($p[$b + 1] - $p[$a + 1]) + $v * ($p[$c + 1] - $p[$a + 1]), $p[$a + 2] + $u * ($p[$b + 2] - $p[$a + 2]) + $v * ($p[$c + 2] - $p[$a + 2]));
            }
        }
        $out = [];
        foreach ($behind as $shell => $count) {
            if (2 * $count > $of[$shell] && 10 * ($facing[$shell] ?? 0) < $of[$shell]) {
                $out[$shell] = $where[$shell];
            }
        }

        return $out;
    }

    /**
     * High shells whose faces, where their low could meet them first, look to it from behind over more than half.
     *
     * @return array<int, array{array{float, float, float}, int, list<int>}> shell → a place on it, low shell beside it, its triangles
     */
    private static function behind(LowSurface $low, HighSurface $high, float $d): array
    {
        $shells = self::byShell($high->shells());
        $each = max(self::LEAST_A_SHELL, min(self::MOST_A_SHELL, intdiv(self::HIGH_POINTS, count($shells))));
        $nearest = new NearestPoint($low->tree());
        $cast = new SegmentCast($high->tree());
        $out = [];
        foreach ($shells as $shell => $triangles) {
            $count = count($triangles);
            $front = $back = 0;
            $where = null;
            $beside = -1;
            for ($k = 0, $n = min($each, $count); $k < $n; $k++) {
                $t = $triangles[intdiv($k * $count, $n)];
                [$x, $y, $z] = $high->centre($t);
                [$mx, $my, $mz] = $high->normal($t);
                $face = $nearest->find($x, $y, $z, self::NEAR * $d);
                if ($face < 0) {
                    continue;
                }
                $within = 2 * sqrt($nearest->squared) + self::SAME * $d;
                [$nx, $ny, $nz] = [$low->normals[3 * $face], $low->normals[3 * $face + 1], $low->normals[3 * $face + 2]];
                $isFront = $nearest->anyFacingWithin($x, $y, $z, $within, $low->normals, $mx, $my, $mz);
                if (! $isFront && ! $nearest->anyFacingWithin($x, $y, $z, $within, $low->normals, -$mx, -$my, -$mz)) {
                    continue;
                }
                if ($cast->any($x, $y, $z, $nx, $ny, $nz, 1e-6 * $d, self::NEAR * $d)) {
                    continue;
                }
                if ($isFront) {
                    $front++;
                } else {
                    $back++;
                    $where ??= [$x, $y, $z];
                    $beside = $beside < 0 ? $low->shells[$face] : $beside;
                }
            }
            if ($where !== null && $back > $front && $back >= min(3, $n)) {
                $out[$shell] = [$where, $beside, $triangles];
            }
        }

        return $out;
    }

    /**
     * Whether of two open or uncertain shells that disagree it is the high one that is turned.
     *
     * @param  list<int>  $lowTriangles
     * @param  list<int>  $highTriangles
     */
    private static function isHigh(SetSurfaces $set, LowSurface $low, array $lowTriangles, HighSurface $high, array $highTriangles, ShellShape $highShape): bool
    {
        $welded = Weld::of($low->positions);
        $lowShape = ShellShape::of($low->positions, $low->triangles, $welded, $lowTriangles);
        if ($lowShape->isRightWayRound()) {
            return true;
        }
        $lowAgrees = self::agrees($set->lowMeshes(), $low->parts, $lowTriangles);
        $highAgrees = self::agrees($set->highMeshes(), $high->parts, $highTriangles);
        if (($lowAgrees ?? true) !== ($highAgrees ?? true)) {
            return ! ($highAgrees ?? true);
        }
        foreach ([[$lowShape->outwards, true], [$highShape->outwards, false]] as [$outwards, $ofLow]) {
            if (abs($outwards) > 0.2) {
                return $outwards > 0.0 === $ofLow;
            }
        }

        return false;
    }

    /**
     * Whether the corner normals of some triangles look the way that they are wound; null without normals.
     *
     * @param  list<Mesh>  $meshes
     * @param  list<int>  $firsts  first triangle of each
     * @param  list<int>  $triangles  counted over all meshes
     */
    private static function agrees(array $meshes, array $firsts, array $triangles): ?bool
    {
        $with = $against = 0;
        $part = 0;
        $step = max(1, intdiv(count($triangles), 256));
        for ($i = 0; $i < count($triangles); $i += $step) {
            while (isset($firsts[$part + 1]) && $firsts[$part + 1] <= $triangles[$i]) {
                $part++;
            }
            $mesh = $meshes[$part];
            $t = 3 * ($triangles[$i] - $firsts[$part]);
            $n = $mesh->triNormals[$t] ?? -1;
            if ($n < 0) {
                continue;
            }
            $p = $mesh->positions;
            [$a, $b, $c] = [3 * $mesh->triangles[$t], 3 * $mesh->triangles[$t + 1], 3 * $mesh->triangles[$t + 2]];
            $u = [$p[$b] - $p[$a], $p[$b + 1] - $p[$a + 1], $p[$b + 2] - $p[$a + 2]];
            $v = [$p[$c] - $p[$a], $p[$c + 1] - $p[$a + 1], $p[$c + 2] - $p[$a + 2]];
            $dot = ($u[1] * $v[2] - $u[2] * $v[1]) * $mesh->normals[3 * $n] + ($u[2] * $v[0] - $u[0] * $v[2]) * $mesh->normals[3 * $n + 1] + ($u[0] * $v[1] - $u[1] * $v[0]) * $mesh->normals[3 * $n + 2];
            $with += $dot > 0.0 ? 1 : 0;
            $against += $dot < 0.0 ? 1 : 0;
        }

        return $with + $against === 0 ? null : $with >= $against;
    }

    /**
     * @param  list<int>  $shells  a triangle
     * @return array<int, list<int>>
     */
    private static function byShell(array $shells): array
    {
        $out = [];
        foreach ($shells as $t => $shell) {
            $out[$shell][] = $t;
        }

        return $out;
    }

    private static function partOf(LowSurface $low, int $triangle): int
    {
        $part = 0;
        while (isset($low->parts[$part + 1]) && $low->parts[$part + 1] <= $triangle) {
            $part++;
        }

        return $part;
    }

    public function isClear(): bool
    {
        return $this->lowTriangles === [] && $this->highShells === [];
    }
}
