<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Which positions are one vertex: those equal as float32 (METHODS, "Weld").
 */
final class Weld
{
    /**
     * @param  list<float>  $positions  xyz, n×3
     * @return list<int> for each position the number of the first position at the same place
     */
    public static function of(array $positions): array
    {
        $bytes = Bytes::packFloats(Bytes::toFloat32($positions));
        $count = intdiv(count($positions), 3);
        $first = [];
        $welded = [];
        for ($i = 0; $i < $count; $i++) {
            $key = substr($bytes, 12 * $i, 12);
            $welded[] = $first[$key] ??= $i;
        }

        return $welded;
    }
}
