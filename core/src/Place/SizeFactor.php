<?php

declare(strict_types=1);

namespace Anvil\Place;

/**
 * The usual factors between units, for telling why two sizes differ.
 */
final class SizeFactor
{
    private const USUAL = [2.54, 10.0, 12.0, 25.4, 30.48, 39.3701, 100.0, 1000.0];

    /** How far from a usual factor a ratio may lie, as a logarithm. */
    private const SLACK = 0.05;

    /** The usual factor behind a ratio of sizes, at least 1; null where none is near. */
    public static function likely(float $ratio): ?float
    {
        $ratio = max($ratio, 1 / $ratio);
        foreach (self::USUAL as $factor) {
            if (abs(log($ratio / $factor)) < self::SLACK) {
                return $factor;
            }
        }

        return null;
    }

    /** What the high poly is to be multiplied by. */
    public static function mending(float $ratio): float
    {
        $factor = self::likely($ratio) ?? max($ratio, 1 / $ratio);

        return $ratio > 1.0 ? 1 / $factor : $factor;
    }
}
