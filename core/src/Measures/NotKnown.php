<?php

declare(strict_types=1);

namespace Anvil\Measures;

use RuntimeException;

/** A result is asked for that was not computed yet, where nothing is computed. */
final class NotKnown extends RuntimeException
{
    public static function of(string $measure, Subject $subject): self
    {
        return new self("$measure of ".($subject->key === '' ? 'the asset' : $subject->key).' has not been computed');
    }

    public static function ofSets(): self
    {
        return new self('not all sets are measured');
    }
}
