<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Formats\Png\PngWriter;

/**
 * The retouch mask of a page: texels that miss or go wrong, grown by 2 px all round.
 */
final readonly class RetouchPage
{
    /** By which texels are grown, all round, in squares. */
    public const GROWN = 2;

    /**
     * @param  int  $size  px a side of the mask as it was made
     * @param  int  $times  texels of the map to one of the mask, a side
     * @param  int  $inside  texels inside islands, at the map size
     * @param  int  $texels  of the mask, at the map size
     * @param  float  $seenShare  share of the texels inside that miss or go wrong and are seen, not grown, margins of the low poly apart
     * @param  array<int, list<array{int, int}>>  $rows  row → first and last column of each run of the mask, apart and ascending
     * @param  list<array{kind: string, set: string, texels: int, x: int, y: int, where: array{float, float, float}}>  $areas  what hangs together, the largest first; px at the map size
     */
    private function __construct(public string $page, public int $size, public int $times, public int $inside, public int $texels, public float $seenShare, public array $rows, public array $areas)
    {
    }

    /**
     * @param  array<string, array{runs: list<array{int, int, int, int}>, seen: int, where: array<int, array{float, float, float}>}>  $found  set → `RetouchTexels::of`
     * @param  int  $inside  texels inside islands at the size of the mask
     */
    public static function of(string $page, array $found, int $inside, int $mapSize): self
    {
        $size = RetouchTexels::size($mapSize);
        $times = max(1, intdiv($mapSize, $size));
        $spans = [];
        $seen = 0;
        foreach ($found as $one) {
            $seen += $one['seen'];
            foreach ($one['runs'] as [$y, $from, $to]) {
                for ($row = max(0, $y - self::GROWN), $end = min($size - 1, $y + self::GROWN); $row <= $end; $row++) {
                    $spans[$row][] = [max(0, $from - self::GROWN), min($size - 1, $to + self::GROWN)];
                }
            }
        }
        ksort($spans);
        $rows = [];
        $texels = 0;
        foreach ($spans as $row => $list) {
            sort($list);
            /** @var list<array{int, int}> $merged */
            $merged = [];
            foreach ($list as [$from, $to]) {
                $last = array_pop($merged);
                if ($last !== null && $from <= $last[1] + 1) {
                    $merged[] = [$last[0], max($last[1], $to)];
                } else {
                    array_push($merged, ...($last === null ? [] : [$last]), ...[[$from, $to]]);
                }
            }
            foreach ($merged as [$from, $to]) {
                $texels += $to - $from + 1;
            }
            $rows[$row] = $merged;
        }

        return new self($page, $size, $times, $inside * $times ** 2, $texels * $times ** 2, $inside > 0 ? $seen / $inside : 0.0, $rows, self::areas($found, $times));
    }

    public function share(): float
    {
        return $this->inside > 0 ? min(1.0, $this->texels / $this->inside) : 0.0;
    }

    public function png(): string
    {
        $width = $this->size * $this->times;

        return PngWriter::image($width, $width, PngWriter::GREY, 8, false, (function () use ($width): iterable {
            $blank = str_repeat("\0", $width);
            for ($y = 0; $y < $this->size; $y++) {
                $row = $blank;
                foreach ($this->rows[$y] ?? [] as [$from, $to]) {
                    $length = ($to - $from + 1) * $this->times;
                    $row = substr_replace($row, str_repeat("\xff", $length), $from * $this->times, $length);
                }
                for ($k = 0; $k < $this->times; $k++) {
                    yield $row;
                }
            }
        })());
    }

    /**
     * @param  array<string, array{runs: list<array{int, int, int, int}>, seen: int, where: array<int, array{float, float, float}>}>  $found
     * @return list<array{kind: string, set: string, texels: int, x: int, y: int, where: array{float, float, float}}>
     */
    private static function areas(array $found, int $times): array
    {
        $out = [];
        foreach ($found as $set => $one) {
            $runs = $one['runs'];
            $roots = RunAreas::of($runs);
            $areas = [];
            foreach ($runs as $i => [$y, $from, $to, $kind]) {
                $r = $roots[$i];
                $areas[$r] ??= ['kind' => $kind === TexelRays::MISS ? 'miss' : 'wrong', 'set' => (string) $set, 'texels' => 0, 'x' => $from, 'y' => $y, 'where' => $one['where'][$i], 'widest' => -1];
                $areas[$r]['texels'] += $to - $from + 1;
                // The place that stands for it lies in its widest run.
                if ($to - $from > $areas[$r]['widest']) {
                    $areas[$r] = [...$areas[$r], 'widest' => $to - $from, 'x' => intdiv($from + $to, 2), 'y' => $y, 'where' => $one['where'][$i]];
                }
            }
            foreach ($areas as $area) {
                unset($area['widest']);
                $out[] = [...$area, 'texels' => $area['texels'] * $times ** 2, 'x' => $area['x'] * $times, 'y' => $area['y'] * $times];
            }
        }
        usort($out, static fn (array $a, array $b): int => [$b['texels'], $a['y'], $a['x']] <=> [$a['texels'], $b['y'], $b['x']]);

        return array_slice($out, 0, 200);
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['page' => $this->page, 'size' => $this->size, 'times' => $this->times, 'inside' => $this->inside, 'texels' => $this->texels, 'seenShare' => $this->seenShare, 'rows' => $this->rows, 'areas' => $this->areas];
    }
}
