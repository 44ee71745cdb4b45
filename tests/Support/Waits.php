<?php

declare(strict_types=1);

namespace Tests\Support;

/**
 * The one place in which tests wait: for something to hold, and never for a clock alone.
 */
trait Waits
{
    /**
     * Waits until something holds, and fails when it does not within so many seconds.
     *
     * @param  callable(): bool  $holds
     * @param  string|callable(): string  $else  what is said then
     */
    protected static function until(callable $holds, string|callable $else, float $seconds = 60.0): void
    {
        if (! self::comes($holds, $seconds)) {
            self::fail(is_string($else) ? $else : $else());
        }
    }

    /**
     * Whether something holds within so many seconds.
     *
     * @param  callable(): bool  $holds
     */
    protected static function comes(callable $holds, float $seconds): bool
    {
        $end = microtime(true) + $seconds;
        do {
            if ($holds()) {
                return true;
            }
            time_nanosleep(0, 25_000_000);
        } while (microtime(true) < $end);

        return false;
    }
}
