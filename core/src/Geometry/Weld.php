<?php

declare(strict_types=1);

namespace Anvil\Geometry;

use WeakMap;

/**
 * Which positions are one vertex: those equal as float32 (METHODS, "Weld").
 */
final class Weld
{
    /** @var WeakMap<Mesh, list<int>>|null what is asked of one mesh again and again */
    private static ?WeakMap $known = null;

    /**
     * @return list<int> as `of`
     */
    public static function ofMesh(Mesh $mesh): array
    {
        self::$known ??= new WeakMap;

        return self::$known[$mesh] ??= self::of($mesh->positions);
    }

    /**
     * By a table with open addressing: for meshes of millions of positions that takes a third of the memory of one by strings.
     *
     * @param  list<float>  $positions  xyz, n×3
     * @return list<int> for each position the number of the first position at the same place
     */
    public static function of(array $positions): array
    {
        $positions = Bytes::toFloat32($positions);
        $count = intdiv(count($positions), 3);
        $size = 16;
        while (3 * $size < 4 * $count) {
            $size *= 2;
        }
        $mask = $size - 1;
        $table = array_fill(0, $size, -1);
        $bytes = Bytes::packFloats($positions);
        $welded = $count === 0 ? [] : array_fill(0, $count, 0);
        for ($i = 0, $v = 0; $i < $count; $i++, $v += 3) {
            $h = crc32(substr($bytes, 12 * $i, 12)) & $mask;
            $j = $table[$h];
            while ($j >= 0 && ($positions[3 * $j] !== $positions[$v] || $positions[3 * $j + 1] !== $positions[$v + 1] || $positions[3 * $j + 2] !== $positions[$v + 2])) {
                $h = ($h + 1) & $mask;
                $j = $table[$h];
            }
            if ($j < 0) {
                $table[$h] = $j = $i;
            }
            $welded[$i] = $j;
        }

        return array_values($welded);
    }
}
