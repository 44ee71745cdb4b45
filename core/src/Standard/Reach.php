<?php

declare(strict_types=1);

namespace Anvil\Standard;

/**
 * How far rays go outward and inward, in multiples of the direction (file units).
 */
final readonly class Reach
{
    public function __construct(public float $out, public float $in)
    {
    }

    /**
     * @return array{out: float, in: float}
     */
    public function toArray(): array
    {
        return ['out' => $this->out, 'in' => $this->in];
    }
}
