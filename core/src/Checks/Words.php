<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Asset\Asset;
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

    /** `1.24 cm`: three significant digits, in the unit that suits it where the files are in meters, else in theirs; `0.124 units` where none is known. */
    public static function length(float $length, Asset $asset): string
    {
        $unit = $asset->unit();
        if ($unit !== 'm') {
            return self::digits($length, 3).' '.self::unit($unit);
        }
        $size = abs($length);

        return match (true) {
            $size === 0.0 => '0 cm',
            $size < 0.00995 => self::digits(1000 * $length, 3).' mm',
            $size < 0.995 => self::digits(100 * $length, 3).' cm',
            default => self::digits($length, 3).' m',
        };
    }

    /**
     * `(0.0124, 0, -0.3) m`: in the unit of the files, so that it can be typed in as it is.
     *
     * @param  array{float, float, float}  $vector
     */
    public static function vector(array $vector, Asset $asset): string
    {
        return '('.implode(', ', array_map(static fn (float $one): string => self::digits($one, 4), $vector)).') '.self::unit($asset->unit());
    }

    private static function unit(?string $unit): string
    {
        // A unit that is a number of meters has no name of its own.
        return $unit === null ? 'units' : (is_numeric(substr($unit, 0, 1)) ? 'file units' : $unit);
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
