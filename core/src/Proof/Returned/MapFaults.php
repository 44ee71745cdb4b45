<?php

declare(strict_types=1);

namespace Anvil\Proof\Returned;

use Anvil\Formats\Images\Image;
use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Proof\Outskirts;
use Anvil\Proof\PageRaster;
use Anvil\Proof\ProofPage;
use Anvil\Proof\TrialBake;

/**
 * What is looked for in a map that came back at its own size: texels that were never written, how far the borders' colors go on, and colors that are no ID's.
 */
final class MapFaults
{
    /** Larger maps are looked at in every so many-th pixel. */
    private const LOOKED_AT = 2048;

    /** Colors of 16 bits that count as one: two steps of 8 bits. */
    private const SAME = 514;

    /** Texels at which is looked what the outside is. */
    private const BEYOND = 300_000;

    /** Candidates for a hole are shot again, each exactly where it lies, up to so many. */
    private const SHOT = 4000;

    /** A border that differs less from the background does not show how far it goes. */
    private const SHOWS = 6554;

    /** Of a ring of texels so many have to go on. */
    private const GOES_ON = 0.9;

    /** ΔE00 within which a color is an ID's. */
    private const ID = 2.0;

    private readonly int $size;

    /** Pixels of the map to one that is looked at, a side. */
    private readonly float $times;

    /** @var list<int> */
    private readonly array $owners;

    /** @var list<int> red, green, blue, alpha, 0–65535, of each pixel that is looked at */
    private array $pixels = [];

    /** @var array{int, int, int, int}|null the color beyond all padding */
    private ?array $background = null;

    /** @var array<int, array{float, int}> texel outside → distance to the nearest inside and that one, up to the padding and a little */
    private readonly array $beside;

    /**
     * @param  Image  $image  a square one
     * @param  float  $padding  px of the map
     * @param  array{list<int>, array<int, array{float, int}>}  $layout  of `layout`: the same for all maps of a page that have one size
     */
    public function __construct(private readonly Image $image, private readonly ProofPage $page, private readonly float $padding, array $layout)
    {
        $this->size = self::looksAt($image->width());
        $this->times = $image->width() / $this->size;
        [$this->owners, $this->beside] = $layout;
        for ($y = 0; $y < $this->size; $y++) {
            $row = $image->row((int) (($y + 0.5) * $this->times));
            for ($x = 0; $x < $this->size; $x++) {
                $i = 4 * (int) (($x + 0.5) * $this->times);
                $this->pixels[] = $row[$i];
                $this->pixels[] = $row[$i + 1];
                $this->pixels[] = $row[$i + 2];
                $this->pixels[] = $row[$i + 3];
            }
        }
        $this->beyond();
    }

    /** Pixels a side that are looked at, of a map of so many. */
    public static function looksAt(int $width): int
    {
        return min($width, self::LOOKED_AT);
    }

    /**
     * Whose each texel is, and what lies beside islands up to the padding and a little.
     *
     * @param  float  $padding  px of the map
     * @return array{list<int>, array<int, array{float, int}>}
     */
    public static function layout(ProofPage $page, int $width, float $padding): array
    {
        $size = self::looksAt($width);
        $owners = PageRaster::owners($page->uvs, $size);

        return [$owners, Outskirts::of($owners, $size, $padding * $size / $width + 2)];
    }

    /** The color that most texels have that lie beyond all padding. */
    private function beyond(): void
    {
        $count = [];
        // Every few texels tell what most are.
        $step = max(1, intdiv(count($this->owners), self::BEYOND));
        for ($i = intdiv($step, 2), $n = count($this->owners); $i < $n; $i += $step) {
            if ($this->owners[$i] < 0 && ! isset($this->beside[$i])) {
                $key = implode(' ', array_slice($this->pixels, 4 * $i, 4));
                $count[$key] = ($count[$key] ?? 0) + 1;
            }
        }
        if ($count !== []) {
            arsort($count);
            $color = array_map(intval(...), explode(' ', (string) array_key_first($count)));
            $this->background = [$color[0], $color[1], $color[2], $color[3]];
        }
    }

