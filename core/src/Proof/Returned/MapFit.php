<?php

declare(strict_types=1);

namespace Anvil\Proof\Returned;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Proof\TrialMaps;

/**
 * How well a map that came back fits the trial map, as it is and turned other ways (METHODS, "Maps that came back").
 */
final readonly class MapFit
{
    /** From so far off as it is, another way can fit better: below it the two ways tell each other's noise. Degrees; 0–1; ΔE00. */
    private const NOTICEABLE = ['normal' => 1.0, 'ao' => 0.01, 'height' => 0.01, 'id' => 1.0];

    /** What differs more is another thing. */
    public const OTHER = ['normal' => 20.0, 'ao' => 0.25, 'height' => 0.25, 'id' => 20.0];

    /** What a texel may differ by. */
    public const DIFFERS = ['normal' => 10.0, 'ao' => 0.1, 'height' => 0.1, 'id' => 10.0];

    /** Relief of a trial: so far from the usual value, on this share of the texels. */
    private const RELIEF = ['normal' => 2.0, 'ao' => 0.02, 'height' => 0.02, 'id' => 5.0];

    private const RELIEF_SHARE = 0.01;

    /** Texels by which the ways are weighed. */
    private const LOOKED_AT = 4096;

    /**
     * @param  float|null  $median  distance in the way that fits best; null where nothing could be compared
     * @param  bool  $isAsked  whether the trial has relief, so that ways can be told apart
     * @param  list<int>  $compared  texels
     * @param  list<int>  $differs  those of them that differ by more than they may
     * @param  array<int, float>  $distances  of the compared texels
     */
    private function __construct(public ?float $median, public Turning $turn, public bool $greenInverted, public bool $srgb, public bool $isAsked, public array $compared, public array $differs, public array $distances)
    {
    }

    /**
     * @param  list<float>  $color  rgb of each texel, 0–1, at the trial's size
     * @param  list<float>  $cover  of each texel
     */
    public static function of(TrialMaps $trial, string $kind, array $color, array $cover): self
    {
        $compared = self::comparable($trial, $kind);
        $expected = self::expected($trial, $kind, $compared);
        $relief = self::relief($kind, $compared, $expected);
        $isAsked = $compared !== [] && count($relief) >= self::RELIEF_SHARE * count($compared);
        $asked = $isAsked ? $relief : $compared;
        $step = max(1, intdiv(count($asked), self::LOOKED_AT));
        $some = [];
        for ($i = 0; $i < count($asked); $i += $step) {
            $some[] = $asked[$i];
        }
        $medians = [];
        [$asIs, $median] = self::middle($kind, $some, $expected, self::values($kind, $trial->size, $color, $cover, Turning::AsIs, false, false));
        $best = [$median, Turning::AsIs, false, false];
        if ($isAsked && $asIs !== null && $asIs > self::NOTICEABLE[$kind]) {
            foreach (Turning::cases() as $turn) {
                foreach ($kind === 'normal' ? [false, true] : [false] as $green) {
                    foreach ($kind === 'id' ? [false] : [false, true] as $srgb) {
                        [$middle, $median] = self::middle($kind, $some, $expected, self::values($kind, $trial->size, $color, $cover, $turn, $green, $srgb));
                        if ($middle !== null) {
                            $medians[] = [$middle, ($turn === Turning::AsIs ? 0 : 1) + ($green ? 1 : 0) + ($srgb ? 1 : 0), $turn, $green, $srgb, $median];
                        }
                    }
                }
            }
            // Of ways that fit about as well the simplest.
            $least = min([INF, ...array_column($medians, 0)]);
            $good = array_values(array_filter($medians, static fn (array $one): bool => $one[0] <= 1.1 * $least + 0.1 * self::NOTICEABLE[$kind]));
            usort($good, static fn (array $a, array $b): int => [$a[1], $a[0]] <=> [$b[1], $b[0]]);
            if ($good !== [] && $good[0][0] < 0.5 * $asIs) {
                $best = [$good[0][5], $good[0][2], $good[0][3], $good[0][4]];
            }
        }
        $value = self::values($kind, $trial->size, $color, $cover, Turning::AsIs, false, false);
        $differs = $distances = [];
        foreach ($compared as $texel) {
            $one = $value($texel);
            if ($one === null) {
                continue;
            }
            $distances[$texel] = self::distance($kind, $expected[$texel], $one);
            if ($distances[$texel] > self::DIFFERS[$kind]) {
                $differs[] = $texel;
            }
        }

        return new self($best[0], $best[1], $best[2], $best[3], $isAsked, array_keys($distances), $differs, $distances);
    }

    public function fitsAsIs(): bool
    {
        return $this->turn === Turning::AsIs && ! $this->greenInverted && ! $this->srgb;
    }

    /**
     * Texels inside that are fine, not within a texel of an island's border, not at a hard edge of the high poly, and of IDs not beside another.
     *
     * @return list<int>
     */
    public static function comparable(TrialMaps $trial, string $kind): array
    {
        $size = $trial->size;
        $out = [];
        foreach ($trial->miss as $texel => $miss) {
            if ($miss !== 0 || isset($trial->atHard[$texel])) {
                continue;
            }
            $x = $texel % $size;
            $y = intdiv($texel, $size);
            $island = $trial->page->islands[$trial->owners[$texel]];
            for ($dy = -1; $dy <= 1; $dy++) {
                for ($dx = -1; $dx <= 1; $dx++) {
                    if ($x + $dx < 0 || $y + $dy < 0 || $x + $dx >= $size || $y + $dy >= $size) {
                        continue;
                    }
                    $owner = $trial->owners[$texel + $dy * $size + $dx];
                    if ($owner < 0 || $trial->page->islands[$owner] !== $island) {
                        continue 3;
                    }
                    // The mean over a texel that two IDs share is neither.
                    if ($kind === 'id' && ($trial->id[$texel + $dy * $size + $dx] ?? null) !== ($trial->id[$texel] ?? null)) {
                        continue 3;
                    }
                }
            }
            if ($kind !== 'id' || isset($trial->id[$texel])) {
                $out[] = $texel;
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $texels
     * @return array<int, array{float, float, float}> texel → unit normal, value three times, or Lab
     */
    private static function expected(TrialMaps $trial, string $kind, array $texels): array
    {
        $out = [];
        $lab = [];
        foreach ($texels as $texel) {
            $out[$texel] = match ($kind) {
                'normal' => $trial->normal[$texel],
                'ao' => [$trial->ao[$texel], 0.0, 0.0],
                'height' => [($trial->height[$texel] + 1.0) / 2, 0.0, 0.0],
                default => $lab[$trial->id[$texel]] ??= Color::ofHex($trial->id[$texel])->lab(),
            };
        }

        return $out;
    }

    /**
     * Texels of the trial that are not as most of it: there a way tells itself apart from another.
     *
     * @param  list<int>  $texels
     * @param  array<int, array{float, float, float}>  $expected
     * @return list<int>
     */
    private static function relief(string $kind, array $texels, array $expected): array
    {
        if ($texels === []) {
            return [];
        }
        $usual = [];
        for ($k = 0; $k < 3; $k++) {
            $list = array_map(static fn (int $texel): float => $expected[$texel][$k], $texels);
            sort($list);
            $usual[] = $list[intdiv(count($list), 2)];
        }
        if ($kind === 'id') {
            // The most common color; the median of each number of Lab may be none.
            $count = [];
            foreach ($texels as $texel) {
                $key = implode(' ', $expected[$texel]);
                $count[$key] = ($count[$key] ?? 0) + 1;
            }
            arsort($count);
            $usual = array_map(floatval(...), explode(' ', (string) array_key_first($count)));
        } elseif ($kind === 'normal') {
            $length = max(1e-12, sqrt($usual[0] ** 2 + $usual[1] ** 2 + $usual[2] ** 2));
            $usual = [$usual[0] / $length, $usual[1] / $length, $usual[2] / $length];
        }

        /** @var array{float, float, float} $usual */
        return array_values(array_filter($texels, static fn (int $texel): bool => self::distance($kind, $expected[$texel], $usual) > self::RELIEF[$kind]));
    }

    /**
     * What the returned map says at a texel of the trial; null where it is transparent.
     *
     * @param  list<float>  $color
     * @param  list<float>  $cover
     * @return callable(int): (array{float, float, float}|null)
     */
    private static function values(string $kind, int $size, array $color, array $cover, Turning $turn, bool $green, bool $srgb): callable
    {
        $lab = [];

        return static function (int $texel) use ($kind, $size, $color, $cover, $turn, $green, $srgb, &$lab): ?array {
            [$x, $y] = $turn->source($texel % $size, intdiv($texel, $size), $size);
            $at = $y * $size + $x;
            if ($cover[$at] < 0.5) {
                return null;
            }
            [$r, $g, $b] = [$color[3 * $at], $color[3 * $at + 1], $color[3 * $at + 2]];
            if ($kind === 'id') {
                return $lab[(int) round(255 * $r) << 16 | (int) round(255 * $g) << 8 | (int) round(255 * $b)] ??= Color::ofSrgb($r, $g, $b)->lab();
            }
            if ($srgb) {
                [$r, $g, $b] = [self::linear($r), self::linear($g), self::linear($b)];
            }

            return self::value($kind, $r, $g, $b, $green);
        };
    }

    /**
     * @return array{float, float, float}
     */
    public static function value(string $kind, float $r, float $g, float $b, bool $green = false): array
    {
        if ($kind === 'id') {
            return Color::ofSrgb($r, $g, $b)->lab();
        }
        if ($kind !== 'normal') {
            return [$r, 0.0, 0.0];
        }
        [$x, $y, $z] = [2 * $r - 1, $green ? 1 - 2 * $g : 2 * $g - 1, 2 * $b - 1];
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 1e-6 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, -1.0];
    }

    /**
     * @param  array{float, float, float}  $one
     * @param  array{float, float, float}  $two
     */
    public static function distance(string $kind, array $one, array $two): float
    {
        return match ($kind) {
            'normal' => rad2deg(2 * asin(min(1.0, sqrt(($one[0] - $two[0]) ** 2 + ($one[1] - $two[1]) ** 2 + ($one[2] - $two[2]) ** 2) / 2))),
            'id' => DeltaE00::of($one, $two),
            default => abs($one[0] - $two[0]),
        };
    }

    /**
     * The median distance; and before it that by which ways are held against each other: the mean of IDs, whose distances are nothing or much, so that a
     * median tells only of most.
     *
     * @param  list<int>  $texels
     * @param  array<int, array{float, float, float}>  $expected
     * @param  callable(int): (array{float, float, float}|null)  $value
     * @return array{float|null, float|null}
     */
    private static function middle(string $kind, array $texels, array $expected, callable $value): array
    {
        $all = [];
        foreach ($texels as $texel) {
            $one = $value($texel);
            if ($one !== null) {
                $all[] = self::distance($kind, $expected[$texel], $one);
            }
        }
        $n = count($all);
        if ($n === 0) {
            return [null, null];
        }
        sort($all);
        $median = ($all[intdiv($n - 1, 2)] + $all[intdiv($n, 2)]) / 2;

        return [$kind === 'id' ? array_sum($all) / $n : $median, $median];
    }

    private static function linear(float $value): float
    {
        return $value <= 0.04045 ? $value / 12.92 : (($value + 0.055) / 1.055) ** 2.4;
    }
}
