<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Normals as files give them, before anything is made of them.
 */
final class Normals
{
    /**
     * How many are zero, which is also what readers keep of a NaN.
     *
     * @param  list<float>  $normals  xyz
     */
    public static function bad(array $normals): int
    {
        $bad = 0;
        for ($i = 0, $n = count($normals); $i + 2 < $n; $i += 3) {
            if ($normals[$i] === 0.0 && $normals[$i + 1] === 0.0 && $normals[$i + 2] === 0.0) {
                $bad++;
            }
        }

        return $bad;
    }

    /**
     * The same with every normal that is not finite as zero.
     *
     * @param  list<float>  $normals  xyz
     * @return list<float>
     */
    public static function finite(array $normals): array
    {
        if (is_finite(array_sum($normals))) {
            return $normals;
        }
        $out = [];
        for ($i = 0, $n = count($normals); $i + 2 < $n; $i += 3) {
            $sum = $normals[$i] + $normals[$i + 1] + $normals[$i + 2];
            if ($sum - $sum !== 0.0) {
                array_push($out, 0.0, 0.0, 0.0);
            } else {
                $out[] = $normals[$i];
                $out[] = $normals[$i + 1];
                $out[] = $normals[$i + 2];
            }
        }

        return $out;
    }

    /**
     * How many are off unit length by over 1e-3, zero ones aside, and the length of the one that is off most.
     *
     * @param  list<float>  $normals  xyz
     * @return array{int, float}
     */
    public static function long(array $normals): array
    {
        $long = 0;
        $worst = 1.0;
        for ($i = 0, $n = count($normals); $i + 2 < $n; $i += 3) {
            $square = $normals[$i] ** 2 + $normals[$i + 1] ** 2 + $normals[$i + 2] ** 2;
            // (1 ± 1e-3)², with room for float32.
            if ($square > 0.0 && ($square < 0.997999 || $square > 1.002002)) {
                $long++;
                $length = sqrt($square);
                if (abs($length - 1.0) > abs($worst - 1.0)) {
                    $worst = $length;
                }
            }
        }

        return [$long, $worst];
    }
}
