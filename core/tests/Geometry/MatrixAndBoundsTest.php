<?php

declare(strict_types=1);

namespace Anvil\Tests\Geometry;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Matrix;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Transforms against what they do to points in closed form (glTF 2.0, section 5.25: translation, then rotation, then scale, column-major), and boxes.
 */
final class MatrixAndBoundsTest extends TestCase
{
    /**
     * A quarter turn about each axis, by the right hand: what becomes of x, y and z.
     *
     * @return iterable<string, array{list<float>, list<float>}>
     */
    public static function turns(): iterable
    {
        yield 'about x' => [[M_SQRT1_2, 0.0, 0.0, M_SQRT1_2], [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, -1.0, 0.0]];
        yield 'about y' => [[0.0, M_SQRT1_2, 0.0, M_SQRT1_2], [0.0, 0.0, -1.0, 0.0, 1.0, 0.0, 1.0, 0.0, 0.0]];
        yield 'about z' => [[0.0, 0.0, M_SQRT1_2, M_SQRT1_2], [0.0, 1.0, 0.0, -1.0, 0.0, 0.0, 0.0, 0.0, 1.0]];
        yield 'none' => [[0.0, 0.0, 0.0, 1.0], [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]];
        yield 'of a quaternion three times as long' => [[0.0, 0.0, 3 * M_SQRT1_2, 3 * M_SQRT1_2], [0.0, 1.0, 0.0, -1.0, 0.0, 0.0, 0.0, 0.0, 1.0]];
        yield 'of no quaternion at all' => [[0.0, 0.0, 0.0, 0.0], [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]];
    }

    /**
     * @param  list<float>  $quaternion
     * @param  list<float>  $axes
     */
    #[DataProvider('turns')]
    public function test_a_rotation_turns_the_axes(array $quaternion, array $axes): void
    {
        $turn = Matrix::ofTrs([0.0, 0.0, 0.0], $quaternion, [1.0, 1.0, 1.0]);
        self::assertEqualsWithDelta($axes, $turn->points([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]), 1e-12);
        self::assertEqualsWithDelta($axes, $turn->normals([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]), 1e-12);
        self::assertEqualsWithDelta(1.0, $turn->determinant(), 1e-12);
        self::assertEqualsWithDelta(0.0, $turn->unevenness(), 1e-12);
        self::assertFalse($turn->isPlainMirror(1e-6));
    }

    public function test_scale_comes_before_rotation_and_both_before_translation(): void
    {
        $matrix = Matrix::ofTrs([10.0, 20.0, 30.0], [0.0, 0.0, M_SQRT1_2, M_SQRT1_2], [2.0, 3.0, 4.0]);
        // x is doubled and turned onto y, y made three times as long and turned onto −x.
        self::assertEqualsWithDelta([10.0, 22.0, 30.0, 7.0, 20.0, 30.0, 10.0, 20.0, 34.0], $matrix->points([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]), 1e-12);
        self::assertEqualsWithDelta(24.0, $matrix->determinant(), 1e-12);
        self::assertEqualsWithDelta(0.5, $matrix->unevenness(), 1e-12);
        self::assertSame([10.0, 20.0, 30.0], $matrix->origin());
    }

