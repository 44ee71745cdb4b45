<?php

declare(strict_types=1);

namespace Anvil\Tests\Proof;

use Anvil\Proof\RunAreas;
use PHPUnit\Framework\TestCase;

/** Which runs hang together, against a flood from texel to texel. */
final class RunAreasTest extends TestCase
{
    /**
     * @param  list<string>  $rows  a letter a texel, its kind; a blank: none
     * @return list<array{int, int, int, int}>
     */
    private static function runs(array $rows, int $longest): array
    {
        $runs = [];
        foreach ($rows as $y => $row) {
            for ($x = 0; $x < strlen($row); $x += $length) {
                $length = min($longest, strspn($row, $row[$x], $x));
                if ($row[$x] !== ' ') {
                    $runs[] = [$y, $x, $x + $length - 1, ord($row[$x])];
                }
            }
        }

        return $runs;
    }

    public function test_small_pictures(): void
    {
        self::assertSame([], RunAreas::of([]));
        // By a corner to either side, and not by a texel more.
        self::assertSame([0, 1, 0, 1], RunAreas::of(self::runs(['mm   m', '  m m '], 256)));
        self::assertSame([0, 1], RunAreas::of(self::runs(['mm    ', '   mm '], 256)));
        // Over an empty row they do not; each kind hangs together with its own.
        self::assertSame([0, 1], RunAreas::of(self::runs(['mm', '  ', 'mm'], 256)));
        self::assertSame([0, 1, 1, 0], RunAreas::of(self::runs(['mmww', 'wwmm'], 256)));
        // What was cut for its length is one, and a run over two joins them.
        self::assertSame([0, 0, 0], RunAreas::of(self::runs(['mmmmmm'], 2)));
        self::assertSame([0, 0, 0], RunAreas::of(self::runs(['m m', 'mmm'], 256)));
    }

    public function test_any_picture_is_parted_as_a_flood_parts_it(): void
    {
        mt_srand(7);
        for ($round = 0; $round < 300; $round++) {
            [$width, $height, $dense] = [mt_rand(1, 24), mt_rand(1, 12), mt_rand(1, 9)];
            $rows = [];
            for ($y = 0; $y < $height; $y++) {
                $rows[] = implode('', array_map(static fn (): string => mt_rand(0, 9) < $dense ? (mt_rand(0, 3) > 0 ? 'm' : 'w') : ' ', range(1, $width)));
            }
            $runs = self::runs($rows, mt_rand(0, 1) === 1 ? 3 : 256);
            $of = [];
            foreach ($runs as $i => [$y, $from, $to]) {
                for ($x = $from; $x <= $to; $x++) {
                    $of["$y $x"] = $i;
                }
            }
            $expected = [];
            foreach ($runs as $i => [$y, $x]) {
                if (isset($expected[$i])) {
                    continue;
                }
                for ($queue = [[$y, $x]], $met = ["$y $x" => true]; $queue !== [];) {
                    [$py, $px] = array_pop($queue);
                    $expected[$of["$py $px"]] = $i;
                    foreach ([[-1, -1], [-1, 0], [-1, 1], [0, -1], [0, 1], [1, -1], [1, 0], [1, 1]] as [$dy, $dx]) {
                        [$qy, $qx] = [$py + $dy, $px + $dx];
                        if (isset($of["$qy $qx"]) && ! isset($met["$qy $qx"]) && $rows[$qy][$qx] === $rows[$py][$px]) {
                            $met["$qy $qx"] = true;
                            $queue[] = [$qy, $qx];
                        }
                    }
                }
            }
            ksort($expected);
            self::assertSame(array_values($expected), RunAreas::of($runs), implode("\n", $rows));
        }
    }
}
