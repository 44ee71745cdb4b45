<?php

declare(strict_types=1);

namespace Anvil\Proof;

/**
 * Texels outside islands, up to a distance: how far the nearest texel inside is, and which.
 */
final class Outskirts
{
    /**
     * @param  list<int>  $owners  triangle at each texel, −1 outside
     * @param  float  $reach  px from centre to centre
     * @return array<int, array{float, int}> texel → distance and the one inside, of several the first in rows
     */
    public static function of(array $owners, int $size, float $reach): array
    {
        $border = [];
        foreach ($owners as $i => $owner) {
            if ($owner < 0) {
                continue;
            }
            $x = $i % $size;
            if (($x > 0 && $owners[$i - 1] < 0) || ($x < $size - 1 && $owners[$i + 1] < 0) || ($i >= $size && $owners[$i - $size] < 0) || ($i < $size * ($size - 1) && $owners[$i + $size] < 0)) {
                $border[] = $i;
            }
        }
        $offsets = [];
        $most = (int) floor($reach + 1e-9);
        for ($dy = -$most; $dy <= $most; $dy++) {
            for ($dx = -$most; $dx <= $most; $dx++) {
                $distance = sqrt($dx * $dx + $dy * $dy);
                if ($distance > 0.0 && $distance <= $reach + 1e-9) {
                    $offsets[] = [$distance, $dx, $dy];
                }
            }
        }
        sort($offsets);
        $out = [];
        foreach ($offsets as [$distance, $dx, $dy]) {
            foreach ($border as $i) {
                $x = $i % $size + $dx;
                $y = intdiv($i, $size) + $dy;
                $at = $y * $size + $x;
                if ($x >= 0 && $y >= 0 && $x < $size && $y < $size && $owners[$at] < 0 && ! isset($out[$at])) {
                    $out[$at] = [$distance, $i];
                }
            }
        }

        return $out;
    }
}
