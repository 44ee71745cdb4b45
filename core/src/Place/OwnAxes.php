<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Geometry\SurfacePoints;

/**
 * The axes on which the faces of a low poly lie best.
 */
final readonly class OwnAxes
{
    public function __construct(private SurfacePoints $points)
    {
    }

    /**
     * Three axes at right angles on which the low poly's faces lie best: the direction of the greatest face area, then that of the
     * greatest area across it.
     *
     * @return list<array{float, float, float}>
     */
    public function all(): array
    {
        $first = $this->widest(null);
        if ($first === null) {
            return [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];
        }
        $second = $this->widest($first);
        if ($second === null) {
            $second = abs($first[0]) < 0.9 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        }
        $dot = $first[0] * $second[0] + $first[1] * $second[1] + $first[2] * $second[2];
        $second = [$second[0] - $dot * $first[0], $second[1] - $dot * $first[1], $second[2] - $dot * $first[2]];
        $length = sqrt($second[0] ** 2 + $second[1] ** 2 + $second[2] ** 2);
        $second = [$second[0] / $length, $second[1] / $length, $second[2] / $length];
        $third = [$first[1] * $second[2] - $first[2] * $second[1], $first[2] * $second[0] - $first[0] * $second[2], $first[0] * $second[1] - $first[1] * $second[0]];

        return [$first, $second, $third];
    }

    /**
     * The axes of a sheet, whose faces all look about one way: along which its slopes differ most, across that, and the way it looks.
     *
     * @return list<array{float, float, float}>
     */
    public function ofSlopes(): array
    {
        $n = $this->points->normals;
        $up = self::unit([self::sum($n, 0), self::sum($n, 1), self::sum($n, 2)]) ?? [0.0, 0.0, 1.0];
        $side = abs($up[0]) < 0.9 ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0];
        $first = self::unit(self::cross($up, $side)) ?? [0.0, 1.0, 0.0];
        $second = self::cross($up, $first);
        $a = $b = $c = 0.0;
        for ($i = 0, $count = count($n); $i < $count; $i += 3) {
            $x = $n[$i] * $first[0] + $n[$i + 1] * $first[1] + $n[$i + 2] * $first[2];
            $y = $n[$i] * $second[0] + $n[$i + 1] * $second[1] + $n[$i + 2] * $second[2];
            $a += $x * $x;
            $b += $x * $y;
            $c += $y * $y;
        }
        // The greater axis of the ellipse that the slopes fill.
        $angle = atan2(2 * $b, $a - $c) / 2;
        [$cos, $sin] = [cos($angle), sin($angle)];
        $most = [$cos * $first[0] + $sin * $second[0], $cos * $first[1] + $sin * $second[1], $cos * $first[2] + $sin * $second[2]];

        return [$most, self::cross($up, $most), $up];
    }

    /**
     * @param  list<float>  $values
     */
    private static function sum(array $values, int $from): float
    {
        $sum = 0.0;
        for ($i = $from, $count = count($values); $i < $count; $i += 3) {
            $sum += $values[$i];
        }

        return $sum;
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

    /**
     * @param  array{float, float, float}  $vector
     * @return array{float, float, float}|null
     */
    private static function unit(array $vector): ?array
    {
        $length = sqrt($vector[0] ** 2 + $vector[1] ** 2 + $vector[2] ** 2);

        return $length > 1e-9 ? [$vector[0] / $length, $vector[1] / $length, $vector[2] / $length] : null;
    }

    /**
     * The direction that most of the low poly's area faces, either way, within 10°.
     *
     * @param  array{float, float, float}|null  $across  only directions at right angles to it
     * @return array{float, float, float}|null
     */
    private function widest(?array $across): ?array
    {
        $n = $this->points->normals;
        $count = count($n);
        $found = null;
        $most = 0;
        $tried = [];
        for ($i = 0; $i < $count; $i += 3) {
            $key = round($n[$i], 1).' '.round($n[$i + 1], 1).' '.round($n[$i + 2], 1);
            if (isset($tried[$key]) || ($across !== null && abs($n[$i] * $across[0] + $n[$i + 1] * $across[1] + $n[$i + 2] * $across[2]) > 0.1)) {
                continue;
            }
            $tried[$key] = true;
            $near = 0;
            for ($j = 0; $j < $count; $j += 3) {
                if (abs($n[$i] * $n[$j] + $n[$i + 1] * $n[$j + 1] + $n[$i + 2] * $n[$j + 2]) > 0.985) {
                    $near++;
                }
            }
            if ($near > $most) {
                $most = $near;
                $found = [$n[$i], $n[$i + 1], $n[$i + 2]];
            }
        }

        return $found;
    }

    /**
     * @param  array{float, float, float}  $axis
     */
    public static function named(array $axis): string
    {
        foreach (['x', 'y', 'z'] as $k => $name) {
            if (abs($axis[$k]) > 0.999) {
                return $name;
            }
        }

        return sprintf('(%.2f, %.2f, %.2f)', $axis[0], $axis[1], $axis[2]);
    }
}
