<?php

declare(strict_types=1);

namespace Anvil\Pairing;

/**
 * Low and high parts that belong together, or one side that waits for the other.
 */
final readonly class Tie
{
    /**
     * @param  list<RoledPart>  $low
     * @param  list<RoledPart>  $high
     * @param  list<string>  $troubles  codes of `suffix-case`, `name-case`, `suffix-missing`, `name-near`, `pair-crossed` that hold for it; `chain` where it is the end of a row of crossed ones
     * @param  float|null  $cost  place and size: distance of bounds' centres + half the L1 difference of their sizes, over the low part's diagonal
     * @param  list<RoledPart>  $better  the high parts that place and size say, where they are not those of the name
     * @param  float|null  $betterCost  theirs
     */
    public function __construct(
        public string $base,
        public array $low,
        public array $high,
        public TieKind $kind,
        public array $troubles = [],
        public ?float $cost = null,
        public array $better = [],
        public ?float $betterCost = null,
    ) {
    }

    /** Whether both sides are there and belong together by all that is known, so that rays between them mean something. */
    public function isSound(): bool
    {
        return $this->low !== [] && $this->high !== [] && $this->kind !== TieKind::Crossed && ! $this->isApart();
    }

    /** The gap between the boxes of low and high as a share of the low's diagonal; 0 where they meet, null where one side is missing. */
    public function gap(): ?float
    {
        $low = RoledPart::boundsOf($this->low);
        $high = RoledPart::boundsOf($this->high);

        return $low === null || $high === null ? null : $low->gapTo($high) / max(1e-30, $low->diagonal());
    }

    /** A thin part may float a little over its low; further off they are apart. */
    public function isApart(): bool
    {
        return $this->kind !== TieKind::Whole && $this->kind !== TieKind::Crossed && ($this->gap() ?? 0.0) > 0.01;
    }
}
