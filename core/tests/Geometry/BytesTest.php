<?php

declare(strict_types=1);

namespace Anvil\Tests\Geometry;

use Anvil\Geometry\Bytes;
use PHPUnit\Framework\TestCase;

/**
 * Rounding to IEEE 754 single precision against PHP's own pack and unpack, value by value.
 */
final class BytesTest extends TestCase
{
    public function test_rounding_is_that_of_ieee_754(): void
    {
        mt_srand(5);
        for ($i = 0; $i < 40_000; $i++) {
            $value = (mt_rand() / mt_getrandmax() - 0.5) * 2.0 ** mt_rand(-150, 140);
            if ($i % 2 === 0) {
                // What is single precision already, and next to it.
                $value = self::single($value) * ($i % 8 === 0 ? 1 + 2.0 ** -mt_rand(20, 52) : 1);
            }
            self::assertSame(self::single($value) + 0.0, Bytes::toFloat32([$value])[0], sprintf('%.17g', $value));
        }
    }

    public function test_what_is_single_already_stays_the_same_list_and_minus_zero_becomes_zero(): void
    {
        $list = array_map(self::single(...), [0.1, -2.5, 1e30, 3.4028234663852886e38, 1.17549435e-38, 0.0]);
        self::assertSame($list, Bytes::toFloat32($list));
        self::assertSame('0,0,1.5', implode(',', Bytes::toFloat32([0.0, -0.0, 1.5])));
        self::assertSame(INF, fdiv(1.0, Bytes::toFloat32([-0.0])[0]));
        self::assertSame([], Bytes::toFloat32([]));
        self::assertNan(Bytes::toFloat32([1.0, NAN])[1]);
        self::assertSame([INF, -INF, 1.5], Bytes::toFloat32([INF, -INF, 1.5]));
        // Smaller than any normal number.
        self::assertSame(self::single(1e-40), Bytes::toFloat32([1e-40])[0]);
    }

    public function test_blocks_of_any_length_come_back_as_they_were_packed(): void
    {
        mt_srand(7);
        foreach ([...range(0, 40), 1000, 65535, 65536, 65537, 131073] as $count) {
            $floats = $ints = [];
            for ($i = 0; $i < $count; $i++) {
                $floats[] = self::single(mt_rand() / 1000 - 1e6);
                $ints[] = $i % 3 === 0 ? 0xFFFFFFFF - mt_rand(0, 9) : mt_rand();
            }
            self::assertSame($count === 0 ? '' : pack('g*', ...$floats), $packed = Bytes::packFloats($floats), "$count floats");
            self::assertSame($floats, Bytes::floats($packed), "$count floats");
            self::assertSame($count === 0 ? '' : pack('V*', ...$ints), $packed = Bytes::packUints($ints), "$count ints");
            self::assertSame($ints, Bytes::uints($packed), "$count ints");
        }
        self::assertSame(pack('V', 0xFFFFFFFF), Bytes::packUints([-1]));
        // A rest of under four bytes is no number.
        self::assertSame([[1.5], [7]], [Bytes::floats(pack('g', 1.5).'ab'), Bytes::uints(pack('V', 7).'abc')]);
    }

    private static function single(float $value): float
    {
        $read = unpack('g', pack('g', $value));

        return is_array($read) && is_float($read[1]) ? $read[1] : NAN;
    }
}
