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
            if (self::fits($pattern, $name)) {
                return true;
            }
        }

        return false;
    }

    /** Piece after piece at the first place where it is: of many `*`, no way is tried twice. */
    private static function fits(string $pattern, string $name): bool
    {
        $pieces = explode('*', $pattern);
        if (count($pieces) === 1) {
            return $pattern === $name;
        }
        $first = array_shift($pieces);
        $last = array_pop($pieces);
        $at = strlen($first);
        $end = strlen($name) - strlen((string) $last);
        if ($at > $end || ! str_starts_with($name, $first) || ! str_ends_with($name, (string) $last)) {
            return false;
        }
        foreach ($pieces as $piece) {
            $found = strpos($name, $piece, $at);
            if ($found === false || $found + strlen($piece) > $end) {
                return false;
            }
            $at = $found + strlen($piece);
        }

        return true;
    }
}
