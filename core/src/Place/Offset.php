<?php

declare(strict_types=1);

namespace Anvil\Place;

/**
 * How a low part stands off its high (METHODS, "Place"): the motion that brings the low poly onto the high poly.
 */
final readonly class Offset
{
    /**
     * @param  array{float, float, float}  $shift  of the low part's centre, in file units
     * @param  array{float, float, float}  $axis  unit, of the turn
     * @param  float  $degrees  of the turn about the low part's centre
     * @param  float  $scale  uniform, about the low part's centre
     * @param  float  $d  diagonal of the low part's bounds
     * @param  list<string>  $hidden  what the shape cannot show, in words
     */
    public function __construct(public array $shift, public array $axis, public float $degrees, public float $scale, public float $d, public array $hidden)
    {
    }

    /** What explains most: `shift`, `turn`, `scale`, or `none`. */
    public function kind(): string
    {
        $parts = ['shift' => $this->shiftShare(), 'turn' => $this->turnShare(), 'scale' => $this->scaleShare()];
        arsort($parts);
        $kind = (string) array_key_first($parts);

        return $parts[$kind] > 0.0 ? $kind : 'none';
    }

    /** The greatest way that a place within the part's bounds goes by what explains most, as a share of d. */
    public function share(): float
    {
        return max($this->shiftShare(), $this->turnShare(), $this->scaleShare());
    }

    public function shiftShare(): float
    {
        return sqrt($this->shift[0] ** 2 + $this->shift[1] ** 2 + $this->shift[2] ** 2) / $this->d;
    }

    /** The way of a corner of the bounds, half the diagonal from the centre. */
    public function turnShare(): float
    {
        return sin(deg2rad(abs($this->degrees)) / 2);
    }

    public function scaleShare(): float
    {
        return abs($this->scale - 1.0) / 2;
    }

    /**
     * @return array{shift: array{float, float, float}, axis: array{float, float, float}, degrees: float, scale: float, d: float, hidden: list<string>}
     */
    public function toArray(): array
    {
        return ['shift' => $this->shift, 'axis' => $this->axis, 'degrees' => $this->degrees, 'scale' => $this->scale, 'd' => $this->d, 'hidden' => $this->hidden];
    }

    /**
     * @param  array{shift: array{float|int, float|int, float|int}, axis: array{float|int, float|int, float|int}, degrees: float|int, scale: float|int, d: float|int, hidden: list<string>}  $stored
     */
    public static function ofArray(array $stored): self
    {
        [$shift, $axis] = [$stored['shift'], $stored['axis']];

        return new self([(float) $shift[0], (float) $shift[1], (float) $shift[2]], [(float) $axis[0], (float) $axis[1], (float) $axis[2]], (float) $stored['degrees'], (float) $stored['scale'], (float) $stored['d'], $stored['hidden']);
    }
}
