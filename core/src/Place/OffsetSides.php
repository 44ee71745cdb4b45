<?php

declare(strict_types=1);

namespace Anvil\Place;

/**
 * What the sides of a low poly say of its offset: side is held against side (see `OffsetSearch`).
 */
final readonly class OffsetSides
{
    /** Directions closer than 30° to an axis speak for it; where there are none, those within 60°. */
    private const NEAR = 0.866;

    private const FAR = 0.5;

    /** Slopes of a sheet speak from this on, some 15°. */
    private const SLOPE = 0.25;

    public function __construct(private OffsetHeights $measured)
    {
    }

    /**
     * What both sides of each axis have risen by alike: a round high over a coarse low does so on every side.
     *
     * @param  list<array{float, float, float}>  $axes
     * @return array<int, float>
     */
    public function commonRises(array $axes): array
    {
        $out = [];
        foreach ($axes as $number => $axis) {
            $plus = $minus = [];
            foreach ($this->measured->leans($axis) as $i => $lean) {
                $height = $this->measured->heights[$i];
                if ($height !== null && $lean > self::NEAR) {
                    $plus[] = $height;
                } elseif ($height !== null && $lean < -self::NEAR) {
                    $minus[] = $height;
                }
            }
            if (min(count($plus), count($minus)) >= $this->measured->least()) {
                $out[$number] = (OffsetHeights::median($plus) + OffsetHeights::median($minus)) / 2;
            }
        }

        return $out;
    }

    /**
     * How far along an axis, and how uncertain; null where not both sides are there.
     *
     * @param  array{float, float, float}  $axis
     * @param  list<float>  $rises  what all sides may have risen by
     * @param  bool  $isSheet  whether slopes may speak, as no sides are there
     * @return array{float|null, float}
     */
    public function along(array $axis, array $rises, bool $isSheet = false): array
    {
        $leans = $this->measured->leans($axis);
        foreach ($isSheet ? [self::NEAR, self::FAR, self::SLOPE] : [self::NEAR, self::FAR] as $least) {
            $plus = $minus = [];
            $others = [];
            foreach ($leans as $i => $lean) {
                if ($this->measured->heights[$i] === null) {
                    continue;
                }
                if ($lean > $least) {
                    $plus[] = $i;
                } elseif ($lean < -$least) {
                    $minus[] = $i;
                } else {
                    $others[] = $i;
                }
            }
            $needed = $this->measured->least();
            if (count($plus) >= $needed && count($minus) >= $needed) {
                return $this->lesser($plus, $minus, $others, $leans, $rises);
            }
        }

        return [null, INF];
    }

    /**
     * Whether no axis has faces that look along it and faces that look back.
     *
     * @param  list<array{float, float, float}>  $axes
     */
    public function isSheet(array $axes): bool
    {
        foreach ($axes as $axis) {
            if ($this->along($axis, [])[0] !== null) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array{float, float, float}  $axis
     * @param  list<float>  $rises
     * @return array{float|null, float} radians
     */
    public function about(array $axis, array $rises): array
    {
        $levers = [];
        $most = 0.0;
        $at = $this->measured->points->at;
        $n = $this->measured->points->normals;
        foreach (array_keys($this->measured->heights) as $i) {
            $x = $at[3 * $i] - $this->measured->centre[0];
            $y = $at[3 * $i + 1] - $this->measured->centre[1];
            $z = $at[3 * $i + 2] - $this->measured->centre[2];
            $lever = ($axis[1] * $z - $axis[2] * $y) * $n[3 * $i] + ($axis[2] * $x - $axis[0] * $z) * $n[3 * $i + 1] + ($axis[0] * $y - $axis[1] * $x) * $n[3 * $i + 2];
            $levers[] = $lever;
            $most = max($most, abs($lever));
        }
        if ($most < 0.08 * $this->measured->d) {
            return [null, INF];
        }
        $plus = $minus = $others = [];
        foreach ($levers as $i => $lever) {
            if ($this->measured->heights[$i] === null) {
                continue;
            }
            if ($lever > 0.35 * $most) {
                $plus[] = $i;
            } elseif ($lever < -0.35 * $most) {
                $minus[] = $i;
            } else {
                $others[] = $i;
            }
        }
        $needed = $this->measured->least();
        if (count($plus) < $needed || count($minus) < $needed) {
            return [null, INF];
        }

        return $this->lesser($plus, $minus, $others, $levers, $rises);
    }

    /**
     * A uniform scale about the centre: every pair of sides rises in proportion to how far apart it stands, and the pairs differ in that.
     *
     * @param  list<array{float, float, float}>  $axes
     */
    public function scale(array $axes): float
    {
        $pairs = [];
        $at = $this->measured->points->at;
        $n = $this->measured->points->normals;
        foreach ($axes as $axis) {
            $leans = $this->measured->leans($axis);
            $sides = [1 => [[], []], -1 => [[], []]];
            $faces = [];
            foreach ($leans as $i => $lean) {
                if ($this->measured->heights[$i] === null || abs($lean) <= self::NEAR) {
                    continue;
                }
                $side = $lean > 0.0 ? 1 : -1;
                $sides[$side][0][] = $this->measured->heights[$i];
                $sides[$side][1][] = ($at[3 * $i] - $this->measured->centre[0]) * $n[3 * $i] + ($at[3 * $i + 1] - $this->measured->centre[1]) * $n[3 * $i + 1] + ($at[3 * $i + 2] - $this->measured->centre[2]) * $n[3 * $i + 2];
                $faces[$this->measured->points->triangles[$i]] = true;
            }
            if (min(count($sides[1][0]), count($sides[-1][0])) < $this->measured->least()) {
                continue;
            }
            $rises = [...$sides[1][0], ...$sides[-1][0]];
            $rise = (OffsetHeights::median($sides[1][0]) + OffsetHeights::median($sides[-1][0])) / 2;
            $spread = OffsetHeights::median(array_map(static fn (float $value): float => abs($value - $rise), $rises));
            $pairs[] = [$rise, (OffsetHeights::median($sides[1][1]) + OffsetHeights::median($sides[-1][1])) / 2, 1.858 * $spread / sqrt(count($faces))];
        }
        if (count($pairs) < 2 || max(array_column($pairs, 1)) < 1.25 * min(array_column($pairs, 1))) {
            return 1.0;
        }
        $above = $below = 0.0;
        foreach ($pairs as [$rise, $far]) {
            $above += $rise * $far;
            $below += $far * $far;
        }
        $by = $below > 0.0 ? $above / $below : 0.0;
        foreach ($pairs as [$rise, $far, $error]) {
            if (abs($rise - $by * $far) > 0.2 * abs($by * $far) || abs($by * $far) <= 3 * $error) {
                return 1.0;
            }
        }

        return 1.0 + $by;
    }

    /**
     * The lesser of what two sides say, 0 where they do not say the same; the rise that best brings them together is taken out first.
     *
     * @param  list<int>  $plus
     * @param  list<int>  $minus
     * @param  list<int>  $others
     * @param  list<float>  $weights  height that one unit of the motion gives each point
     * @param  list<float>  $rises
     * @return array{float, float} the motion, its uncertainty
     */
    private function lesser(array $plus, array $minus, array $others, array $weights, array $rises): array
    {
        $rises = [0.0, ...$rises];
        $all = $rest = [];
        foreach ($this->measured->heights as $height) {
            if ($height !== null) {
                $all[] = $height;
            }
        }
        foreach ($others as $i) {
            $rest[] = (float) $this->measured->heights[$i];
        }
        $rises[] = OffsetHeights::median($all);
        if ($rest !== []) {
            $rises[] = OffsetHeights::median($rest);
        }
        $best = null;
        foreach ($rises as $rise) {
            [$a, $errorA] = $this->side($plus, $weights, $rise);
            [$b, $errorB] = $this->side($minus, $weights, $rise);
            $both = sqrt($errorA ** 2 + $errorB ** 2);
            $apart = abs($a - $b);
            // Sides that differ by no more than they are uncertain say the same thing: their mean is surer than either.
            $motion = match (true) {
                $a * $b <= 0.0 => 0.0, $apart <= 3 * $both => ($a + $b) / 2, $a > 0.0 => min($a, $b), default => max($a, $b),
            };
            if ($best === null || $apart < $best[2] - 1e-12) {
                $best = [$motion, $apart <= 3 * $both ? $both / 2 : max($errorA, $errorB), $apart];
            }
        }

        return [$best[0], $best[1]];
    }

    /**
     * @param  list<int>  $side
     * @param  list<float>  $weights
     * @return array{float, float} median motion, its uncertainty
     */
    private function side(array $side, array $weights, float $rise): array
    {
        $values = [];
        $faces = [];
        foreach ($side as $i) {
            $values[] = ((float) $this->measured->heights[$i] - $rise) / $weights[$i];
            $faces[$this->measured->points->triangles[$i]] = true;
        }
        $median = OffsetHeights::median($values);
        $spread = OffsetHeights::median(array_map(static fn (float $value): float => abs($value - $median), $values));

        return [$median, 1.2533 * 1.4826 * $spread / sqrt(count($faces))];
    }
}
