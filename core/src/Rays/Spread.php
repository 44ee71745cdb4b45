<?php

declare(strict_types=1);

namespace Anvil\Rays;

/**
 * A few of many, evenly over all: places and rays for people to look at.
 */
final class Spread
{
    public const PLACES = 8;

    /**
     * @template T
     *
     * @param  list<T>  $all
     * @return list<T> so many at most
     */
    public static function of(array $all, int $most = self::PLACES): array
    {
        $count = count($all);
        if ($count <= $most) {
            return $all;
        }
        $out = [];
        for ($k = 0; $k < $most; $k++) {
            $out[] = $all[intdiv($k * $count, $most)];
        }

        return $out;
    }
}
