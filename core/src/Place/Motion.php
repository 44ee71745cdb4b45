<?php

declare(strict_types=1);

namespace Anvil\Place;

/**
 * A turn about a centre, a uniform scale about it, then a shift.
 */
final readonly class Motion
{
    public const NO_TURN = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0];

    /**
     * @param  array{float, float, float}  $shift
     * @param  list<float>  $turn  9, row by row
     */
    public function __construct(public array $shift = [0.0, 0.0, 0.0], public array $turn = self::NO_TURN, public float $factor = 1.0)
    {
    }

    public function isNone(): bool
    {
        return $this->shift === [0.0, 0.0, 0.0] && $this->turn === self::NO_TURN && $this->factor === 1.0;
    }

    /**
     * @param  array{float, float, float}  $by
     */
    public function shiftedBy(array $by): self
    {
        return new self([$this->shift[0] + $by[0], $this->shift[1] + $by[1], $this->shift[2] + $by[2]], $this->turn, $this->factor);
    }

    /**
     * Turned further about a unit axis.
     *
     * @param  array{float, float, float}  $u
     */
    public function turnedBy(array $u, float $radians): self
    {
        $c = cos($radians);
        $s = sin($radians);
        $r = [
            $c + $u[0] * $u[0] * (1 - $c), $u[0] * $u[1] * (1 - $c) - $u[2] * $s, $u[0] * $u[2] * (1 - $c) + $u[1] * $s,
            $u[1] * $u[0] * (1 - $c) + $u[2] * $s, $c + $u[1] * $u[1] * (1 - $c), $u[1] * $u[2] * (1 - $c) - $u[0] * $s,
            $u[2] * $u[0] * (1 - $c) - $u[1] * $s, $u[2] * $u[1] * (1 - $c) + $u[0] * $s, $c + $u[2] * $u[2] * (1 - $c),
        ];
        $m = $this->turn;
        $out = [];
        for ($i = 0; $i < 3; $i++) {
            for ($j = 0; $j < 3; $j++) {
                $out[] = $r[3 * $i] * $m[$j] + $r[3 * $i + 1] * $m[3 + $j] + $r[3 * $i + 2] * $m[6 + $j];
            }
        }

        return new self($this->shift, $out, $this->factor);
    }

    /** How far it moves a point, counted from the centre, along a direction. */
    public function along(float $x, float $y, float $z, float $nx, float $ny, float $nz): float
    {
        $m = $this->turn;
        $f = $this->factor;

        return ($f * ($m[0] * $x + $m[1] * $y + $m[2] * $z) + $this->shift[0] - $x) * $nx + ($f * ($m[3] * $x + $m[4] * $y + $m[5] * $z) + $this->shift[1] - $y) * $ny
            + ($f * ($m[6] * $x + $m[7] * $y + $m[8] * $z) + $this->shift[2] - $z) * $nz;
    }

    /**
     * @return array{array{float, float, float}, float} unit axis, degrees of 0 to 180
     */
    public function axisAngle(): array
    {
        $m = $this->turn;
        $angle = acos(max(-1.0, min(1.0, ($m[0] + $m[4] + $m[8] - 1) / 2)));
        $axis = [$m[7] - $m[5], $m[2] - $m[6], $m[3] - $m[1]];
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);

        return $length < 1e-12 ? [[0.0, 0.0, 1.0], 0.0] : [[$axis[0] / $length, $axis[1] / $length, $axis[2] / $length], rad2deg($angle)];
    }
}
