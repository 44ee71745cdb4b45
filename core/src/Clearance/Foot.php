<?php

declare(strict_types=1);

namespace Anvil\Clearance;

/**
 * Places on a closed high shell, for how far it goes on beneath its rim.
 */
final readonly class Foot
{
    /** @var list<float> */
    private array $x;

    /** @var list<float> */
    private array $y;

    /** @var list<float> */
    private array $z;

    /** Squared: not further to the side of a place than a quarter of the shell's size. */
    private float $beside;

    /**
     * @param  list<array{float, float, float}>  $places
     */
    public function __construct(array $places)
    {
        $this->x = array_column($places, 0);
        $this->y = array_column($places, 1);
        $this->z = array_column($places, 2);
        $reach = 0.0;
        foreach ($places as [$x, $y, $z]) {
            $reach = max($reach, ($x - $this->x[0]) ** 2 + ($y - $this->y[0]) ** 2 + ($z - $this->z[0]) ** 2);
        }
        $this->beside = $reach / 16;
    }

    /**
     * How far the shell goes on beneath a place of its rim.
     *
     * @param  array{float, float, float}  $n  unit
     */
    public function under(float $x, float $y, float $z, array $n): float
    {
        [$nx, $ny, $nz] = $n;
        [$xs, $ys, $zs, $beside] = [$this->x, $this->y, $this->z, $this->beside];
        $lowest = 0.0;
        for ($i = 0, $count = count($xs); $i < $count; $i++) {
            $dx = $xs[$i] - $x;
            $dy = $ys[$i] - $y;
            $dz = $zs[$i] - $z;
            $height = $dx * $nx + $dy * $ny + $dz * $nz;
            if ($height < $lowest && $dx * $dx + $dy * $dy + $dz * $dz - $height * $height <= $beside) {
                $lowest = $height;
            }
        }

        return -$lowest;
    }
}
