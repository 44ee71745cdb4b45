<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * An axis-aligned box in file units.
 */
final readonly class Bounds
{
    /**
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     */
    private function __construct(public array $min, public array $max)
    {
    }

    /**
     * @param  array{float, float, float}  $min
     * @param  array{float, float, float}  $max
     */
    public static function of(array $min, array $max): self
    {
        return new self($min, $max);
    }

    /**
     * @param  list<float>  $positions  xyz interleaved, n×3
     * @return self|null null when there is no position
     */
    public static function ofPositions(array $positions): ?self
    {
        $count = count($positions);
        if ($count < 3) {
            return null;
        }
        $minX = $maxX = $positions[0];
        $minY = $maxY = $positions[1];
        $minZ = $maxZ = $positions[2];
        for ($i = 3; $i + 2 < $count; $i += 3) {
            $x = $positions[$i];
            $y = $positions[$i + 1];
            $z = $positions[$i + 2];
            if ($x < $minX) {
                $minX = $x;
            } elseif ($x > $maxX) {
                $maxX = $x;
            }
            if ($y < $minY) {
                $minY = $y;
            } elseif ($y > $maxY) {
                $maxY = $y;
            }
            if ($z < $minZ) {
                $minZ = $z;
            } elseif ($z > $maxZ) {
                $maxZ = $z;
            }
        }

        return new self([$minX, $minY, $minZ], [$maxX, $maxY, $maxZ]);
    }

    /**
     * @param  iterable<self|null>  $all
     */
    public static function union(iterable $all): ?self
    {
        $union = null;
        foreach ($all as $one) {
            if ($one !== null) {
                $union = $union === null ? $one : $union->with($one);
            }
        }

        return $union;
    }

    public function with(self $other): self
    {
        return new self(
            [min($this->min[0], $other->min[0]), min($this->min[1], $other->min[1]), min($this->min[2], $other->min[2])],
            [max($this->max[0], $other->max[0]), max($this->max[1], $other->max[1]), max($this->max[2], $other->max[2])],
        );
    }

    public function grown(float $by): self
    {
        return new self(
            [$this->min[0] - $by, $this->min[1] - $by, $this->min[2] - $by],
            [$this->max[0] + $by, $this->max[1] + $by, $this->max[2] + $by],
        );
    }

    /**
     * @param  array{float, float, float}  $vector
     */
    public function moved(array $vector): self
    {
        return new self(
            [$this->min[0] + $vector[0], $this->min[1] + $vector[1], $this->min[2] + $vector[2]],
            [$this->max[0] + $vector[0], $this->max[1] + $vector[1], $this->max[2] + $vector[2]],
        );
    }

    public function meets(self $other): bool
    {
        return $this->min[0] <= $other->max[0] && $other->min[0] <= $this->max[0]
            && $this->min[1] <= $other->max[1] && $other->min[1] <= $this->max[1]
            && $this->min[2] <= $other->max[2] && $other->min[2] <= $this->max[2];
    }

    /**
     * @return array{float, float, float}
     */
    public function centre(): array
    {
        return [($this->min[0] + $this->max[0]) / 2, ($this->min[1] + $this->max[1]) / 2, ($this->min[2] + $this->max[2]) / 2];
    }

    /**
     * @return list<float> xyz of the eight corners
     */
    public function corners(): array
    {
        $out = [];
        foreach ([$this->min[0], $this->max[0]] as $x) {
            foreach ([$this->min[1], $this->max[1]] as $y) {
                array_push($out, $x, $y, $this->min[2], $x, $y, $this->max[2]);
            }
        }

        return $out;
    }

    /** The gap to another box, 0 where they meet. */
    public function gapTo(self $other): float
    {
        $sum = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $sum += max(0.0, $other->min[$k] - $this->max[$k], $this->min[$k] - $other->max[$k]) ** 2;
        }

        return sqrt($sum);
    }

    public function diagonal(): float
    {
        return sqrt(
            ($this->max[0] - $this->min[0]) ** 2 + ($this->max[1] - $this->min[1]) ** 2 + ($this->max[2] - $this->min[2]) ** 2
        );
    }

    /**
     * @return array{min: array{float, float, float}, max: array{float, float, float}}
     */
    public function toArray(): array
    {
        return ['min' => $this->min, 'max' => $this->max];
    }
}
