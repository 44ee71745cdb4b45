<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * ΔE00, CIE 142-2001, as written out by G. Sharma, W. Wu and E. N. Dalal, "The CIEDE2000 Color-Difference Formula:
 * Implementation Notes, Supplementary Test Data, and Mathematical Observations", Color Research and Application 30 (2005).
 */
final class DeltaE00
{
    /**
     * @param  array{float, float, float}  $one  L, a, b
     * @param  array{float, float, float}  $two
     */
    public static function of(array $one, array $two): float
    {
        [$l1, $a1, $b1] = $one;
        [$l2, $a2, $b2] = $two;
        $c7 = ((hypot($a1, $b1) + hypot($a2, $b2)) / 2) ** 7;
        $g = 0.5 * (1 - sqrt($c7 / ($c7 + 6103515625.0)));
        $a1 *= 1 + $g;
        $a2 *= 1 + $g;
        $c1 = hypot($a1, $b1);
        $c2 = hypot($a2, $b2);
        $h1 = self::hue($a1, $b1);
        $h2 = self::hue($a2, $b2);
        $product = $c1 * $c2;

        $dh = $h2 - $h1;
        if ($product === 0.0) {
            $dh = 0.0;
        } elseif ($dh > 180) {
            $dh -= 360;
        } elseif ($dh < -180) {
            $dh += 360;
        }
        $dHue = 2 * sqrt($product) * sin(deg2rad($dh / 2));

        $l = ($l1 + $l2) / 2;
        $c = ($c1 + $c2) / 2;
        $h = $h1 + $h2;
        if ($product !== 0.0) {
            if (abs($h1 - $h2) <= 180) {
                $h /= 2;
            } else {
                $h = $h < 360 ? ($h + 360) / 2 : ($h - 360) / 2;
            }
        }
        $t = 1 - 0.17 * cos(deg2rad($h - 30)) + 0.24 * cos(deg2rad(2 * $h))
            + 0.32 * cos(deg2rad(3 * $h + 6)) - 0.20 * cos(deg2rad(4 * $h - 63));
        $sl = 1 + 0.015 * ($l - 50) ** 2 / sqrt(20 + ($l - 50) ** 2);
        $sc = 1 + 0.045 * $c;
        $sh = 1 + 0.015 * $c * $t;
        $c7 = $c ** 7;
        $rt = -2 * sqrt($c7 / ($c7 + 6103515625.0)) * sin(deg2rad(60 * exp(-((($h - 275) / 25) ** 2))));
        $x = ($l2 - $l1) / $sl;
        $y = ($c2 - $c1) / $sc;
        $z = $dHue / $sh;

        return sqrt(max(0.0, $x * $x + $y * $y + $z * $z + $rt * $y * $z));
    }

    private static function hue(float $a, float $b): float
    {
        if ($a === 0.0 && $b === 0.0) {
            return 0.0;
        }
        $hue = rad2deg(atan2($b, $a));

        return $hue < 0 ? $hue + 360 : $hue;
    }
}
