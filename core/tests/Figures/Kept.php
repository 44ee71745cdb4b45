<?php

declare(strict_types=1);

namespace Anvil\Tests\Figures;

/**
 * Figures that were looked at and kept in `kept/`, a file a row. `ANVIL_KEEP_FIGURES=1` writes them anew; look through what changed before it
 * is committed.
 */
final class Kept
{
    /** Figures agree to this share of their size, and to this much near 0. */
    private const AGREES = 1e-7;

    /**
     * @return list<string> what differs from the figures kept under a name, the first twenty
     */
    public static function moved(string $name, mixed $figures, float $agrees = self::AGREES): array
    {
        $path = __DIR__.'/kept/'.preg_replace('/[^a-z0-9]+/', '-', strtolower($name)).'.json';
        if (getenv('ANVIL_KEEP_FIGURES') === '1') {
            file_put_contents($path, json_encode($figures, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES)."\n");
        }
        if (! is_file($path)) {
            return ["$path is not there"];
        }

        return array_slice(self::differences(json_decode((string) file_get_contents($path), true, 64, JSON_THROW_ON_ERROR), json_decode(json_encode($figures, JSON_THROW_ON_ERROR), true, 64, JSON_THROW_ON_ERROR), $agrees), 0, 20);
    }

    /**
     * @return list<string>
     */
    public static function differences(mixed $kept, mixed $now, float $agrees = self::AGREES): array
    {
        $moved = [];
        self::compare($kept, $now, '', $agrees, $moved);

        return $moved;
    }

    /**
     * @param  list<string>  $moved
     */
    private static function compare(mixed $kept, mixed $now, string $at, float $agrees, array &$moved): void
    {
        if (is_array($kept) && is_array($now)) {
            foreach ($kept as $key => $value) {
                if (array_key_exists($key, $now)) {
                    self::compare($value, $now[$key], "$at/$key", $agrees, $moved);
                } else {
                    $moved[] = "$at/$key is gone";
                }
            }
            foreach (array_diff_key($now, $kept) as $key => $value) {
                $moved[] = "$at/$key is new";
            }
        } elseif ((is_int($kept) || is_float($kept)) && (is_int($now) || is_float($now))) {
            if (abs($kept - $now) > $agrees * max(1.0, abs($kept))) {
                $moved[] = "$at: $now for $kept";
            }
        } elseif ($kept !== $now) {
            $moved[] = $at.': '.json_encode($now, JSON_UNESCAPED_UNICODE).' for '.json_encode($kept, JSON_UNESCAPED_UNICODE);
        }
    }
}
