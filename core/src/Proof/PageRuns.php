<?php

declare(strict_types=1);

namespace Anvil\Proof;

/**
 * Which triangle of a page the center of each texel lies in, as `PageRaster` has it, kept as runs of one triangle in a row: a page of millions of
 * texels is a few thousand of them.
 */
final readonly class PageRuns
{
    /** A run is one number: its first column, its last, its triangle. Sizes are below 2¹³. */
    private const FIRST = 50;

    private const LAST = 37;

    private const COLUMN = 0x1FFF;

    private const TRIANGLE = (1 << self::LAST) - 1;

    /** Greatest size of a page. */
    public const MOST = self::COLUMN;

    /**
     * @param  int  $size  texels a side
     * @param  list<int>  $runs  row after row, in each ascending and apart
     * @param  list<int>  $rows  where the runs of each row begin, and the end
     * @param  int  $inside  texels that lie in a triangle
     */
    private function __construct(public int $size, private array $runs, private array $rows, public int $inside)
    {
    }

    /**
     * @param  list<float>  $uvs  u v of three corners, six a triangle
     */
    public static function of(array $uvs, int $size): self
    {
        /** @var array<int, list<int>> $spans row → runs as triangles have them */
        $spans = [];
        PageRaster::spans($uvs, $size, static function (int $y, int $from, int $to, int $triangle) use (&$spans): void {
            $spans[$y][] = ($from << self::FIRST) | ($to << self::LAST) | $triangle;
        });
        $runs = $rows = [];
        $inside = 0;
        for ($y = 0; $y < $size; $y++) {
            $rows[] = count($runs);
            foreach (self::apart($spans[$y] ?? []) as $run) {
                $runs[] = $run;
                $inside += ($run >> self::LAST & self::COLUMN) - ($run >> self::FIRST) + 1;
            }
            unset($spans[$y]);
        }
        $rows[] = count($runs);

        return new self($size, $runs, $rows, $inside);
    }

    /** The triangle at a texel, −1 outside. */
    public function at(int $x, int $y): int
    {
        $low = $this->rows[$y];
        $high = $this->rows[$y + 1];
        // The last run that begins at or before the column.
        $beyond = ($x + 1) << self::FIRST;
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            if ($this->runs[$middle] < $beyond) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }
        if ($low === $this->rows[$y]) {
            return -1;
        }
        $run = $this->runs[$low - 1];

        return ($run >> self::LAST & self::COLUMN) >= $x ? $run & self::TRIANGLE : -1;
    }

    /**
     * Runs that lie over each other taken apart: what two have goes to the lower triangle.
     *
     * @param  list<int>  $spans
     * @return list<int>
     */
    private static function apart(array $spans): array
    {
        sort($spans);
        $out = [];
        $end = -1;
        $same = -1;
        foreach ($spans as $span) {
            $from = $span >> self::FIRST;
            // Copies that lie on each other: the lowest came first.
            if ($span >> self::LAST === $same) {
                continue;
            }
            $same = $span >> self::LAST;
            if ($from > $end) {
                $out[] = $span;
                $end = $same & self::COLUMN;

                continue;
            }
            $under = [];
            while ($out !== [] && ($out[count($out) - 1] >> self::LAST & self::COLUMN) >= $from) {
                $under[] = array_pop($out);
            }
            foreach (self::over(array_reverse($under), $from, $same & self::COLUMN, $span & self::TRIANGLE) as $run) {
                $out[] = $run;
            }
            $end = max($end, $same & self::COLUMN);
        }

        return $out;
    }

    /**
     * A run put over others that are apart and begin no later.
     *
     * @param  list<int>  $runs
     * @return list<int>
     */
    private static function over(array $runs, int $from, int $to, int $triangle): array
    {
        $out = [];
        $at = $from;
        foreach ($runs as $run) {
            [$first, $last, $own] = [$run >> self::FIRST, $run >> self::LAST & self::COLUMN, $run & self::TRIANGLE];
            $pieces = [[$first, min($last, $from - 1), $own], [$at, min($to, $first - 1), $triangle], [max($first, $from), min($last, $to), min($own, $triangle)], [max($first, $to + 1), $last, $own]];
            foreach ($pieces as [$begin, $end, $of]) {
                if ($begin <= $end) {
                    $out[] = ($begin << self::FIRST) | ($end << self::LAST) | $of;
                }
            }
            $at = max($at, $last + 1);
        }
        if ($at <= $to) {
            $out[] = ($at << self::FIRST) | ($to << self::LAST) | $triangle;
        }

        return $out;
    }
}
