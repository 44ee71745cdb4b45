<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * What is wrong with a mesh by itself: triangles without area, doubled triangles, edges of over two faces, separate fans at a vertex,
 * faces wound against their neighbours, closed shells turned inside out. On welded vertices.
 */
final class MeshHealth
{
    private const WHERE = 40;

    /** A triangle whose area is under this share of its longest edge squared has none. */
    private const FLAT = 1e-12;

    /** Triangles of no area or with a repeated corner. */
    public int $degenerate = 0;

    /** @var list<array{float, float, float}> */
    public array $degenerateWhere = [];

    /** Triangles that lie on an earlier one, corner on corner. */
    public int $doubled = 0;

    /** @var list<array{float, float, float}> */
    public array $doubledWhere = [];

    /** Edges with over two faces. */
    public int $manyFaced = 0;

    /** @var list<array{float, float, float}> */
    public array $manyFacedWhere = [];

    /** Vertices where fans of faces meet in the vertex only. */
    public int $fans = 0;

    /** @var list<array{float, float, float}> */
    public array $fansWhere = [];

    /** Triangles wound against their neighbours: the smaller side of each shell. */
    public int $againstNeighbours = 0;

    /** Triangles of closed shells of negative volume that lie in no other shell. */
    public int $insideOut = 0;

    /** @var list<array{float, float, float}> */
    public array $flippedWhere = [];

    /** @var array<int, true> the triangles wound against their neighbours */
    public array $turned = [];

    /** @var array<int, true> the shells turned inside out */
    public array $insideOutShells = [];

    /** @var list<int> shell of each triangle: the lowest vertex that hangs together with it */
    private array $shells = [];

    /** @var array<int, int> shell → open edges */
    private array $open = [];

    /** @var array<int, int> shell → triangles */
    private array $sizes = [];

    private function __construct()
    {
    }

    /**
     * @param  bool  $manifold  whether edges of many faces and fans are looked for; else only counted for closedness
     */
    public static function of(Mesh $mesh, bool $manifold = true): self
    {
        $health = new self;
        $health->run($mesh, $manifold);

        return $health;
    }

    /** What was found, without what is known of each triangle. */
    public function faults(): MeshFaults
    {
        return new MeshFaults(
            $this->degenerate, $this->degenerateWhere, $this->doubled, $this->doubledWhere, $this->manyFaced, $this->manyFacedWhere,
            $this->fans, $this->fansWhere, $this->againstNeighbours, $this->insideOut, $this->flippedWhere,
        );
    }

    public function shellOf(int $triangle): int
    {
        return $this->shells[$triangle];
    }

    public function isClosed(int $shell): bool
    {
        return ($this->open[$shell] ?? 0) === 0;
    }

    public function isAllClosed(): bool
    {
        return $this->open === [];
    }

    public function trianglesIn(int $shell): int
    {
        return $this->sizes[$shell] ?? 0;
    }

    private function run(Mesh $mesh, bool $manifold): void
    {
        $p = $mesh->positions;
        $tri = $mesh->triangles;
        $welded = Weld::ofMesh($mesh);
        $count = count($tri);
        $flat = '';
        // Which triangles have no area: they are told of once and take no part in what follows.
        for ($t = 0; $t < $count; $t += 3) {
            $a = $welded[$tri[$t]];
            $b = $welded[$tri[$t + 1]];
            $c = $welded[$tri[$t + 2]];
            $isFlat = $a === $b || $b === $c || $a === $c;
            if (! $isFlat) {
                $a *= 3;
                $b *= 3;
                $c *= 3;
                $ux = $p[$b] - $p[$a];
                $uy = $p[$b + 1] - $p[$a + 1];
                $uz = $p[$b + 2] - $p[$a + 2];
                $vx = $p[$c] - $p[$a];
                $vy = $p[$c + 1] - $p[$a + 1];
                $vz = $p[$c + 2] - $p[$a + 2];
                $x = $uy * $vz - $uz * $vy;
                $y = $uz * $vx - $ux * $vz;
                $z = $ux * $vy - $uy * $vx;
                $u = $ux * $ux + $uy * $uy + $uz * $uz;
                $v = $vx * $vx + $vy * $vy + $vz * $vz;
                $wx = $ux - $vx;
                $wy = $uy - $vy;
                $wz = $uz - $vz;
                $w = $wx * $wx + $wy * $wy + $wz * $wz;
                $long = $u > $v ? $u : $v;
                $long = $w > $long ? $w : $long;
                $isFlat = $x * $x + $y * $y + $z * $z <= 4 * self::FLAT * self::FLAT * $long * $long;
            }
            $flat .= $isFlat ? '1' : '0';
            if ($isFlat) {
                $this->degenerate++;
                if (count($this->degenerateWhere) < self::WHERE) {
                    $this->degenerateWhere[] = self::at($p, $tri[$t]);
                }
            }
        }
        $this->edges($mesh, $welded, $flat, $manifold);
    }

