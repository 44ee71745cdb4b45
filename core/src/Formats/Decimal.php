<?php

declare(strict_types=1);

namespace Anvil\Formats;

/**
 * Decimal numbers in text files, written again.
 */
final class Decimal
{
    /** A number plus a length, with as many decimals as either has; one that does not move stays as it is written. */
    public static function sum(string $number, float $length): string
    {
        if ($length === 0.0) {
            return $number;
        }
        if (stripos($number, 'e') !== false) {
            return sprintf('%.9g', (float) $number + $length);
        }
        $decimals = static fn (string $text): int => str_contains($text, '.') ? strlen($text) - strpos($text, '.') - 1 : 0;

        return sprintf('%.'.min(17, max($decimals($number), $decimals(rtrim(sprintf('%.9F', $length), '0')))).'F', (float) $number + $length);
    }

    /** Nine significant digits, which tell any two float32 apart. */
    public static function of(float $value): string
    {
        return sprintf('%.9g', $value === 0.0 ? 0.0 : $value);
    }
}
