<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Little-endian blocks of numbers to flat lists and back: float32 and uint32, the two that the geometry store and glTF share.
 */
final class Bytes
{
    /** Numbers that are packed or unpacked at one time: an argument list of millions would double the memory. */
    private const RUN = 65536;

    /**
     * @return list<float> one a float32; a trailing rest of under 4 bytes is an error of the caller
     */
    public static function floats(string $bytes): array
    {
        $out = [];
        $whole = strlen($bytes) - strlen($bytes) % 32;
        // Eight named numbers at a time: unpack makes a name for each number of a run, which takes twice as long, and a list of all beside this one.
        for ($i = 0; $i < $whole; $i += 32) {
            /** @var array{a: float, b: float, c: float, d: float, e: float, f: float, g: float, h: float} $read */
            $read = unpack('ga/gb/gc/gd/ge/gf/gg/gh', $bytes, $i);
            ['a' => $out[], 'b' => $out[], 'c' => $out[], 'd' => $out[], 'e' => $out[], 'f' => $out[], 'g' => $out[], 'h' => $out[]] = $read;
        }
        /** @var array<int, float> $read */
        $read = $whole + 4 > strlen($bytes) ? [] : unpack('g*', $bytes, $whole);
        foreach ($read as $value) {
            $out[] = $value;
        }

        return $out;
    }

    /**
     * @return list<int> one a uint32
     */
    public static function uints(string $bytes): array
    {
        $out = [];
        $whole = strlen($bytes) - strlen($bytes) % 64;
        // Two numbers of 32 bits at a time as one of 64.
        for ($i = 0; $i < $whole; $i += 64) {
            /** @var array<string, int> $read */
            $read = unpack('Pa/Pb/Pc/Pd/Pe/Pf/Pg/Ph', $bytes, $i);
            foreach ($read as $both) {
                $out[] = $both & 0xFFFFFFFF;
                $out[] = $both >> 32 & 0xFFFFFFFF;
            }
        }
        /** @var array<int, int> $read */
        $read = $whole + 4 > strlen($bytes) ? [] : unpack('V*', $bytes, $whole);
        foreach ($read as $value) {
            $out[] = $value;
        }

        return $out;
    }

    /**
     * @param  list<float>  $values
     */
    public static function packFloats(array $values): string
    {
        $out = '';
        for ($i = 0, $count = count($values); $i < $count; $i += self::RUN) {
            $out .= pack('g*', ...array_slice($values, $i, self::RUN));
        }

        return $out;
    }

    /**
     * @param  list<int>  $values  0 to 2^32−1; −1 is written as 2^32−1
     */
    public static function packUints(array $values): string
    {
        $out = '';
        for ($i = 0, $count = count($values); $i < $count; $i += self::RUN) {
            $out .= pack('V*', ...array_slice($values, $i, self::RUN));
        }

        return $out;
    }

    /**
     * Each number as the nearest float32, which is what welding and the store compare. Too large ones become infinite.
     *
     * @param  list<float>  $values
     * @return list<float>
     */
    public static function toFloat32(array $values): array
    {
        $hasNegativeZero = self::areFloat32($values);
        if ($hasNegativeZero !== null) {
            // −0 and 0 are one place.
            foreach ($hasNegativeZero ? $values : [] as $i => $value) {
                if ($value === 0.0) {
                    $values[$i] = 0.0;
                }
            }

            return array_values($values);
        }
        $out = [];
        for ($i = 0, $count = count($values); $i < $count; $i += self::RUN) {
            /** @var array<int, float> $read */
            $read = unpack('g*', pack('g*', ...array_slice($values, $i, self::RUN)));
            foreach ($read as $value) {
                $out[] = $value + 0.0;
            }
        }

        return $out;
    }

    /**
     * Whether all values are float32 already, as most are that readers give: what is left of 53 bits after the upper 24 are taken off is nothing
     * (T. J. Dekker, "A Floating-Point Technique for Extending the Available Precision", 1971).
     *
     * @param  list<float>  $values
     * @return bool|null whether some of them are −0; null where not all are float32
     */
    private static function areFloat32(array $values): ?bool
    {
        $negative = false;
        foreach ($values as $value) {
            $scaled = $value * 536870913.0;
            if ($scaled - ($scaled - $value) !== $value) {
                return null;
            }
            if ($value < 1.2e-38 && $value > -1.2e-38) {
                if ($value !== 0.0) {
                    return null;
                }
                $negative = $negative || fdiv(1.0, $value) < 0.0;
            } elseif ($value > 3.4e38 || $value < -3.4e38) {
                return null;
            }
        }

        return $negative;
    }
}
