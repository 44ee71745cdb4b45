<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use WeakMap;

/**
 * UV islands of a part: faces joined over edges that are no seams, on one page (METHODS, "Parts and topology").
 */
final class UvIslands
{
    /** A UV triangle of less than this share of the square of its longest edge has no area. */
    private const FLAT = 1e-7;

    /** @var WeakMap<Mesh, self>|null what is asked of one mesh again and again */
    private static ?WeakMap $known = null;

    /**
     * @param  list<int>  $of  triangle → its island; −1 without UVs
     * @param  list<int>  $first  island → its first triangle, ascending
     * @param  list<float>  $uvAreas  triangle → its signed area in UV, squares of the page; 0 for one that is flat there
     */
    private function __construct(public readonly array $of, public readonly array $first, public readonly array $uvAreas)
    {
    }

    public static function of(Mesh $mesh): self
    {
        self::$known ??= new WeakMap;

        return self::$known[$mesh] ??= self::made($mesh);
    }

    public function count(): int
    {
        return count($this->first);
    }

    private static function made(Mesh $mesh): self
    {
        $count = $mesh->triangleCount();
        $at = $mesh->triUvs;
        if ($at === []) {
            return new self($count === 0 ? [] : array_fill(0, $count, -1), [], $count === 0 ? [] : array_fill(0, $count, 0.0));
        }
        $edges = LowEdges::of($mesh);
        $root = $count === 0 ? [] : range(0, $count - 1);
        foreach ($edges->twins as $half => $twin) {
            if ($twin < 0 || $edges->seams[$half]) {
                continue;
            }
            $a = intdiv($half, 3);
            $b = intdiv($twin, 3);
            while ($root[$a] !== $a) {
                $a = $root[$a] = $root[$root[$a]];
            }
            while ($root[$b] !== $b) {
                $b = $root[$b] = $root[$root[$b]];
            }
            if ($a < $b) {
                $root[$b] = $a;
            } else {
                $root[$a] = $b;
            }
        }
        $of = $first = $areas = $number = [];
        $uvs = $mesh->uvs;
        for ($t = 0; $t < $count; $t++) {
            $a = 2 * $at[3 * $t];
            $b = 2 * $at[3 * $t + 1];
            $c = 2 * $at[3 * $t + 2];
            if ($a < 0 || $b < 0 || $c < 0 || ! is_finite($uvs[$a] + $uvs[$a + 1] + $uvs[$b] + $uvs[$b + 1] + $uvs[$c] + $uvs[$c + 1])) {
                $of[] = -1;
                $areas[] = 0.0;

                continue;
            }
            $r = $t;
            while ($root[$r] !== $r) {
                $r = $root[$r];
            }
            if (! isset($number[$r])) {
                $number[$r] = count($first);
                $first[] = $t;
            }
            $of[] = $number[$r];
            $ux = $uvs[$b] - $uvs[$a];
            $uy = $uvs[$b + 1] - $uvs[$a + 1];
            $vx = $uvs[$c] - $uvs[$a];
            $vy = $uvs[$c + 1] - $uvs[$a + 1];
            $area = ($ux * $vy - $uy * $vx) / 2;
            $longest = max($ux * $ux + $uy * $uy, $vx * $vx + $vy * $vy, ($vx - $ux) ** 2 + ($vy - $uy) ** 2);
            $areas[] = abs($area) <= self::FLAT * $longest ? 0.0 : $area;
        }

        return new self($of, $first, $areas);
    }
}
