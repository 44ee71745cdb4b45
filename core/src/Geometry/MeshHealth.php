<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * What is wrong with a mesh by itself: triangles without area, doubled triangles, edges of over two faces, separate fans at a vertex,
 * faces wound against their neighbours, closed shells turned inside out. On welded vertices.
 *
 * Edges are kept in lists that hang on their smaller vertex: for meshes of millions of triangles that is several times faster and
 * smaller than a table by key.
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

    /**
     * Which triangles hang together over shared places: for each the number of its shell.
     *
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return list<int>
     */
    public static function shells(array $positions, array $triangles): array
    {
        return self::joined(Weld::of($positions), $triangles);
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
        $welded = Weld::of($p);
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
        $this->edges($p, $tri, $welded, $flat, $manifold);
    }

    /**
     * @param  list<float>  $p
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     */
    private function edges(array $p, array $tri, array $welded, string $flat, bool $manifold): void
    {
        $count = count($tri);
        $head = array_fill(0, max(1, count($welded)), -1);
        // Of each edge, in order of first use: larger vertex, next edge of the smaller one, its half-edges 3·triangle + corner.
        $far = $next = $first = $second = [];
        $more = [];
        $edges = 0;
        for ($t = 0; $t < $count; $t += 3) {
            if ($flat[intdiv($t, 3)] === '1') {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $from = $welded[$tri[$t + $k]];
                $to = $welded[$tri[$t + ($k === 2 ? 0 : $k + 1)]];
                if ($from < $to) {
                    $low = $from;
                    $high = $to;
                } else {
                    $low = $to;
                    $high = $from;
                }
                $e = $head[$low];
                while ($e >= 0 && $far[$e] !== $high) {
                    $e = $next[$e];
                }
                if ($e < 0) {
                    $far[] = $high;
                    $next[] = $head[$low];
                    $first[] = $t + $k;
                    $second[] = -1;
                    $head[$low] = $edges++;
                } elseif ($second[$e] < 0) {
                    $second[$e] = $t + $k;
                } else {
                    $more[$e][] = $t + $k;
                }
            }
        }
        unset($head, $next, $far);
        $dropped = $this->doubles($tri, $welded, $first, $second, $more, $p);
        $this->shells = self::joined($welded, $tri);
        $shells = $this->shells;
        $against = false;
        $pairs = [];
        for ($e = 0; $e < $edges; $e++) {
            if ($second[$e] >= 0 && $dropped === [] && ! isset($more[$e])) {
                // Two faces that agree run along their edge in opposite ways.
                if ($welded[$tri[$first[$e]]] === $welded[$tri[$second[$e]]]) {
                    $against = true;
                }

                continue;
            }
            $halves = [$first[$e]];
            if ($second[$e] >= 0) {
                $halves[] = $second[$e];
                foreach ($more[$e] ?? [] as $h) {
                    $halves[] = $h;
                }
                if ($dropped !== []) {
                    $halves = array_values(array_filter($halves, static fn (int $h): bool => ! isset($dropped[intdiv($h, 3)])));
                }
            } elseif (isset($dropped[intdiv($first[$e], 3)])) {
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
        $turned = [];
        if ($against) {
            $turned = $this->againstNeighbours($tri, $welded, $flat, $first, $second, $more, $dropped, $p);
        }
        $this->insideOut($tri, $p, $shells, $turned, $dropped);
        if ($manifold) {
            $this->fans($tri, $welded, $flat, $first, $second, $more, $dropped, $p);
        }
    }

    /**
     * Triangles on an earlier one with the same three places, either way round.
     *
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     * @param  array<int, int>  $first
     * @param  array<int|string, int>  $second
     * @param  array<int|string, list<int>>  $more
     * @param  list<float>  $p
     * @return array<int, true>
     */
    private function doubles(array $tri, array $welded, array $first, array $second, array $more, array $p): array
    {
        $dropped = [];
        foreach ($second as $e => $h) {
            if ($h < 0) {
                continue;
            }
            $g = $first[$e];
            $opposite = $welded[$tri[$g - $g % 3 + ($g + 2) % 3]];
            if (! isset($more[$e])) {
                if ($welded[$tri[$h - $h % 3 + ($h + 2) % 3]] === $opposite) {
                    $dropped[intdiv($h, 3)] = true;
                }

                continue;
            }
            $seen = [$opposite => true];
            foreach ([$h, ...$more[$e]] as $other) {
                $far = $welded[$tri[self::opposite($other)]];
                if (isset($seen[$far])) {
                    $dropped[intdiv($other, 3)] = true;
                }
                $seen[$far] = true;
            }
        }
        $this->doubled = count($dropped);
        foreach (array_slice(array_keys($dropped), 0, self::WHERE) as $t) {
            $this->doubledWhere[] = self::at($p, $tri[3 * $t]);
        }

        return $dropped;
    }

    /**
     * Walks every shell over its edges of two faces and counts the smaller of the two sides that disagree.
     *
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     * @param  array<int, int>  $first
     * @param  array<int|string, int>  $second
     * @param  array<int|string, list<int>>  $more
     * @param  array<int, true>  $dropped
     * @param  list<float>  $p
     * @return array<int, true> triangles to turn
     */
    private function againstNeighbours(array $tri, array $welded, string $flat, array $first, array $second, array $more, array $dropped, array $p): array
    {
        $links = [];
        foreach ($second as $e => $h) {
            if ($h < 0 || isset($more[$e])) {
                continue;
            }
            $a = intdiv($first[$e], 3);
            $b = intdiv($h, 3);
            if (isset($dropped[$a]) || isset($dropped[$b])) {
                continue;
            }
            $agree = $welded[$tri[$first[$e]]] !== $welded[$tri[$h]];
            $links[$a][] = $agree ? $b : -$b - 1;
            $links[$b][] = $agree ? $a : -$a - 1;
        }
        $turned = [];
        $side = [];
        for ($t = 0, $n = intdiv(count($tri), 3); $t < $n; $t++) {
            if (isset($side[$t]) || $flat[$t] === '1' || isset($dropped[$t])) {
                continue;
            }
            $side[$t] = 1;
            $groups = [1 => [$t], -1 => []];
            $stack = [$t];
            $sp = 1;
            while ($sp > 0) {
                $at = $stack[--$sp];
                foreach ($links[$at] ?? [] as $link) {
                    $other = $link >= 0 ? $link : -$link - 1;
                    if (! isset($side[$other])) {
                        $side[$other] = $link >= 0 ? $side[$at] : -$side[$at];
                        $groups[$side[$other]][] = $other;
                        $stack[$sp++] = $other;
                    }
                }
            }
            if ($groups[-1] === []) {
                continue;
            }
            foreach (count($groups[-1]) <= count($groups[1]) ? $groups[-1] : $groups[1] as $wrong) {
                $turned[$wrong] = true;
            }
        }
        $this->againstNeighbours = count($turned);
        $this->turned = $turned;
        foreach (array_slice(array_keys($turned), 0, self::WHERE) as $t) {
            $this->flippedWhere[] = self::centre($p, $tri, $t);
        }

        return $turned;
    }

    /**
     * @param  list<int>  $tri
     * @param  list<float>  $p
     * @param  list<int>  $shells
     * @param  array<int, true>  $turned  triangles counted already, taken the other way round
     * @param  array<int, true>  $dropped
     */
    private function insideOut(array $tri, array $p, array $shells, array $turned, array $dropped): void
    {
        $volumes = $boxes = $origins = [];
        foreach ($shells as $t => $shell) {
            if (isset($this->open[$shell]) || isset($dropped[$t])) {
                continue;
            }
            $a = 3 * $tri[3 * $t];
            $b = 3 * $tri[3 * $t + 1];
            $c = 3 * $tri[3 * $t + 2];
            // About a corner of its own, so that a part far out keeps its digits.
            $origins[$shell] ??= $a;
            $o = $origins[$shell];
            $ax = $p[$a] - $p[$o];
            $ay = $p[$a + 1] - $p[$o + 1];
            $az = $p[$a + 2] - $p[$o + 2];
            $bx = $p[$b] - $p[$o];
            $by = $p[$b + 1] - $p[$o + 1];
            $bz = $p[$b + 2] - $p[$o + 2];
            $cx = $p[$c] - $p[$o];
            $cy = $p[$c + 1] - $p[$o + 1];
            $cz = $p[$c + 2] - $p[$o + 2];
            $six = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
            $volumes[$shell] = ($volumes[$shell] ?? 0.0) + (isset($turned[$t]) ? -$six : $six);
        }
        $negative = array_filter($volumes, static fn (float $six): bool => $six < 0.0);
        if ($negative === []) {
            return;
        }
        foreach ($shells as $t => $shell) {
            if (! isset($volumes[$shell])) {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $tri[3 * $t + $k];
                $boxes[$shell] ??= [$p[$v], $p[$v + 1], $p[$v + 2], $p[$v], $p[$v + 1], $p[$v + 2]];
                for ($i = 0; $i < 3; $i++) {
                    $boxes[$shell][$i] = min($boxes[$shell][$i], $p[$v + $i]);
                    $boxes[$shell][3 + $i] = max($boxes[$shell][3 + $i], $p[$v + $i]);
                }
            }
        }
        foreach ($negative as $shell => $six) {
            $box = $boxes[$shell];
            $size = ($box[3] - $box[0]) ** 2 + ($box[4] - $box[1]) ** 2 + ($box[5] - $box[2]) ** 2;
            // A sheet with two sides encloses nothing.
            if (-$six / 6 <= 1e-7 * $size ** 1.5) {
                continue;
            }
            foreach ($boxes as $other => $outer) {
                if ($other !== $shell && $outer[0] < $box[0] && $outer[1] < $box[1] && $outer[2] < $box[2] && $outer[3] > $box[3] && $outer[4] > $box[4] && $outer[5] > $box[5]
                    && self::encloses($tri, $p, $shells, $other, $origins[$shell])) {
                    continue 2;
                }
            }
            $this->insideOut += $this->sizes[$shell];
            $this->insideOutShells[$shell] = true;
            if (count($this->flippedWhere) < self::WHERE) {
                $this->flippedWhere[] = [$p[$origins[$shell]], $p[$origins[$shell] + 1], $p[$origins[$shell] + 2]];
            }
        }
    }

    /**
     * Whether a shell goes round a place: its solid angles there add up to 4π (A. van Oosterom, J. Strackee, "The Solid Angle of a
     * Plane Triangle", 1983).
     *
     * @param  list<int>  $tri
     * @param  list<float>  $p
     * @param  list<int>  $shells
     */
    private static function encloses(array $tri, array $p, array $shells, int $shell, int $place): bool
    {
        $sum = 0.0;
        foreach ($shells as $t => $of) {
            if ($of !== $shell) {
                continue;
            }
            $v = [];
            for ($k = 0; $k < 3; $k++) {
                $c = 3 * $tri[3 * $t + $k];
                $v[] = [$p[$c] - $p[$place], $p[$c + 1] - $p[$place + 1], $p[$c + 2] - $p[$place + 2]];
            }
            [$a, $b, $c] = $v;
            $la = sqrt($a[0] ** 2 + $a[1] ** 2 + $a[2] ** 2);
            $lb = sqrt($b[0] ** 2 + $b[1] ** 2 + $b[2] ** 2);
            $lc = sqrt($c[0] ** 2 + $c[1] ** 2 + $c[2] ** 2);
            $det = $a[0] * ($b[1] * $c[2] - $b[2] * $c[1]) + $a[1] * ($b[2] * $c[0] - $b[0] * $c[2]) + $a[2] * ($b[0] * $c[1] - $b[1] * $c[0]);
            $ab = $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
            $bc = $b[0] * $c[0] + $b[1] * $c[1] + $b[2] * $c[2];
            $ca = $c[0] * $a[0] + $c[1] * $a[1] + $c[2] * $a[2];
            $sum += 2 * atan2($det, $la * $lb * $lc + $ab * $lc + $bc * $la + $ca * $lb);
        }

        return abs($sum) > 2 * M_PI;
    }

    /**
     * @param  list<int>  $tri
     * @param  list<int>  $welded
     * @param  array<int, int>  $first
     * @param  array<int|string, int>  $second
     * @param  array<int|string, list<int>>  $more
     * @param  array<int, true>  $dropped
     * @param  list<float>  $p
     */
    private function fans(array $tri, array $welded, string $flat, array $first, array $second, array $more, array $dropped, array $p): void
    {
        // Corners of triangles are joined at a vertex where their triangles share an edge that ends there.
        $parent = range(0, max(0, count($tri) - 1));
        foreach ($second as $e => $h) {
            if ($h < 0) {
                continue;
            }
            $g = $first[$e];
            $gAfter = $g % 3 === 2 ? $g - 2 : $g + 1;
            foreach (isset($more[$e]) ? [$h, ...$more[$e]] : [$h] as $other) {
                $after = $other % 3 === 2 ? $other - 2 : $other + 1;
                // The two ends of the edge, whichever way round the other face runs along it.
                $isSame = $welded[$tri[$g]] === $welded[$tri[$other]];
                for ($end = 0; $end < 2; $end++) {
                    $a = $end === 0 ? $g : $gAfter;
                    $b = ($end === 0) === $isSame ? $other : $after;
                    while ($parent[$a] !== $a) {
                        $a = $parent[$a] = $parent[$parent[$a]];
                    }
                    while ($parent[$b] !== $b) {
                        $b = $parent[$b] = $parent[$parent[$b]];
                    }
                    if ($a < $b) {
                        $parent[$b] = $a;
                    } elseif ($b < $a) {
                        $parent[$a] = $b;
                    }
                }
            }
        }
        $root = [];
        $split = [];
        foreach ($tri as $c => $v) {
            $t = intdiv($c, 3);
            if ($flat[$t] === '1' || isset($dropped[$t])) {
                continue;
            }
            $vertex = $welded[$v];
            $r = $c;
            while ($parent[$r] !== $r) {
                $r = $parent[$r];
            }
            if (! isset($root[$vertex])) {
                $root[$vertex] = $r;
            } elseif ($root[$vertex] !== $r && ! isset($split[$vertex])) {
                $split[$vertex] = true;
            }
        }
        $this->fans = count($split);
        foreach (array_slice(array_keys($split), 0, self::WHERE) as $vertex) {
            $this->fansWhere[] = self::at($p, $vertex);
        }
    }

    /**
     * @param  list<int>  $welded
     * @param  list<int>  $tri
     * @return list<int>
     */
    public static function joined(array $welded, array $tri): array
    {
        $parent = $welded;
        $count = count($tri);
        for ($t = 0; $t < $count; $t += 3) {
            $a = $welded[$tri[$t]];
            while ($parent[$a] !== $a) {
                $a = $parent[$a] = $parent[$parent[$a]];
            }
            for ($k = 1; $k < 3; $k++) {
                $b = $welded[$tri[$t + $k]];
                while ($parent[$b] !== $b) {
                    $b = $parent[$b] = $parent[$parent[$b]];
                }
                if ($a < $b) {
                    $parent[$b] = $a;
                } elseif ($b < $a) {
                    $parent[$a] = $b;
                    $a = $b;
                }
            }
        }
        $out = [];
        for ($t = 0; $t < $count; $t += 3) {
            $a = $welded[$tri[$t]];
            while ($parent[$a] !== $a) {
                $a = $parent[$a] = $parent[$parent[$a]];
            }
            $out[] = $a;
        }

        return $out;
    }

    /** The corner of a half-edge's triangle that the edge does not touch. */
    private static function opposite(int $half): int
    {
        return $half - $half % 3 + ($half + 2) % 3;
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