    /**
     * Texels inside that were never written: transparent, or of the color of the outside where a ray from just there gives another.
     *
     * @param  TrialBake  $bake  through what the trial was made
     * @return array{share: float, texels: int, where: list<array{int, float, float}>} of the texels inside; px at the map's size; triangle of the page, u, v
     */
    public function holes(TrialBake $bake, string $kind): array
    {
        $size = $this->size;
        $inside = 0;
        $clear = $candidates = [];
        foreach ($this->owners as $i => $owner) {
            if ($owner < 0) {
                continue;
            }
            $inside++;
            $isClear = $this->pixels[4 * $i + 3] < 32768;
            if (! $isClear && ! $this->isBackground($i)) {
                continue;
            }
            $x = $i % $size;
            $y = intdiv($i, $size);
            $isBorder = $x === 0 || $y === 0 || $x === $size - 1 || $y === $size - 1;
            for ($k = 0; $k < 9 && ! $isBorder; $k++) {
                $isBorder = $this->owners[$i + (intdiv($k, 3) - 1) * $size + $k % 3 - 1] < 0;
            }
            if ($isBorder) {
                continue;
            }
            if ($isClear) {
                $clear[] = $i;
            } else {
                $candidates[] = $i;
            }
        }
        $bake->wants([$kind], true, self::SHOT);
        $where = [];
        $holes = 0.0;
        foreach ([$clear, $candidates] as $isCandidate => $list) {
            $step = max(1, intdiv(count($list), self::SHOT));
            for ($n = 0; $n < count($list); $n += $step) {
                $i = $list[$n];
                [$u, $v] = [($i % $size + 0.5) / $size, 1.0 - (intdiv($i, $size) + 0.5) / $size];
                $trial = $bake->place($this->page, $this->owners[$i], $u, $v);
                // Where rays miss or go wrong a baker writes nothing, or anything: that is told by itself. Where there is no ID, none is written.
                if ($trial['miss'] !== 0 || ($kind === 'id' && $trial['id'] === null) || ($isCandidate === 1 && ($trial['atHard'] || ! $this->isFar($kind, $trial, $i)))) {
                    continue;
                }
                $holes += $step;
                if (count($where) < 200) {
                    $where[] = [$this->owners[$i], $u, $v];
                }
            }
        }

        return ['share' => $inside > 0 ? min(1.0, $holes / $inside) : 0.0, 'texels' => (int) round($holes * $this->times ** 2), 'where' => $where];
    }

    /**
     * @param  array{miss: int, normal: array{float, float, float}|null, height: float, ao: float, id: string|null, atHard: bool, ray: array{float, float, float, float, float, float}}  $trial
     */
    private function isFar(string $kind, array $trial, int $i): bool
    {
        $found = MapFit::value($kind, $this->pixels[4 * $i] / 65535, $this->pixels[4 * $i + 1] / 65535, $this->pixels[4 * $i + 2] / 65535);
        $expected = match ($kind) {
            'normal' => $trial['normal'] ?? [0.0, 0.0, 1.0],
            'ao' => [$trial['ao'], 0.0, 0.0],
            'height' => [($trial['height'] + 1) / 2, 0.0, 0.0],
            default => $trial['id'] === null ? null : Color::ofHex($trial['id'])->lab(),
        };

        return $expected !== null && MapFit::distance($kind, $expected, $found) > MapFit::DIFFERS[$kind];
    }

    /**
     * Those of some texels of a trial that are not of a hole, nor one texel from it: nothing there has the color of the outside.
     *
     * @param  list<int>  $texels
     * @param  int  $size  texels of the trial a side
     * @return list<int>
     */
    public function written(array $texels, int $size): array
    {
        return array_values(array_filter($texels, function (int $texel) use ($size): bool {
            for ($k = 0; $k < 9; $k++) {
                $x = max(0, min($this->size - 1, (int) (($texel % $size - 0.5 + $k % 3) * $this->size / $size)));
                $y = max(0, min($this->size - 1, (int) ((intdiv($texel, $size) - 0.5 + intdiv($k, 3)) * $this->size / $size)));
                $i = $y * $this->size + $x;
                if ($this->owners[$i] >= 0 && ($this->pixels[4 * $i + 3] < 32768 || $this->isBackground($i))) {
                    return false;
                }
            }

            return true;
        }));
    }

