<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * An 8-bit sRGB colour (IEC 61966-2-1) and its distances.
 */
final readonly class Color
{
    private function __construct(public int $red, public int $green, public int $blue)
    {
    }

    /** Channels as sRGB values 0–1; outside is clipped. */
    public static function ofSrgb(float $red, float $green, float $blue): self
    {
        return new self(self::byte($red), self::byte($green), self::byte($blue));
    }

    /** Channels as linear light 0–1, as glTF factors and vertex colours are. */
    public static function ofLinear(float $red, float $green, float $blue): self
    {
        return self::ofSrgb(self::encode($red), self::encode($green), self::encode($blue));
    }

    public static function of(int $red, int $green, int $blue): self
    {
        return new self(max(0, min(255, $red)), max(0, min(255, $green)), max(0, min(255, $blue)));
    }

    /** @param  string  $hex  `#RRGGBB` */
    public static function ofHex(string $hex): self
    {
        $value = (int) hexdec(ltrim($hex, '#'));

        return new self(($value >> 16) & 255, ($value >> 8) & 255, $value & 255);
    }

    public function hex(): string
    {
        return sprintf('#%02X%02X%02X', $this->red, $this->green, $this->blue);
    }

    /**
     * @return array{float, float, float} linear light, 0–1
     */
    public function linear(): array
    {
        return [self::decode($this->red / 255), self::decode($this->green / 255), self::decode($this->blue / 255)];
    }

    /** Euclid in 8-bit sRGB: 0 to 441.7. */
    public function rgbDistance(self $other): float
    {
        return sqrt(($this->red - $other->red) ** 2 + ($this->green - $other->green) ** 2 + ($this->blue - $other->blue) ** 2);
    }

    /** Half of each, in sRGB as it is stored: what smoothing between two pixels gives. */
    public function midway(self $other): self
    {
        return self::ofSrgb(($this->red + $other->red) / 510, ($this->green + $other->green) / 510, ($this->blue + $other->blue) / 510);
    }

    /**
     * CIE Lab, D65, 2° observer (white 0.95047, 1, 1.08883; the sRGB matrix of IEC 61966-2-1).
     *
     * @return array{float, float, float} L 0–100, a, b
     */
    public function lab(): array
    {
        [$r, $g, $b] = $this->linear();
        $x = (0.4124564 * $r + 0.3575761 * $g + 0.1804375 * $b) / 0.95047;
        $y = 0.2126729 * $r + 0.7151522 * $g + 0.0721750 * $b;
        $z = (0.0193339 * $r + 0.1191920 * $g + 0.9503041 * $b) / 1.08883;
        $f = static fn (float $t): float => $t > 216 / 24389 ? $t ** (1 / 3) : (24389 / 27 * $t + 16) / 116;

        return [116 * $f($y) - 16, 500 * ($f($x) - $f($y)), 200 * ($f($y) - $f($z))];
    }

    /** ΔE00 to another colour. */
    public function deltaE(self $other): float
    {
        return DeltaE00::of($this->lab(), $other->lab());
    }

    /**
     * Chroma in OKLCH (B. Ottosson, "A perceptual color space for image processing", 2020): 0 for greys, about 0.32 at most in sRGB.
     */
    public function chroma(): float
    {
        [$r, $g, $b] = $this->linear();
        $l = (0.4122214708 * $r + 0.5363325363 * $g + 0.0514459929 * $b) ** (1 / 3);
        $m = (0.2119034982 * $r + 0.6806995451 * $g + 0.1073969566 * $b) ** (1 / 3);
        $s = (0.0883024619 * $r + 0.2817188376 * $g + 0.6299787005 * $b) ** (1 / 3);

        return hypot(
            1.9779984951 * $l - 2.4285922050 * $m + 0.4505937099 * $s,
            0.0259040371 * $l + 0.7827717662 * $m - 0.8086757660 * $s,
        );
    }

    private static function byte(float $value): int
    {
        return (int) round(255 * max(0.0, min(1.0, $value)));
    }

    private static function encode(float $linear): float
    {
        return $linear <= 0.0031308 ? 12.92 * $linear : 1.055 * $linear ** (1 / 2.4) - 0.055;
    }

    private static function decode(float $encoded): float
    {
        return $encoded <= 0.04045 ? $encoded / 12.92 : (($encoded + 0.055) / 1.055) ** 2.4;
    }
}
