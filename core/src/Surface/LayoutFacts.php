<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\Mesh;
use Anvil\Rays\Spread;

/**
 * What lies on each other and how near to each other on the pages of a low poly, tile by tile. Parts are counted as they were given; lengths and areas are in pages.
 */
final readonly class LayoutFacts
{
    /** Pairs of parts that share area: all up to so many; of more the largest, and of each part the largest that it is in. */
    private const PAIRS = 5000;

    /** Places of each. */
    private const WHERE = 40;

    /**
     * @param  list<array{page: string, u: int, v: int, triangles: int, overlap: float, covered: float, overlapWhole: bool, gapsWhole: bool, pairs: list<array{one: int, two: int, area: float, count: int, where: list<array{float, float, float}>}>, regions: list<list<float>>, gaps: list<array{one: array{int, int}, two: array{int, int}, gap: float, ends: array{float, float, float, float}, where: list<array{float, float, float}>}>}>  $tiles
     *                                                                                                                                                                                                                                                                                                                                                                                                                                               outlines and ends of gaps as u v in the file
     * @param  list<array<int, float>>  $nearest  of each part, by island: the least gap to another or between its arms, where it is under `UvGaps::FAR`
     * @param  list<list<int>>  $overlapping  of each part the islands that lie on others or on themselves
     */
    private function __construct(public array $tiles, public array $nearest, public array $overlapping)
    {
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  list<Islands>  $islands  of each
     * @param  list<array<int, true>|true>  $exempt  islands of each that may lie on others; true: all
     * @param  float  $padding  that is asked for, in pages
     */
    public static function of(array $meshes, array $islands, array $exempt, float $padding): self
    {
        $owner = [];
        foreach ($islands as $part => $facts) {
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                $owner[] = [$part, $i];
            }
        }
        $tiles = [];
        $nearest = $overlapping = array_map(static fn (): array => [], $meshes);
        foreach (PageTile::of($meshes, $islands, $exempt) as $tile) {
            if ($tile->count() === 0) {
                continue;
            }
            $overlaps = UvOverlaps::of($tile);
            $gaps = UvGaps::of($tile, $overlaps, min(UvGaps::FAR, max(1e-6, $padding)));
            $pairs = array_values($overlaps->pairs);
            usort($pairs, static fn (array $a, array $b): int => [$b['area'], $a['one'], $a['two']] <=> [$a['area'], $b['one'], $b['two']]);
            $tiles[] = [
                'page' => $tile->page, 'u' => $tile->tileU, 'v' => $tile->tileV, 'triangles' => $tile->count(), 'overlap' => $overlaps->area, 'covered' => $overlaps->covered,
                'overlapWhole' => $overlaps->isWhole, 'gapsWhole' => $gaps->isWhole,
                'pairs' => array_map(static fn (array $pair): array => [
                    'one' => $pair['one'], 'two' => $pair['two'], 'area' => $pair['area'], 'count' => $pair['count'],
                    'where' => array_map(static fn (int $t): array => self::middle($meshes[$pair['one']], $t), Spread::of($pair['at'], self::WHERE)),
                ], self::kept($pairs)),
                'regions' => array_map(static fn (array $region): array => self::moved($region['outline'], $tile), $overlaps->regions),
                'gaps' => array_map(static fn (array $gap): array => [
                    'one' => $owner[$gap['one']], 'two' => $owner[$gap['two']], 'gap' => $gap['gap'],
                    'ends' => [$gap['ends'][0] + $tile->tileU, $gap['ends'][1] + $tile->tileV, $gap['ends'][2] + $tile->tileU, $gap['ends'][3] + $tile->tileV],
                    'where' => array_map(static fn (int $t): array => self::middle($meshes[$tile->part[$t]], $tile->triangle[$t]), $gap['at']),
                ], $gaps->pairs),
            ];
            foreach ($gaps->nearest as $island => $gap) {
                [$part, $i] = $owner[$island];
                $nearest[$part][$i] = $gap;
            }
            foreach ([...array_keys($overlaps->piles), ...array_values($overlaps->piles), ...array_keys($overlaps->onItself)] as $island) {
                [$part, $i] = $owner[$island];
                $overlapping[$part][$i] = $i;
            }
        }

        return new self($tiles, $nearest, array_map(static fn (array $one): array => array_values($one), $overlapping));
    }

    /**
     * @param  list<array{one: int, two: int, area: float, count: int, at: list<int>}>  $pairs  the largest first
     * @return list<array{one: int, two: int, area: float, count: int, at: list<int>}> so many that no part is left out
     */
    private static function kept(array $pairs): array
    {
        $out = [];
        $named = [];
        foreach ($pairs as $i => $pair) {
            if ($i < self::PAIRS || ! isset($named[$pair['one']]) || ! isset($named[$pair['two']])) {
                $out[] = $pair;
                $named[$pair['one']] = $named[$pair['two']] = true;
            }
        }

        return $out;
    }

    /** The greatest share of a tile of a page that is covered. */
    public function use(string $page): float
    {
        $use = 0.0;
        foreach ($this->tiles as $tile) {
            if ($tile['page'] === $page) {
                $use = max($use, $tile['covered']);
            }
        }

        return $use;
    }

    /**
     * @param  list<float>  $outline
     * @return list<float>
     */
    private static function moved(array $outline, PageTile $tile): array
    {
        $out = [];
        foreach ($outline as $k => $x) {
            $out[] = $x + ($k % 2 === 0 ? $tile->tileU : $tile->tileV);
        }

        return $out;
    }

    /**
     * @return array{float, float, float}
     */
    private static function middle(Mesh $mesh, int $triangle): array
    {
        $out = [];
        for ($k = 0; $k < 3; $k++) {
            $out[] = ($mesh->positions[3 * $mesh->triangles[3 * $triangle] + $k] + $mesh->positions[3 * $mesh->triangles[3 * $triangle + 1] + $k] + $mesh->positions[3 * $mesh->triangles[3 * $triangle + 2] + $k]) / 3;
        }

        /** @var array{float, float, float} */
        return $out;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['tiles' => $this->tiles, 'nearest' => $this->nearest, 'overlapping' => $this->overlapping];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{tiles: list<array{page: string, u: int, v: int, triangles: int, overlap: float, covered: float, overlapWhole: bool, gapsWhole: bool, pairs: list<array{one: int, two: int, area: float, count: int, where: list<array{float, float, float}>}>, regions: list<list<float>>, gaps: list<array{one: array{int, int}, two: array{int, int}, gap: float, ends: array{float, float, float, float}, where: list<array{float, float, float}>}>}>, nearest: list<array<int, float>>, overlapping: list<list<int>>} $stored */
        return new self($stored['tiles'], $stored['nearest'], $stored['overlapping']);
    }
}
