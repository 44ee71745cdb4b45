<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Asset\Asset;
use Anvil\Geometry\Mesh;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Surface\UvIslands;

/**
 * What will become one set of textures: the low triangles of one material that have UVs, part after part, so that the lowest number is the lowest part, then
 * triangle.
 */
final readonly class ProofPage
{
    /**
     * @param  string  $name  as checks and screens name the page
     * @param  string  $file  the same for names of files, each once
     * @param  list<RoledPart>  $parts  low parts that lie on it
     * @param  list<int>  $partOf  triangle of the page → its part, by place in `parts`
     * @param  list<int>  $triangles  triangle of the page → its number in its part's mesh
     * @param  list<float>  $uvs  u v of three corners, six a triangle, within the page's own tile
     * @param  list<int>  $islands  triangle of the page → a number that its island has alone
     */
    private function __construct(
        public string $name,
        public string $file,
        public array $parts,
        public array $partOf,
        public array $triangles,
        public array $uvs,
        public array $islands,
    ) {
    }

    /**
     * All pages of an asset, in the order in which its low parts use them. What lies in other tiles than the first is on a page only where each tile is one,
     * or where nothing of the material lies in the first.
     *
     * @return list<self>
     */
    public static function of(Asset $asset): array
    {
        $byPage = [];
        $low = $asset->judged(Role::Low);
        foreach ($low as $number => $part) {
            $mesh = $part->part->mesh;
            $islands = UvIslands::of($mesh);
            $tiles = self::tiles($mesh, $islands);
            $materials = $mesh->triangleMaterials();
            foreach ($islands->of as $t => $island) {
                if ($island < 0 || $islands->uvAreas[$t] === 0.0) {
                    continue;
                }
                // Where tiles are no pages, what reaches into the first one is baked there, wherever the rest of its island lies.
                $tile = ! $asset->standard->udim && self::reachesIn($mesh, $t) ? '0 0' : $tiles[$island];
                $byPage[$mesh->materials[$materials[$t]] ?? ''][$tile][] = [$number, $t, $island];
            }
        }
        $out = $taken = [];
        foreach ($byPage as $material => $tiles) {
            ksort($tiles, SORT_NATURAL);
            if (! $asset->standard->udim) {
                $tiles = isset($tiles['0 0']) ? ['0 0' => $tiles['0 0']] : array_slice($tiles, 0, 1, true);
            }
            foreach ($tiles as $tile => $triangles) {
                [$u, $v] = array_map(intval(...), explode(' ', (string) $tile));
                $name = self::nameOf($asset->standard, (string) $material, $u, $v);
                $file = preg_replace('/[^A-Za-z0-9._-]+/', '_', $name) ?? '';
                // A name that begins with a dot would be hidden.
                $file = ltrim($file, '._-');
                $file = $file === '' ? 'page' : $file;
                $unique = $file;
                for ($n = 2; isset($taken[strtolower($unique)]); $n++) {
                    $unique = "$file-$n";
                }
                $taken[strtolower($unique)] = true;
                $out[] = self::one($name, $unique, $low, $triangles, $u, $v);
            }
        }

        return $out;
    }

    /** `steel`, or `steel 1002` where each tile is a page of its own. */
    public static function nameOf(Standard $standard, string $material, int $u, int $v): string
    {
        $name = $material === '' ? 'unnamed' : $material;
        if (! $standard->udim) {
            return $name;
        }

        return $u >= 0 && $u < 10 && $v >= 0 ? $name.' '.(1001 + $u + 10 * $v) : "$name u$u v$v";
    }

    /**
     * The tile of each island, in which its middle lies, as `1 0`.
     *
     * @return list<string>
     */
    private static function tiles(Mesh $mesh, UvIslands $islands): array
    {
        $boxes = array_fill(0, $islands->count(), [INF, INF, -INF, -INF]);
        foreach ($islands->of as $t => $island) {
            if ($island >= 0) {
                [$a, $b, $c, $d] = self::box($mesh, $t);
                [$left, $low, $right, $high] = $boxes[$island];
                $boxes[$island] = [min($left, $a), min($low, $b), max($right, $c), max($high, $d)];
            }
        }
        $tile = static fn (float $least, float $most): int => (int) max(-1e6, min(1e6, floor(($least + $most) / 2)));

        return array_map(static fn (array $box): string => $tile($box[0], $box[2]).' '.$tile($box[1], $box[3]), $boxes);
    }

    /** Whether a triangle's box and the first tile have an area in common. */
    private static function reachesIn(Mesh $mesh, int $triangle): bool
    {
        [$left, $low, $right, $high] = self::box($mesh, $triangle);

        return $left < 1.0 && $right > 0.0 && $low < 1.0 && $high > 0.0;
    }

    /**
     * @return array{float, float, float, float} least and greatest U and V of a triangle
     */
    private static function box(Mesh $mesh, int $triangle): array
    {
        $u = $v = [];
        for ($k = 0; $k < 3; $k++) {
            $i = 2 * $mesh->triUvs[3 * $triangle + $k];
            $u[] = $mesh->uvs[$i];
            $v[] = $mesh->uvs[$i + 1];
        }

        return [min($u), min($v), max($u), max($v)];
    }

    /**
     * @param  list<RoledPart>  $low
     * @param  list<array{int, int, int}>  $triangles  part, triangle, island
     */
    private static function one(string $name, string $file, array $low, array $triangles, int $tileU, int $tileV): self
    {
        $parts = $place = $partOf = $numbers = $uvs = $islands = $island = [];
        foreach ($triangles as [$part, $t, $of]) {
            if (! isset($place[$part])) {
                $place[$part] = count($parts);
                $parts[] = $low[$part];
            }
            $mesh = $low[$part]->part->mesh;
            $partOf[] = $place[$part];
            $numbers[] = $t;
            $islands[] = $island["$part $of"] ??= count($island);
            for ($k = 0; $k < 3; $k++) {
                $i = 2 * $mesh->triUvs[3 * $t + $k];
                $uvs[] = $mesh->uvs[$i] - $tileU;
                $uvs[] = $mesh->uvs[$i + 1] - $tileV;
            }
        }

        return new self($name, $file, $parts, $partOf, $numbers, $uvs, $islands);
    }

    public function triangleCount(): int
    {
        return count($this->triangles);
    }

    /**
     * Where in a triangle of the page a place of the page lies: shares of its three corners.
     *
     * @return array{float, float, float}
     */
    public function corners(int $triangle, float $u, float $v): array
    {
        $q = $this->uvs;
        $i = 6 * $triangle;
        [$ax, $ay] = [$q[$i], $q[$i + 1]];
        [$bx, $by] = [$q[$i + 2] - $ax, $q[$i + 3] - $ay];
        [$cx, $cy] = [$q[$i + 4] - $ax, $q[$i + 5] - $ay];
        $area = $bx * $cy - $by * $cx;
        $s = (($u - $ax) * $cy - ($v - $ay) * $cx) / $area;
        $r = ($bx * ($v - $ay) - $by * ($u - $ax)) / $area;

        return [1.0 - $s - $r, $s, $r];
    }

    /**
     * The place of the low poly at a place of a triangle of the page.
     *
     * @return array{float, float, float}
     */
    public function place(int $triangle, float $u, float $v): array
    {
        $mesh = $this->parts[$this->partOf[$triangle]]->part->mesh;
        $out = [0.0, 0.0, 0.0];
        foreach ($this->corners($triangle, $u, $v) as $k => $share) {
            $i = 3 * $mesh->triangles[3 * $this->triangles[$triangle] + $k];
            $out = [$out[0] + $share * $mesh->positions[$i], $out[1] + $share * $mesh->positions[$i + 1], $out[2] + $share * $mesh->positions[$i + 2]];
        }

        return $out;
    }
}
