<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;

/**
 * Looks for colors whose least distance is as large as can be: each of a number of colors is moved, one at a time, to where it is pushed
 * away least by all others, by a force that gets steeper
 * (distance to the power of −6, then −12, −24, −48), and now and then thrown somewhere else. The same arguments give the same colors: chance comes from a generator of its own.
 *
 * Candidates are 8-bit sRGB colors of an OKLCH chroma of 0.12 and more, black and white. Two that are nearer than 33 in RGB count as
 * under ΔE00 3, whatever they are, so that no picker takes both.
 */
final class PaletteSearch
{
    /** Least OKLCH chroma of a candidate. Common practice, no published source: IDs are vivid. */
    public const VIVID = 0.12;

    private const RGB = 33.0;

    /** What two that are nearer count as at most. */
    private const SAME = 3.0;

    private int $state;

    /** @var array<int, list<array{float, float, float}>> color → its Lab to each eye */
    private array $labs = [];

    /** @var array<int, bool> */
    private array $valid = [0 => true, 0xFFFFFF => true];

    /** @var list<Vision> */
    private readonly array $eyes;

    /**
     * @param  list<Color>  $fixed  that stay, and are kept away from
     * @param  bool  $allEyes  whether the least of four kinds of eyes counts
     */
    public function __construct(private readonly array $fixed, bool $allEyes, int $seed)
    {
        $this->eyes = $allEyes ? Vision::cases() : [Vision::Usual];
        $this->state = $seed * 2654435761 % 0x7FFFFFFF + 1;
    }

    /**
     * @param  list<Color>  $start  how many, and from where
     * @param  int  $steps  how many moves are tried
     * @return list<Color> in the order of the start
     */
    public function from(array $start, int $steps): array
    {
        $n = count($start);
        $colors = array_map(self::number(...), $start);
        $fixed = array_map(self::number(...), $this->fixed);
        $total = $n + count($fixed);
        $all = [...$colors, ...$fixed];
        if ($n === 0 || $total < 2) {
            return $start;
        }
        // Distances of each pair, and to the nearest of each that can move, kept.
        /** @var list<float> $d */
        $d = array_fill(0, $total * $total, INF);
        for ($i = 0; $i < $total; $i++) {
            for ($j = 0; $j < $i; $j++) {
                $d[$i * $total + $j] = $d[$j * $total + $i] = $this->distance($all[$i], $all[$j]);
            }
        }
        $nearest = [];
        for ($i = 0; $i < $n; $i++) {
            $nearest[$i] = self::leastOf($d, $i * $total, $total);
        }
        $best = $all;
        $bestLeast = $least = min($nearest);
        for ($step = 0; $step < $steps; $step++) {
            $done = $step / $steps;
            $power = 6 << (int) (4 * $done);
            // Every other time one of the closest pair, which alone can raise the least.
            $i = $this->chance(2) === 0 ? $this->chance($n) : (int) array_search($least, $nearest, true);
            $to = $this->moved($all[$i], max(2, (int) (120 * (1 - $done) ** 2)));
            if ($to === $all[$i]) {
                continue;
            }
            $scale = max(1.0, $least);
            $limit = 0.0;
            for ($j = $i * $total, $end = $j + $total; $j < $end; $j++) {
                $limit += ($scale / max(1e-3, $d[$j])) ** $power;
            }
            $row = [];
            $sum = 0.0;
            for ($j = 0; $j < $total && $sum <= $limit; $j++) {
                $row[$j] = $far = $j === $i ? INF : $this->distance($to, $all[$j]);
                $sum += ($scale / max(1e-3, $far)) ** $power;
            }
            if ($sum > $limit) {
                continue;
            }
            $all[$i] = $to;
            $nearest[$i] = self::leastOf($row, 0, $total);
            foreach ($row as $j => $far) {
                $was = $d[$j * $total + $i];
                $d[$i * $total + $j] = $d[$j * $total + $i] = $far;
                if ($j < $n && $j !== $i) {
                    if ($far < $nearest[$j]) {
                        $nearest[$j] = $far;
                    } elseif ($was === $nearest[$j]) {
                        $nearest[$j] = self::leastOf($d, $j * $total, $total);
                    }
                }
            }
            $least = min($nearest);
            if ($least > $bestLeast) {
                $bestLeast = $least;
                $best = $all;
            }
        }

        return array_map(self::color(...), array_slice($best, 0, $n));
    }

