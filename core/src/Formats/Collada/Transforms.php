<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Geometry\Matrix;

/**
 * The transforms of a COLLADA node, applied in the order in which they stand (COLLADA 1.4.1, "node").
 *
 * @internal
 */
final class Transforms
{
    public static function of(XmlNode $node): Matrix
    {
        $matrix = Matrix::identity();
        foreach ($node->children as $child) {
            $one = match ($child->name) {
                'matrix' => self::rowMajor($child->floats(16)),
                'translate' => Matrix::ofTrs($child->floats(3), [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0]),
                'scale' => Matrix::ofTrs([0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 1.0], $child->floats(3)),
                'rotate' => self::rotation($child->floats(4)),
                'lookat' => self::lookAt($child->floats(9)),
                'skew' => self::skew($child->floats(7)),
                default => null,
            };
            $matrix = $one === null ? $matrix : $matrix->times($one);
        }

        return $matrix;
    }

    /**
     * @param  list<float>  $m  16, row by row as the format has them
     */
    private static function rowMajor(array $m): Matrix
    {
        return Matrix::of([$m[0], $m[4], $m[8], $m[12], $m[1], $m[5], $m[9], $m[13], $m[2], $m[6], $m[10], $m[14], $m[3], $m[7], $m[11], $m[15]]);
    }

    /**
     * @param  list<float>  $r  axis and degrees
     */
    private static function rotation(array $r): Matrix
    {
        $length = sqrt($r[0] ** 2 + $r[1] ** 2 + $r[2] ** 2);
        if ($length === 0.0) {
            return Matrix::identity();
        }
        $half = deg2rad($r[3]) / 2;
        $sine = sin($half) / $length;

        return Matrix::ofTrs([0.0, 0.0, 0.0], [$r[0] * $sine, $r[1] * $sine, $r[2] * $sine, cos($half)], [1.0, 1.0, 1.0]);
    }

    /**
     * @param  list<float>  $l  eye, interest, up
     */
    private static function lookAt(array $l): Matrix
    {
        $z = self::unit([$l[0] - $l[3], $l[1] - $l[4], $l[2] - $l[5]]);
        $x = self::unit(self::cross([$l[6], $l[7], $l[8]], $z));
        $y = self::cross($z, $x);

        return Matrix::of([$x[0], $x[1], $x[2], 0.0, $y[0], $y[1], $y[2], 0.0, $z[0], $z[1], $z[2], 0.0, $l[0], $l[1], $l[2], 1.0]);
    }

    /**
     * Degrees, the axis that turns, the axis it turns along (RenderMan's skew).
     *
     * @param  list<float>  $s
     */
    private static function skew(array $s): Matrix
    {
        $turned = self::unit([$s[1], $s[2], $s[3]]);
        $along = self::unit([$s[4], $s[5], $s[6]]);
        $dot = $turned[0] * $along[0] + $turned[1] * $along[1] + $turned[2] * $along[2];
        $across = self::unit([$turned[0] - $dot * $along[0], $turned[1] - $dot * $along[1], $turned[2] - $dot * $along[2]]);
        $angle = acos(max(-1.0, min(1.0, $dot))) - deg2rad($s[0]);
        $by = sin($angle) === 0.0 ? 0.0 : cos($angle) / sin($angle) - $dot / max(1e-12, sqrt(1 - $dot * $dot));
        $m = [];
        for ($c = 0; $c < 3; $c++) {
            for ($r = 0; $r < 3; $r++) {
                $m[] = ($r === $c ? 1.0 : 0.0) + $by * $along[$r] * $across[$c];
            }
            $m[] = 0.0;
        }

        return Matrix::of([...$m, 0.0, 0.0, 0.0, 1.0]);
    }

    /**
     * @param  array{float, float, float}  $v
     * @return array{float, float, float}
     */
    private static function unit(array $v): array
    {
        $length = sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);

        return $length > 0.0 ? [$v[0] / $length, $v[1] / $length, $v[2] / $length] : [0.0, 0.0, 0.0];
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return array{float, float, float}
     */
    private static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }
}
