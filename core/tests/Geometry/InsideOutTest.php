<?php

declare(strict_types=1);

namespace Anvil\Tests\Geometry;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshHealth;
use PHPUnit\Framework\TestCase;

/**
 * A closed shell turned inside out is a cavity where another shell goes round it, and a fault elsewhere: tetrahedra against plain algebra.
 */
final class InsideOutTest extends TestCase
{
    private const FACES = [0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3];

    public function test_what_another_shell_goes_round_is_a_cavity(): void
    {
        mt_srand(21);
        $counts = ['in' => 0, 'out' => 0];
        while (min($counts) < 40) {
            $outer = self::tetrahedron(1.0, [0.0, 0.0, 0.0]);
            // Somewhere in the outer one's box, so small that all of it lies on one side of each face.
            $place = array_map(static fn (int $k): float => self::between(min(array_column($outer, $k)), max(array_column($outer, $k))), [0, 1, 2]);
            $sides = array_map(static fn (array $face): float => self::height($outer, $face, $place), array_chunk(self::FACES, 3));
            if (min(array_map(abs(...), $sides)) < 0.02) {
                continue;
            }
            $isIn = max($sides) < 0.0;
            $counts[$isIn ? 'in' : 'out']++;
            $inner = self::tetrahedron(0.002, $place);
            $positions = array_merge(...$outer, ...$inner);
            // The inner one wound the other way round.
            $turned = [];
            foreach (array_chunk(self::FACES, 3) as [$a, $b, $c]) {
                array_push($turned, 4 + $a, 4 + $c, 4 + $b);
            }
            $health = MeshHealth::of(new Mesh($positions, [...self::FACES, ...$turned]));
            self::assertSame($isIn ? 0 : 4, $health->insideOut, (string) json_encode($positions));
            self::assertSame(0, $health->againstNeighbours);
            // Both the right way round: nothing is told, wherever it lies.
            self::assertSame(0, MeshHealth::of(new Mesh($positions, [...self::FACES, ...array_map(static fn (int $v): int => 4 + $v, self::FACES)]))->insideOut);
        }
    }

    /**
     * @param  array<int, float>  $at
     * @return list<array{float, float, float}> four corners, of positive volume
     */
    private static function tetrahedron(float $size, array $at): array
    {
        do {
            $corners = [];
            for ($i = 0; $i < 4; $i++) {
                $corners[] = [$at[0] + $size * self::between(-1, 1), $at[1] + $size * self::between(-1, 1), $at[2] + $size * self::between(-1, 1)];
            }
            $volume = -self::height($corners, [0, 2, 1], $corners[3]);
        } while ($volume < 0.4 * $size ** 3);

        return $corners;
    }

    /**
     * Twice the area of a face times the height of a place over it.
     *
     * @param  list<array{float, float, float}>  $corners
     * @param  array<int, int>  $face
     * @param  array<int, float>  $place
     */
    private static function height(array $corners, array $face, array $place): float
    {
        [$a, $b, $c] = array_map(static fn (int $v): array => $corners[$v], array_values($face));
        $u = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        $v = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
        $n = [$u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0]];

        return $n[0] * ($place[0] - $a[0]) + $n[1] * ($place[1] - $a[1]) + $n[2] * ($place[2] - $a[2]);
    }

    private static function between(float $low, float $high): float
    {
        return $low + ($high - $low) * mt_rand() / mt_getrandmax();
    }
}
