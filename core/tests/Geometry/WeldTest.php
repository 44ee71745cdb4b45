<?php

declare(strict_types=1);

namespace Anvil\Tests\Geometry;

use Anvil\Geometry\Bytes;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Shells;
use Anvil\Geometry\Weld;
use PHPUnit\Framework\TestCase;

/**
 * Welding and shells against the plain way: a table by the bytes of each position, a search from triangle to triangle.
 */
final class WeldTest extends TestCase
{
    public function test_positions_that_are_equal_as_float32_are_one_vertex(): void
    {
        mt_srand(11);
        foreach ([0, 1, 2, 11, 12, 13, 500, 20_000] as $count) {
            $positions = [];
            for ($i = 0; $i < 3 * $count; $i++) {
                // Few places, some of them apart in the last bit only, some that are one as float32, both zeros.
                $positions[] = [0.0, -0.0, 0.1, 0.1 + 1e-12, 0.1 + 1e-8, 1.0, -1.0, 1e30, -1e-30][mt_rand(0, 8)] * (1 + mt_rand(0, 3));
            }
            $first = $wanted = [];
            $bytes = Bytes::packFloats(Bytes::toFloat32($positions));
            for ($i = 0; $i < $count; $i++) {
                $wanted[] = $first[substr($bytes, 12 * $i, 12)] ??= $i;
            }
            self::assertSame($wanted, Weld::of($positions), "$count positions");
            self::assertSame($wanted, Weld::ofMesh(new Mesh($positions, [])), "$count positions");
        }
        self::assertSame([0, 0, 2], Weld::of([0.0, 0.0, 0.0, -0.0, 0.0, -0.0, 0.0, 1.0, 0.0]));
    }

    public function test_triangles_hang_together_over_shared_places(): void
    {
        mt_srand(12);
        for ($round = 0; $round < 40; $round++) {
            $triangles = [];
            for ($t = 0, $count = mt_rand(1, 30); $t < $count; $t++) {
                array_push($triangles, mt_rand(0, 39), mt_rand(0, 39), mt_rand(0, 39));
            }
            // Every vertex twice: the second half lies on the first.
            $positions = [];
            for ($v = 0; $v < 40; $v++) {
                array_push($positions, (float) ($v % 20), 0.0, 1.0);
            }
            $shells = Shells::ofMesh(new Mesh($positions, $triangles));
            self::assertSame($shells, Shells::of($positions, $triangles));
            for ($a = 0; $a < $count; $a++) {
                $reached = self::reached($triangles, $a);
                $lowest = min(array_map(static fn (int $t): int => min($triangles[3 * $t] % 20, $triangles[3 * $t + 1] % 20, $triangles[3 * $t + 2] % 20), array_keys($reached)));
                self::assertSame($lowest, $shells[$a]);
                for ($b = 0; $b < $count; $b++) {
                    self::assertSame(isset($reached[$b]), $shells[$a] === $shells[$b]);
                }
            }
        }
    }

    /**
     * @param  list<int>  $triangles
     * @return array<int, true>
     */
    private static function reached(array $triangles, int $from): array
    {
        $reached = [$from => true];
        $waiting = [$from];
        while (($t = array_pop($waiting)) !== null) {
            $places = array_map(static fn (int $v): int => $v % 20, array_slice($triangles, 3 * $t, 3));
            for ($other = 0, $count = intdiv(count($triangles), 3); $other < $count; $other++) {
                if (! isset($reached[$other]) && array_intersect($places, array_map(static fn (int $v): int => $v % 20, array_slice($triangles, 3 * $other, 3))) !== []) {
                    $reached[$other] = true;
                    $waiting[] = $other;
                }
            }
        }

        return $reached;
    }
}
