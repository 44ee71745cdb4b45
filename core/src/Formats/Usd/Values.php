<?php

declare(strict_types=1);

namespace Anvil\Formats\Usd;

use Anvil\Unreadable;

/**
 * Numbers of a USD text value, whatever its brackets.
 *
 * @internal
 */
final class Values
{
    /**
     * @param  bool  $mayBeNone  NaN and infinity are kept as NaN
     * @return list<float>
     */
    public static function floats(string $raw, int $line, bool $mayBeNone = false): array
    {
        $out = [];
        foreach (self::words($raw) as $i => $word) {
            if (! is_numeric($word)) {
                if ($mayBeNone && preg_match('/^[-+]?(nan|inf)/i', $word) === 1) {
                    $out[] = NAN;

                    continue;
                }
                throw Unreadable::onLine($line, '"'.mb_strimwidth(mb_scrub($word), 0, 30, '…')."\" at place $i is no finite number");
            }
            $out[] = (float) $word;
        }

        return $out;
    }

    /**
     * @return list<int>
     */
    public static function ints(string $raw, int $line): array
    {
        if (strspn($raw, "0123456789-+,[]() \t\r\n") !== strlen($raw)) {
            throw Unreadable::onLine($line, 'holds what is no whole number');
        }

        return array_map(intval(...), self::words($raw));
    }

    /**
     * @return list<string>
     */
    private static function words(string $raw): array
    {
        if (str_contains($raw, '#')) {
            $raw = (string) preg_replace('/#[^\r\n]*/', ' ', $raw);
        }
        $text = trim(strtr($raw, "()[],\t\r\n", '        '));
        if (str_contains($text, '  ')) {
            $text = (string) preg_replace('/ {2,}/', ' ', $text);
        }

        return $text === '' ? [] : explode(' ', $text);
    }
}
