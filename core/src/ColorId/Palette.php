<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;

/**
 * The most distinct colors for a number of IDs: the best that a long search has found (`bin/make-palettes.php` makes the tables, up to 64 each
 * number, above that some), or, around colors that stay, what a short search finds. Never a lesser distance for fewer colors than for more.
 */
final class Palette
{
    /** So many IDs can still be told apart. */
    public const MOST = 500;

    /** Steps times colors of a search while somebody waits. */
    private const WORK = 300_000;

    private const STARTS = 3;

    /** @var array<string, array<int, list<Color>>> */
    private static array $tables = [];

    /**
     * @param  int  $count  to 500
     * @param  list<Color>  $kept  colors that stay and must be kept away from
     * @param  bool  $allEyes  whether the least distance to four kinds of eyes counts, not to the usual one alone
     * @return list<Color> `count` new ones
     */
    public static function spread(int $count, array $kept = [], bool $allEyes = false): array
    {
        if ($count < 1) {
            return [];
        }
        $start = self::known(min(self::MOST, $count + count($kept)), $allEyes);
        if ($kept === []) {
            return $start;
        }
        // What lies nearest to a color that stays makes room for it.
        foreach ($kept as $color) {
            if (count($start) > $count) {
                $near = array_map(static fn (Color $one): float => $one->deltaE($color), $start);
                array_splice($start, (int) array_search(min($near), $near, true), 1);
            }
        }
        $all = count($start) + count($kept);
        $steps = intdiv(self::WORK, $all * ($allEyes ? 4 : 1));
        $best = $start;
        $least = -INF;
        // From what the table has, and from two starts of chance.
        for ($seed = 1; $seed <= self::STARTS; $seed++) {
            $search = new PaletteSearch($kept, $allEyes, $seed);
            $found = $search->from($seed === 1 ? $start : $search->anywhere($count), $steps);
            $far = PaletteSearch::least([...$kept, ...$found], $allEyes);
            if ($far > $least) {
                [$best, $least] = [$found, $far];
            }
        }

        return $best;
    }

    /**
     * The least ΔE00 between any two; INF for fewer than two.
     *
     * @param  list<Color>  $colors
     */
    public static function leastDistance(array $colors, Vision $eye = Vision::Usual): float
    {
        return self::leastOf(self::matrix(array_map($eye->of(...), $colors)));
    }

    /**
     * The same to the eye that tells them apart worst.
     *
     * @param  list<Color>  $colors
     */
    public static function leastToAll(array $colors): float
    {
        return min(array_map(static fn (Vision $eye): float => self::leastDistance($colors, $eye), Vision::cases()));
    }

    /**
     * Fewer of them: those go first that are nearest to another.
     *
     * @param  list<Color>  $colors
     * @return list<Color>
     */
    public static function thinned(array $colors, int $count, bool $allEyes): array
    {
        $eyes = $allEyes ? Vision::cases() : [Vision::Usual];
        $d = array_map(static fn (Vision $eye): array => self::matrix(array_map($eye->of(...), $colors)), $eyes);
        while (count($colors) > $count) {
            $worst = [INF, 0, 0];
            foreach ($d as $one) {
                foreach ($one as $i => $row) {
                    foreach ($row as $j => $far) {
                        if ($far < $worst[0] && isset($colors[$i], $colors[$j])) {
                            $worst = [$far, $i, $j];
                        }
                    }
                }
            }
            // Of the two, the one that is nearer to a third.
            $third = [INF, INF];
            foreach ($d as $one) {
                foreach ($colors as $k => $_) {
                    foreach ([0, 1] as $w) {
                        $at = $worst[1 + $w];
                        if ($k !== $worst[1] && $k !== $worst[2]) {
                            $third[$w] = min($third[$w], $at > $k ? $one[$at][$k] : $one[$k][$at]);
                        }
                    }
                }
            }
            unset($colors[$third[0] < $third[1] ? $worst[1] : $worst[2]]);
        }

        return array_values($colors);
    }

    /**
     * @param  array<int, Color>  $colors
     * @return array<int, array<int, float>> of each its ΔE00 to those before it
     */
    private static function matrix(array $colors): array
    {
        $labs = array_map(static fn (Color $color): array => $color->lab(), $colors);
        $out = [];
        foreach ($labs as $i => $one) {
            $out[$i] = [];
            for ($j = 0; $j < $i; $j++) {
                $out[$i][$j] = DeltaE00::of($one, $labs[$j]);
            }
        }

        return $out;
    }

    /**
     * @param  array<int, array<int, float>>  $matrix
     */
    private static function leastOf(array $matrix): float
    {
        $least = INF;
        foreach ($matrix as $row) {
            $least = $row === [] ? $least : min($least, min($row));
        }

        return $least;
    }

    /**
     * @return list<Color>
     */
    private static function known(int $count, bool $allEyes): array
    {
        $name = $allEyes ? 'eyes' : 'usual';
        $table = self::$tables[$name] ??= self::table($name);
        foreach ($table as $size => $colors) {
            if ($size >= $count) {
                return $size === $count ? $colors : self::thinned($colors, $count, $allEyes);
            }
        }

        return array_slice($table[self::MOST], 0, $count);
    }

    /**
     * @return array<int, list<Color>> by number, ascending
     */
    public static function table(string $name): array
    {
        $text = (string) file_get_contents(__DIR__."/palettes-$name.txt");
        $out = [];
        foreach (explode("\n", trim($text)) as $line) {
            if (! str_starts_with($line, '#') && str_contains($line, ':')) {
                [$size, $hex] = explode(':', $line);
                $out[(int) $size] = array_map(Color::ofHex(...), explode(' ', trim($hex)));
            }
        }

        return $out;
    }
}
