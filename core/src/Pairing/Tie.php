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
     * @param  list<string>  $troubles  codes of `suffix-case`, `name-case`, `suffix-missing` that hold for it
     * @param  float|null  $cost  place and size: distance of bounds' centres + half the L1 difference of their sizes, over the low part's diagonal
     */
    public function __construct(
        public string $base,
        public array $low,
        public array $high,
        public TieKind $kind,
        public array $troubles = [],
        public ?float $cost = null,
    ) {
    }
}
