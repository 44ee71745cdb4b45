<?php

declare(strict_types=1);

namespace Anvil\Changes;

use Anvil\Geometry\Mesh;

/**
 * The turn, shift and even scale that takes one mesh onto another of the same corners, where one does.
 */
final readonly class Motion
{
    /**
     * @param  list<float>  $rotation  row by row, 3×3, without the scale
     * @param  float  $turn  in degrees
     * @param  float  $distance  between the middles of the corners, in file units
     * @param  float  $greatest  that a corner went, in file units
     */
    private function __construct(public array $rotation, public float $turn, public float $factor, public float $distance, public float $greatest)
    {
    }

    /**
     * Both meshes have the same number of triangles, corner for corner.
     *
     * @param  float  $slack  that a corner may be off, in file units
     */
    public static function between(Mesh $before, Mesh $after, float $slack): ?self
    {
        $count = count($before->triangles);
        [$b, $a] = [self::middle($before), self::middle($after)];
        [$i] = self::farthest($before, $count, static fn (float $x, float $y, float $z): float => ($x - $b[0]) ** 2 + ($y - $b[1]) ** 2 + ($z - $b[2]) ** 2);
        $first = self::unit(self::from($before, $i, $b));
        if ($first === null) {
            return null;
        }
        [$k] = self::farthest($before, $count, static function (float $x, float $y, float $z) use ($b, $first): float {
            [$x, $y, $z] = [$x - $b[0], $y - $b[1], $z - $b[2]];
            $along = $x * $first[0] + $y * $first[1] + $z * $first[2];

            return $x * $x + $y * $y + $z * $z - $along * $along;
        });
        $old = self::frame(self::from($before, $i, $b), self::from($before, $k, $b));
        $new = self::frame(self::from($after, $i, $a), self::from($after, $k, $a));
        if ($old === null || $new === null) {
            return null;
        }
        $factor = self::length(self::from($after, $i, $a)) / self::length(self::from($before, $i, $b));
        $rotation = [];
        for ($row = 0; $row < 3; $row++) {
            for ($column = 0; $column < 3; $column++) {
                $rotation[] = $new[0][$row] * $old[0][$column] + $new[1][$row] * $old[1][$column] + $new[2][$row] * $old[2][$column];
            }
        }
        [$r0, $r1, $r2, $r3, $r4, $r5, $r6, $r7, $r8] = $rotation;
        $p = $before->positions;
        $t = $before->triangles;
        $q = $after->positions;
        $s = $after->triangles;
        $most = $slack * $slack;
        $greatest = 0.0;
        for ($n = 0; $n < $count; $n++) {
            $from = 3 * $t[$n];
            $to = 3 * $s[$n];
            $x = $p[$from] - $b[0];
            $y = $p[$from + 1] - $b[1];
            $z = $p[$from + 2] - $b[2];
            $off = ($a[0] + $factor * ($r0 * $x + $r1 * $y + $r2 * $z) - $q[$to]) ** 2 + ($a[1] + $factor * ($r3 * $x + $r4 * $y + $r5 * $z) - $q[$to + 1]) ** 2 + ($a[2] + $factor * ($r6 * $x + $r7 * $y + $r8 * $z) - $q[$to + 2]) ** 2;
            // A mirrored one is off as well: its third axis points the other way.
            if ($off > $most) {
                return null;
            }
            $greatest = max($greatest, ($p[$from] - $q[$to]) ** 2 + ($p[$from + 1] - $q[$to + 1]) ** 2 + ($p[$from + 2] - $q[$to + 2]) ** 2);
        }
        // |R − 1| = 2·√2·sin(half the turn): exact for small turns, where the arc cosine is not.
        $size = sqrt(($r0 - 1) ** 2 + $r1 ** 2 + $r2 ** 2 + $r3 ** 2 + ($r4 - 1) ** 2 + $r5 ** 2 + $r6 ** 2 + $r7 ** 2 + ($r8 - 1) ** 2);

        $turn = 2 * asin(min(1.0, $size / (2 * M_SQRT2)));

        // A turn and a scale that move no corner by more than the slack are rounding.
        $reach = self::length(self::from($before, $i, $b));

        return new self($rotation, $turn * $reach > $slack ? rad2deg($turn) : 0.0, abs($factor - 1) * $reach > $slack ? $factor : 1.0, self::length([$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]]), sqrt($greatest));
    }

    /**
     * @param  callable(float, float, float): float  $of
     * @return array{int, float} number of the corner, and what it has most of
     */
    private static function farthest(Mesh $mesh, int $count, callable $of): array
    {
        $best = [0, -1.0];
        $seen = [];
        for ($i = 0; $i < $count; $i++) {
            $vertex = $mesh->triangles[$i];
            if (isset($seen[$vertex])) {
                continue;
            }
            $seen[$vertex] = true;
            $value = $of($mesh->positions[3 * $vertex], $mesh->positions[3 * $vertex + 1], $mesh->positions[3 * $vertex + 2]);
            $best = $value > $best[1] ? [$i, $value] : $best;
        }

        return $best;
    }

    /**
     * @return array{float, float, float} the mean of all corners
     */
    private static function middle(Mesh $mesh): array
    {
        $x = $y = $z = 0.0;
        foreach ($mesh->triangles as $vertex) {
            $x += $mesh->positions[3 * $vertex];
            $y += $mesh->positions[3 * $vertex + 1];
            $z += $mesh->positions[3 * $vertex + 2];
        }
        $count = max(1, count($mesh->triangles));

        return [$x / $count, $y / $count, $z / $count];
    }

    /**
     * @param  array{float, float, float}  $middle
     * @return array{float, float, float} from the middle to a corner
     */
    private static function from(Mesh $mesh, int $corner, array $middle): array
    {
        $at = 3 * $mesh->triangles[$corner];

        return [$mesh->positions[$at] - $middle[0], $mesh->positions[$at + 1] - $middle[1], $mesh->positions[$at + 2] - $middle[2]];
    }

    /**
     * @param  array{float, float, float}  $u
     * @param  array{float, float, float}  $v
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}}|null null where both lie on a line
     */
    private static function frame(array $u, array $v): ?array
    {
        $first = self::unit($u);
        if ($first === null) {
            return null;
        }
        $along = $v[0] * $first[0] + $v[1] * $first[1] + $v[2] * $first[2];
        $second = self::unit([$v[0] - $along * $first[0], $v[1] - $along * $first[1], $v[2] - $along * $first[2]]);

        return $second === null ? null : [$first, $second, [
            $first[1] * $second[2] - $first[2] * $second[1], $first[2] * $second[0] - $first[0] * $second[2], $first[0] * $second[1] - $first[1] * $second[0],
        ]];
    }

    /**
     * @param  array{float, float, float}  $v
     */
    private static function length(array $v): float
    {
        return sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);
    }

    /**
     * @param  array{float, float, float}  $v
     * @return array{float, float, float}|null
     */
    private static function unit(array $v): ?array
    {
        $length = self::length($v);

        return $length > 0.0 ? [$v[0] / $length, $v[1] / $length, $v[2] / $length] : null;
    }
}
