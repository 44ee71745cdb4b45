<?php

declare(strict_types=1);

namespace Anvil\Formats;

/**
 * Names of files, as they come by upload or in a zip.
 */
final class PlainName
{
    /** Whether it shows on a screen and in a terminal as what it is: no control character, none that turns the direction of text. */
    public static function is(string $name): bool
    {
        return preg_match('/[\x00-\x1f\x7f]|[\x{80}-\x{9f}]|[\x{202a}-\x{202e}\x{2066}-\x{2069}]/u', $name) === 0;
    }
}
