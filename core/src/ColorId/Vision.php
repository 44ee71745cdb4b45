<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;

/**
 * How an eye sees a color: the usual one, and the three that lack one kind of cone.
 *
 * Matrices of full severity of G. M. Machado, M. M. Oliveira, L. A. F. Fernandes, "A Physiologically-based Model for Simulation of Color
 * Vision Deficiency", IEEE TVCG 15 (2009), table 1, over linear light; what falls out of sRGB is clipped.
 */
enum Vision: string
{
    case Usual = 'usual';
    case Protan = 'protan';
    case Deutan = 'deutan';
    case Tritan = 'tritan';

    /** @return array{float, float, float, float, float, float, float, float, float}|null row by row; null for the usual one */
    private function matrix(): ?array
    {
        return match ($this) {
            self::Usual => null,
            self::Protan => [0.152286, 1.052583, -0.204868, 0.114503, 0.786281, 0.099216, -0.003882, -0.048116, 1.051998],
            self::Deutan => [0.367322, 0.860646, -0.227968, 0.280085, 0.672501, 0.047413, -0.011820, 0.042940, 0.968881],
            self::Tritan => [1.255528, -0.076749, -0.178779, -0.078411, 0.930809, 0.147602, 0.004733, 0.691367, 0.303900],
        };
    }

    /** The color that the usual eye would have to be shown to see what this one sees. */
    public function of(Color $color): Color
    {
        $m = $this->matrix();
        if ($m === null) {
            return $color;
        }
        [$r, $g, $b] = $color->linear();

        return Color::ofLinear(
            max(0.0, min(1.0, $m[0] * $r + $m[1] * $g + $m[2] * $b)),
            max(0.0, min(1.0, $m[3] * $r + $m[4] * $g + $m[5] * $b)),
            max(0.0, min(1.0, $m[6] * $r + $m[7] * $g + $m[8] * $b)),
        );
    }

    /** ΔE00 of two colors to this eye. */
    public function deltaE(Color $one, Color $two): float
    {
        return $this->of($one)->deltaE($this->of($two));
    }
}
