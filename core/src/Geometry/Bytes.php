<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * Little-endian blocks of numbers to flat lists and back: float32 and uint32, the two that the geometry store and glTF share.
 */
final class Bytes
{
    /**
     * @return list<float> one a float32; a trailing rest of under 4 bytes is an error of the caller
     */
    public static function floats(string $bytes): array
    {
        if ($bytes === '') {
            return [];
        }

        /** @var array<int, float> $read unpack counts from 1 */
        $read = unpack('g*', $bytes);

        return array_values($read);
    }

    /**
     * @return list<int> one a uint32
     */
    public static function uints(string $bytes): array
    {
        if ($bytes === '') {
            return [];
        }

        /** @var array<int, int> $read */
        $read = unpack('V*', $bytes);

        return array_values($read);
    }

    /**
     * @param  list<float>  $values
     */
    public static function packFloats(array $values): string
    {
        $out = '';
        // In runs: an argument list of millions would double the memory.
        foreach (array_chunk($values, 65536) as $run) {
            $out .= pack('g*', ...$run);
        }

        return $out;
    }

    /**
     * @param  list<int>  $values  0 to 2^32−1; −1 is written as 2^32−1
     */
    public static function packUints(array $values): string
    {
        $out = '';
        foreach (array_chunk($values, 65536) as $run) {
            $out .= pack('V*', ...$run);
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
        if (self::areFloat32($values)) {
            return $values;
        }
        $out = [];
        foreach (array_chunk($values, 65536) as $run) {
            /** @var array<int, float> $read */
            $read = unpack('g*', pack('g*', ...$run));
            foreach ($read as $value) {
                // −0 and 0 are one place.
                $out[] = $value + 0.0;
            }
        }

        return $out;
    }

    /**
     * Whether all values are float32 already, as most are that readers give, and none is −0: what is left of 53 bits after the upper 24 are taken off
     * is nothing (T. J. Dekker, "A Floating-Point Technique for Extending the Available Precision", 1971).
     *
     * @param  list<float>  $values
     */
    private static function areFloat32(array $values): bool
    {
        foreach ($values as $value) {
            $scaled = $value * 536870913.0;
            if ($scaled - ($scaled - $value) !== $value) {
                return false;
            }
            if ($value < 1.2e-38 && $value > -1.2e-38) {
                if ($value !== 0.0 || fdiv(1.0, $value) < 0.0) {
                    return false;
                }
            } elseif ($value > 3.4e38 || $value < -3.4e38) {
                return false;
            }
        }

        return true;
    }
}
