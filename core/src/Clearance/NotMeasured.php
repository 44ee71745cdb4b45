<?php

declare(strict_types=1);

namespace Anvil\Clearance;

/** A set whose rays were not shot. */
final readonly class NotMeasured
{
    /** @param  string  $reason  in words */
    public function __construct(public string $reason)
    {
    }
}
