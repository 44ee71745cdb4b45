<?php

declare(strict_types=1);

namespace Anvil\Formats;

/**
 * Names of units of length, and how many metres each has.
 */
final class Units
{
    private const METRES = ['m' => 1.0, 'cm' => 0.01, 'mm' => 0.001, 'km' => 1000.0, 'in' => 0.0254, 'ft' => 0.3048, 'yd' => 0.9144];

    /** `cm`, or `0.5 m` where no usual unit has that length. */
    public static function nameOf(float $metres): string
    {
        foreach (self::METRES as $name => $length) {
            if (abs($metres / $length - 1.0) < 1e-6) {
                return $name;
            }
        }

        return sprintf('%.6g m', $metres);
    }

    /** Metres of a unit by the name that `nameOf` gives; null for another name. */
    public static function metresOf(string $name): ?float
    {
        return self::METRES[$name] ?? (preg_match('/^([\d.e+-]+) m$/', $name, $found) === 1 && (float) $found[1] > 0.0 ? (float) $found[1] : null);
    }
}
