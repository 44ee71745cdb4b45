<?php

declare(strict_types=1);

namespace Anvil\Sets;

use Anvil\Geometry\Bounds;
use Anvil\Pairing\RoledPart;

/**
 * Parts that are baked together, apart from all others.
 */
final readonly class BakeSet
{
    /**
     * @param  list<RoledPart>  $low
     * @param  list<RoledPart>  $high  empty where it is baked on itself
     * @param  list<RoledPart>  $id
     * @param  list<RoledPart>  $cage
     * @param  bool  $onItself  the low poly is its own high poly
     */
    public function __construct(
        public string $name,
        public array $low,
        public array $high,
        public array $id,
        public array $cage,
        public bool $onItself,
    ) {
    }

    /**
     * What rays of this set are to meet.
     *
     * @return list<RoledPart>
     */
    public function target(): array
    {
        return $this->high === [] && $this->onItself ? $this->low : $this->high;
    }

    /** Whether there is anything to shoot at and from. */
    public function isWhole(): bool
    {
        return $this->low !== [] && $this->target() !== [];
    }

    /** Of the low parts. */
    public function lowBounds(): ?Bounds
    {
        return RoledPart::boundsOf($this->low);
    }

    /** Of low, high and cage together. */
    public function bounds(): ?Bounds
    {
        return RoledPart::boundsOf([...$this->low, ...$this->high, ...$this->cage]);
    }
}