    /**
     * A start for a number of colors: black and white, then whatever comes.
     *
     * @return list<Color>
     */
    public function anywhere(int $count): array
    {
        $out = [];
        for ($k = 0; $k < $count; $k++) {
            $out[] = self::color($k === 0 && $count > 3 ? 0 : ($k === 1 && $count > 3 ? 0xFFFFFF : $this->vivid()));
        }

        return $out;
    }

    /**
     * The least distance of some colors as a search counts it.
     *
     * @param  list<Color>  $colors
     */
    public static function least(array $colors, bool $allEyes): float
    {
        $search = new self([], $allEyes, 1);
        $numbers = array_map(self::number(...), $colors);
        $least = INF;
        foreach ($numbers as $i => $one) {
            for ($j = 0; $j < $i; $j++) {
                $least = min($least, $search->distance($one, $numbers[$j]));
            }
        }

        return $least;
    }

    /**
     * @param  array<int, float>  $d
     */
    private static function leastOf(array $d, int $from, int $count): float
    {
        $least = INF;
        for ($j = $from, $end = $from + $count; $j < $end; $j++) {
            if ($d[$j] < $least) {
                $least = $d[$j];
            }
        }

        return $least;
    }

    private function moved(int $color, int $by): int
    {
        if ($this->chance(25) === 0) {
            return $this->chance(8) === 0 ? 0xFFFFFF * $this->chance(2) : $this->vivid();
        }
        for ($try = 0; $try < 8; $try++) {
            $to = 0;
            foreach ([16, 8, 0] as $shift) {
                $to |= max(0, min(255, (($color >> $shift) & 255) + $this->chance(2 * $by + 1) - $by)) << $shift;
            }
            if ($this->isValid($to)) {
                return $to;
            }
        }

        return $color;
    }

    private function vivid(): int
    {
        do {
            $color = $this->chance(0x1000000);
        } while (! $this->isValid($color));

        return $color;
    }

    private function isValid(int $color): bool
    {
        return $this->valid[$color] ??= self::color($color)->chroma() >= self::VIVID;
    }

    private function distance(int $one, int $two): float
    {
        $a = $this->labs[$one] ??= $this->seen($one);
        $b = $this->labs[$two] ??= $this->seen($two);
        $least = INF;
        foreach ($a as $eye => $lab) {
            $least = min($least, DeltaE00::of($lab, $b[$eye]));
        }
        $rgb = sqrt((($one >> 16) - ($two >> 16)) ** 2 + ((($one >> 8) & 255) - (($two >> 8) & 255)) ** 2 + (($one & 255) - ($two & 255)) ** 2);

        return $rgb < self::RGB ? min($least, self::SAME * $rgb / self::RGB) : $least;
    }

    /**
     * @return list<array{float, float, float}>
     */
    private function seen(int $color): array
    {
        return array_map(static fn (Vision $eye): array => $eye->of(self::color($color))->lab(), $this->eyes);
    }

    /** A number from 0 to one less: xorshift of 31 bits. */
    private function chance(int $of): int
    {
        $x = $this->state;
        $x ^= ($x << 13) & 0x7FFFFFFF;
        $x ^= $x >> 17;
        $x ^= ($x << 5) & 0x7FFFFFFF;
        $this->state = $x;

        return $x % $of;
    }

    private static function number(Color $color): int
    {
        return $color->red << 16 | $color->green << 8 | $color->blue;
    }

    private static function color(int $number): Color
    {
        return Color::of($number >> 16, ($number >> 8) & 255, $number & 255);
    }
}