    /**
     * @param  list<int>  $welded
     */
    private function edges(Mesh $mesh, array $welded, string $flat, bool $manifold): void
    {
        $p = $mesh->positions;
        $tri = $mesh->triangles;
        $edges = HalfEdges::of($tri, $welded, $flat);
        $more = $edges->more;
        $dropped = $edges->doubles();
        $this->doubled = count($dropped);
        foreach (array_slice(array_keys($dropped), 0, self::WHERE) as $t) {
            $this->doubledWhere[] = self::at($p, $tri[3 * $t]);
        }
        $this->shells = Shells::ofMesh($mesh);
        $shells = $this->shells;
        $against = false;
        foreach ($edges->halves as $e => $both) {
            $first = $both & 0xFFFFFFFF;
            $second = ($both >> 32) - 1;
            if ($second >= 0 && $dropped === [] && ! isset($more[$e])) {
                // Two faces that agree run along their edge in opposite ways.
                if ($welded[$tri[$first]] === $welded[$tri[$second]]) {
                    $against = true;
                }

                continue;
            }
            $halves = [$first];
            if ($second >= 0) {
                $halves[] = $second;
                foreach ($more[$e] ?? [] as $h) {
                    $halves[] = $h;
                }
                if ($dropped !== []) {
                    $halves = array_values(array_filter($halves, static fn (int $h): bool => ! isset($dropped[intdiv($h, 3)])));
                }
            } elseif (isset($dropped[intdiv($first, 3)])) {
                continue;
            }
            $faces = count($halves);
            if ($faces === 2) {
                $a = $welded[$tri[$halves[0]]];
                $b = $welded[$tri[$halves[1]]];
                if ($a === $b) {
                    $against = true;
                }
            } elseif ($faces === 1) {
                $shell = $shells[intdiv($halves[0], 3)];
                $this->open[$shell] = ($this->open[$shell] ?? 0) + 1;
            } elseif ($faces > 2 && $manifold) {
                $this->manyFaced++;
                if (count($this->manyFacedWhere) < self::WHERE) {
                    $this->manyFacedWhere[] = self::middle($p, $tri, $halves[0]);
                }
            }
        }
        foreach ($shells as $t => $shell) {
            if (! isset($dropped[$t])) {
                $this->sizes[$shell] = ($this->sizes[$shell] ?? 0) + 1;
            }
        }
        if ($against) {
            $this->turned = Winding::against($edges, $dropped);
            $this->againstNeighbours = count($this->turned);
            foreach (array_slice(array_keys($this->turned), 0, self::WHERE) as $t) {
                $this->flippedWhere[] = self::centre($p, $tri, $t);
            }
        }
        foreach (Winding::insideOut($tri, $p, $shells, $this->open, $this->turned, $dropped) as $shell => $place) {
            $this->insideOut += $this->sizes[$shell];
            $this->insideOutShells[$shell] = true;
            if (count($this->flippedWhere) < self::WHERE) {
                $this->flippedWhere[] = [$p[$place], $p[$place + 1], $p[$place + 2]];
            }
        }
        if ($manifold) {
            $split = Fans::of($edges, $dropped);
            $this->fans = count($split);
            foreach (array_slice($split, 0, self::WHERE) as $vertex) {
                $this->fansWhere[] = self::at($p, $vertex);
            }
        }
    }

    private static function following(int $half): int
    {
        return $half % 3 === 2 ? $half - 2 : $half + 1;
    }

    /**
     * @param  list<float>  $p
     * @return array{float, float, float}
     */
    private static function at(array $p, int $v): array
    {
        return [$p[3 * $v], $p[3 * $v + 1], $p[3 * $v + 2]];
    }

    /**
     * @param  list<float>  $p
     * @param  list<int>  $tri
     * @return array{float, float, float}
     */
    private static function middle(array $p, array $tri, int $half): array
    {
        $a = 3 * $tri[$half];
        $b = 3 * $tri[self::following($half)];

        return [($p[$a] + $p[$b]) / 2, ($p[$a + 1] + $p[$b + 1]) / 2, ($p[$a + 2] + $p[$b + 2]) / 2];
    }

    /**
     * @param  list<float>  $p
     * @param  list<int>  $tri
     * @return array{float, float, float}
     */
    private static function centre(array $p, array $tri, int $t): array
    {
        $a = 3 * $tri[3 * $t];
        $b = 3 * $tri[3 * $t + 1];
        $c = 3 * $tri[3 * $t + 2];

        return [($p[$a] + $p[$b] + $p[$c]) / 3, ($p[$a + 1] + $p[$b + 1] + $p[$c + 1]) / 3, ($p[$a + 2] + $p[$b + 2] + $p[$c + 2]) / 3];
    }
}
