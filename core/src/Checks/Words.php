<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Clearance\SetClearance;
use Anvil\Rays\Estimate;

/**
 * Numbers in messages.
 */
final class Words
{
    /** `0.84 %`: three significant digits. */
    public static function percent(float $share): string
    {
        return self::digits(100 * $share, 3).' %';
    }

    /** A share that samples estimated, with `±` where its interval holds one of the limits. */
    public static function share(Estimate $estimate, float ...$limits): string
    {
        $doubt = $estimate->doubt(...$limits);

        return $doubt > 0.0 ? self::digits(100 * $estimate->share, 3).' ± '.self::digits(100 * $doubt, 2).' %' : self::percent($estimate->share);
    }

    /** `2.98°`: three significant digits. */
    public static function degrees(float $degrees): string
    {
        return self::digits($degrees, 3).'°';
    }

    /** `4.2 px`: three significant digits. */
    public static function pixels(float $pixels): string
    {
        return self::digits($pixels, 3).' px';
    }

    /** A length in file units: four significant digits. */
    public static function length(float $length): string
    {
        return self::digits($length, 4);
    }

    /** A share of a set's low area in texels at the map size; null without UVs. */
    public static function texels(SetClearance $clearance, float $share): ?int
    {
        return $clearance->texelsOfAll > 0.0 ? (int) round($share * $clearance->texelsOfAll) : null;
    }

    private static function digits(float $value, int $digits): string
    {
        if ($value === 0.0) {
            return '0';
        }
        $decimals = max(0, $digits - 1 - (int) floor(log10(abs($value))));
        $text = sprintf('%.'.min(12, $decimals).'F', $value);

        return str_contains($text, '.') ? rtrim(rtrim($text, '0'), '.') : $text;
    }
}
