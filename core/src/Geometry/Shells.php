<?php

declare(strict_types=1);

namespace Anvil\Geometry;

use WeakMap;

/**
 * Which triangles hang together over shared places.
 */
final class Shells
{
    /** @var WeakMap<Mesh, list<int>>|null what is asked of one mesh again and again */
    private static ?WeakMap $known = null;

    /**
     * @return list<int> as `of`
     */
    public static function ofMesh(Mesh $mesh): array
    {
        self::$known ??= new WeakMap;

        return self::$known[$mesh] ??= self::joined(Weld::ofMesh($mesh), $mesh->triangles);
    }

    /**
     * Which triangles hang together over shared places: for each the number of its shell.
     *
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @return list<int>
     */
    public static function of(array $positions, array $triangles): array
    {
        return self::joined(Weld::of($positions), $triangles);
    }

    /**
     * The same where places are welded already: of each triangle the lowest vertex that hangs together with it.
     *
     * @param  list<int>  $welded
     * @param  list<int>  $tri
     * @return list<int>
     */
    public static function joined(array $welded, array $tri): array
    {
        $parent = $welded;
        $count = count($tri);
        for ($t = 0; $t < $count; $t += 3) {
            $a = $welded[$tri[$t]];
            while ($parent[$a] !== $a) {
                $a = $parent[$a] = $parent[$parent[$a]];
            }
            for ($k = 1; $k < 3; $k++) {
                $b = $welded[$tri[$t + $k]];
                while ($parent[$b] !== $b) {
                    $b = $parent[$b] = $parent[$parent[$b]];
                }
                if ($a < $b) {
                    $parent[$b] = $a;
                } elseif ($b < $a) {
                    $parent[$a] = $b;
                    $a = $b;
                }
            }
        }
        $out = $count === 0 ? [] : array_fill(0, intdiv($count, 3), 0);
        foreach ($out as $t => $_) {
            $a = $welded[$tri[3 * $t]];
            while ($parent[$a] !== $a) {
                $a = $parent[$a] = $parent[$parent[$a]];
            }
            $out[$t] = $a;
        }

        return $out;
    }
}
