<?php

declare(strict_types=1);

namespace Anvil\Standard;

/**
 * Names with `*`, as in an asset's choices.
 */
final class Pattern
{
    /**
     * @param  list<string>  $patterns
     */
    public static function anyFits(array $patterns, string $name): bool
    {
        foreach ($patterns as $pattern) {
            if (preg_match('/^'.str_replace('\*', '.*', preg_quote($pattern, '/')).'$/su', $name) === 1) {
                return true;
            }
        }

        return false;
    }
}