    public function test_a_product_is_one_after_the_other_and_an_inverse_undoes_it(): void
    {
        $outer = Matrix::ofTrs([1.0, -2.0, 3.0], [0.1, 0.5, -0.3, 0.8], [2.0, 0.5, -1.5]);
        $inner = Matrix::ofTrs([-4.0, 0.25, 7.0], [0.7, -0.1, 0.2, 0.4], [1.0, 3.0, 0.2]);
        $points = [0.3, -1.7, 2.9, 11.0, 0.0, -0.5];
        self::assertEqualsWithDelta($outer->points($inner->points($points)), $outer->times($inner)->points($points), 1e-12);
        self::assertEqualsWithDelta($outer->determinant() * $inner->determinant(), $outer->times($inner)->determinant(), 1e-12);
        $undone = $outer->inverse() ?? self::fail('it flattens nothing');
        self::assertEqualsWithDelta($points, $undone->points($outer->points($points)), 1e-12);
        self::assertEqualsWithDelta(Matrix::identity()->m, $outer->times($undone)->m, 1e-12);
        self::assertEqualsWithDelta([5.0, -6.0, 0.5], array_slice($outer->points($outer->unapplied([5.0 - 1.0, -6.0 + 2.0, 0.5 - 3.0]) ?? []), 0, 3), 1e-12);
        self::assertNull(Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 0.0, 1.0])->inverse());
    }

    /** Normals stand on what they stood on: under an uneven scale a tangent and the normal stay at right angles. */
    public function test_normals_stay_at_right_angles_and_keep_their_length(): void
    {
        foreach ([[3.0, 1.0, 0.25], [-3.0, 1.0, 0.25], [-1.0, -1.0, -1.0]] as $scale) {
            $matrix = Matrix::ofTrs([5.0, 5.0, 5.0], [0.2, -0.4, 0.1, 0.9], $scale);
            $tangent = [0.6, 0.8, 0.0];
            $normal = [-0.8, 0.6, 0.0];
            $n = $matrix->normals($normal);
            $t = $matrix->tangents([...$tangent, 1.0]);
            self::assertEqualsWithDelta(0.0, $n[0] * $t[0] + $n[1] * $t[1] + $n[2] * $t[2], 1e-12);
            self::assertEqualsWithDelta([1.0, 1.0], [sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2), sqrt($t[0] ** 2 + $t[1] ** 2 + $t[2] ** 2)], 1e-12);
            self::assertSame($matrix->determinant() < 0 ? -1.0 : 1.0, $t[3]);
            // Twice as long stays twice as long.
            self::assertEqualsWithDelta(array_map(static fn (float $x): float => 2 * $x, $n), $matrix->normals([-1.6, 1.2, 0.0]), 1e-12);
        }
        self::assertSame([0.0, 0.0, 0.0], Matrix::scaling(2.0)->normals([0.0, 0.0, 0.0]));
    }

    public function test_what_is_off_none_at_all_is_measured(): void
    {
        self::assertTrue(Matrix::identity()->isIdentity());
        self::assertFalse(Matrix::ofTrs([0.0, 1e-9, 0.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0])->isIdentity());
        self::assertSame(0.0, Matrix::ofTrs([7.0, 8.0, 9.0], [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0])->offIdentity(), 'a shift is no rotation and no scale');
        self::assertEqualsWithDelta(0.5, Matrix::scaling(1.5)->offIdentity(), 1e-12);
        self::assertEqualsWithDelta(2.0, Matrix::scaling(3.0)->linearDifference(Matrix::scaling(1.0)), 1e-12);
        $mirror = static fn (float ...$scale): bool => Matrix::ofTrs([1.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], array_values($scale))->isPlainMirror(1e-4);
        self::assertSame([true, true, false, false, true, false], [$mirror(-1.0, 1.0, 1.0), $mirror(-1.0, -1.0, -1.0), $mirror(-1.0, -1.0, 1.0), $mirror(-2.0, 1.0, 1.0), $mirror(1.00005, 1.0, -1.0), $mirror(1.0, 1.0, 1.0)]);
    }

    public function test_boxes_hold_their_points_and_know_their_gaps(): void
    {
        $box = Bounds::ofPositions([1.0, 5.0, -2.0, -3.0, 0.5, 4.0, 0.0, 1.0, 1.0]) ?? self::fail('there are points');
        self::assertSame(['min' => [-3.0, 0.5, -2.0], 'max' => [1.0, 5.0, 4.0]], $box->toArray());
        self::assertSame([-1.0, 2.75, 1.0], $box->centre());
        self::assertEqualsWithDelta(sqrt(16 + 20.25 + 36), $box->diagonal(), 1e-12);
        self::assertNull(Bounds::ofPositions([]));
        $corners = array_chunk($box->corners(), 3);
        self::assertCount(8, array_unique(array_map(json_encode(...), $corners)));
        foreach ($corners as $corner) {
            foreach ($corner as $k => $value) {
                self::assertContains($value, [$box->min[$k], $box->max[$k]]);
            }
        }
        $unit = Bounds::of([0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        self::assertSame([0.0, 0.0, 1.0, 5.0, 3.0], [
            $unit->gapTo($unit->moved([0.5, 0.5, 0.5])), $unit->gapTo($unit->moved([1.0, 0.0, 0.0])), $unit->gapTo($unit->moved([0.0, -2.0, 0.0])), $unit->gapTo($unit->moved([4.0, 0.0, -5.0])), $unit->gapTo($unit->moved([2.0, 3.0, 3.0])),
        ]);
        self::assertTrue($unit->meets($unit->moved([1.0, 1.0, 1.0])), 'boxes that touch meet');
        self::assertFalse($unit->meets($unit->moved([1.0 + 1e-12, 0.0, 0.0])));
        foreach ([0, 1, 2] as $k) {
            $away = [0.0, 0.0, 0.0];
            foreach ([-1.5, 1.5] as $by) {
                $away[$k] = $by;
                self::assertFalse($unit->meets($unit->moved($away)));
                self::assertTrue($unit->meets($unit->moved($away)->grown(0.5)));
            }
        }
        self::assertSame(['min' => [-1.0, 0.0, 0.0], 'max' => [1.0, 1.0, 2.0]], Bounds::union([null, $unit, Bounds::of([-1.0, 0.5, 1.0], [0.0, 0.6, 2.0])])?->toArray());
        self::assertNull(Bounds::union([null, null]));
    }
}
