<?php

declare(strict_types=1);

namespace Anvil\Tests\Figures;

use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Spatial\TriangleTree;
use Anvil\Tests\Clearance\GoodAssetsTest;
use PHPUnit\Framework\TestCase;

/**
 * How well trees are built decides nothing but the time that rays take, so no other test would see them grow worse: their shape is held here, and
 * their cost as the surface area heuristic has it (J. D. MacDonald, K. S. Booth, "Heuristics for Ray Tracing Using Space Subdivision", 1990).
 */
final class TreeFiguresTest extends TestCase
{
    public function test_no_tree_changes_its_shape(): void
    {
        $figures = [];
        foreach (self::shapes() as $name => $shape) {
            $mesh = $shape->triangulated()->mesh();
            foreach (['of' => TriangleTree::of($mesh->positions, $mesh->triangles), 'fine' => TriangleTree::fine($mesh->positions, $mesh->triangles)] as $way => $tree) {
                $figures["$name, $way"] = [$tree->nodeCount(), self::cost($tree), $tree->hasPieces, self::sum($tree->order), self::sum($tree->skip), self::sum($tree->second), self::sum($tree->first), self::sum($tree->size)];
            }
        }
        self::assertSame([], Kept::moved('trees', $figures, 1e-9));
    }

    /** A tree whose boxes are tighter costs less: that is what it is for. */
    public function test_fine_trees_cost_less_where_triangles_are_long(): void
    {
        foreach (self::shapes() as $name => $shape) {
            $mesh = $shape->triangulated()->mesh();
            $fine = self::cost(TriangleTree::fine($mesh->positions, $mesh->triangles));
            self::assertLessThan(str_contains($name, 'sliver') ? 0.85 : 1.05, $fine / self::cost(TriangleTree::of($mesh->positions, $mesh->triangles)), $name);
        }
    }

    /**
     * @return array<string, Polygons>
     */
    private static function shapes(): array
    {
        $state = 7;
        $next = static function () use (&$state): float {
            $state = ($state * 1_103_515_245 + 12_345) % 2_147_483_648;

            return $state / 2_147_483_648;
        };
        $loose = new Polygons;
        for ($i = 0; $i < 600; $i++) {
            $at = [4 * $next(), 2 * $next(), $next()];
            $size = 0.02 + 0.6 * $next() ** 6;
            $corner = static fn (): array => [$at[0] + $size * $next(), $at[1] + $size * $next(), $at[2] + $size * $next()];
            $loose = $loose->with(new Polygons([$corner(), $corner(), $corner()], [[0, 1, 2]]));
        }
        $slivers = [];
        for ($i = 0; $i < 12; $i++) {
            $slivers[] = Shapes::cylinder(0.1, 6, 40)->turned($i % 3, 31 * $i)->moved(0.4 * $i, 0.3 * ($i % 4), 0.2 * ($i % 5));
        }

        return [
            'organic' => GoodAssetsTest::potato(24, 40), 'flat board' => Shapes::roundedBox(6, 0.1, 3, 0.02, 2, 9), 'loose' => $loose, 'slivers' => Polygons::join($slivers),
            'great beside small' => GoodAssetsTest::potato(24, 40)->scaled(0.1, 0.1, 0.1)->with(Shapes::box(4, 3, 5)->turned(0, 25)->turned(1, 35)),
            'one sheet' => Shapes::sheet(2, 1, 15, 20), 'one triangle' => new Polygons([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]], [[0, 1, 2]]),
            'all in one place' => Polygons::join(array_fill(0, 40, Shapes::sheet(1, 1))),
        ];
    }

    /** Boxes met by a line through the root's, and triangles tried in leaves, weighted alike. */
    private static function cost(TriangleTree $tree): float
    {
        $half = static function (int $i) use ($tree): float {
            [$x, $y, $z] = [$tree->maxX[$i] - $tree->minX[$i], $tree->maxY[$i] - $tree->minY[$i], $tree->maxZ[$i] - $tree->minZ[$i]];

            return $x * $y + $y * $z + $z * $x;
        };
        $sum = 0.0;
        for ($i = 0; $i < $tree->nodeCount(); $i++) {
            $sum += $half($i) * (1 + ($tree->second[$i] > 0 ? 0 : $tree->size[$i]));
        }

        return $sum / max(1e-30, $half(0));
    }

    /**
     * @param  array<int, int>  $list
     */
    private static function sum(array $list): string
    {
        return hash('crc32b', implode(' ', $list));
    }
}