    private function isBackground(int $i): bool
    {
        if ($this->background === null) {
            return false;
        }
        for ($k = 0; $k < 4; $k++) {
            if (abs($this->pixels[4 * $i + $k] - $this->background[$k]) > self::SAME) {
                return false;
            }
        }

        return true;
    }

    /**
     * How far, in px of the map, the borders' colors go on outside; up to the padding. Null where no border shows it.
     *
     * @return array{px: float, where: list<array{int, float, float}>}|null
     */
    public function padding(): ?array
    {
        if ($this->background === null) {
            return null;
        }
        $rings = $short = [];
        foreach ($this->beside as $i => [$distance, $from]) {
            if ($distance * $this->times > $this->padding + 1e-9) {
                continue;
            }
            $toBorder = $toBackground = $shows = 0.0;
            for ($k = 0; $k < 4; $k++) {
                // What is transparent has no color.
                $shows += abs($this->pixels[4 * $from + $k] - $this->background[$k]);
                $toBorder += abs($this->pixels[4 * $i + $k] - $this->pixels[4 * $from + $k]);
                $toBackground += abs($this->pixels[4 * $i + $k] - $this->background[$k]);
            }
            if ($shows < self::SHOWS || $this->pixels[4 * $from + 3] < 32768) {
                continue;
            }
            $ring = (int) ceil($distance - 1e-9);
            $rings[$ring] ??= [0, 0];
            $rings[$ring][0]++;
            if ($toBorder < $toBackground) {
                $rings[$ring][1]++;
            } elseif (count($short) < 4000) {
                $short[] = [$ring, $from];
            }
        }
        if (array_sum(array_column($rings, 0)) < 16) {
            return null;
        }
        ksort($rings);
        $width = 0;
        foreach ($rings as $ring => [$all, $good]) {
            if ($all >= 8 && $good < self::GOES_ON * $all) {
                break;
            }
            $width = $ring;
        }
        $where = [];
        foreach ($short as [$ring, $from]) {
            if ($ring === $width + 1 && count($where) < 100) {
                $where[] = [$this->owners[$from], ($from % $this->size + 0.5) / $this->size, 1.0 - (intdiv($from, $this->size) + 0.5) / $this->size];
            }
        }

        return ['px' => min($this->padding, $width * $this->times), 'where' => $where];
    }

    /**
     * Texels inside whose color is no ID's.
     *
     * @param  list<string>  $ids  hex
     * @return array{share: float, texels: int, where: list<array{int, float, float}>}
     */
    public function blends(array $ids): array
    {
        $labs = array_map(static fn (string $hex): array => Color::ofHex($hex)->lab(), $ids);
        $isId = [];
        $inside = $blends = 0;
        $where = [];
        foreach ($this->owners as $i => $owner) {
            if ($owner < 0 || $this->pixels[4 * $i + 3] < 32768) {
                continue;
            }
            $inside++;
            $key = ($this->pixels[4 * $i] >> 8) << 16 | ($this->pixels[4 * $i + 1] >> 8) << 8 | $this->pixels[4 * $i + 2] >> 8;
            if (! isset($isId[$key])) {
                $lab = Color::of($key >> 16, $key >> 8 & 255, $key & 255)->lab();
                $isId[$key] = array_filter($labs, static fn (array $one): bool => DeltaE00::of($one, $lab) <= self::ID) !== [];
            }
            if (! $isId[$key]) {
                $blends++;
                if (count($where) < 200) {
                    $where[] = [$owner, ($i % $this->size + 0.5) / $this->size, 1.0 - (intdiv($i, $this->size) + 0.5) / $this->size];
                }
            }
        }

        return ['share' => $inside > 0 ? $blends / $inside : 0.0, 'texels' => (int) round($blends * $this->times ** 2), 'where' => $where];
    }
}
