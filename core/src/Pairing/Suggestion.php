<?php

declare(strict_types=1);

namespace Anvil\Pairing;

/**
 * A new name that would mend a tie.
 */
final readonly class Suggestion
{
    /**
     * @param  float  $confidence  0–1
     */
    public function __construct(public RoledPart $part, public string $rename, public string $reason, public float $confidence)
    {
    }
}
