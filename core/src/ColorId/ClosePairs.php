<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;

/**
 * How the ID colors of an asset lie to each other: pairs that are near, pairs that touch, and colors that are taken for a blend of two that
 * touch (METHODS, "Colour").
 */
final readonly class ClosePairs
{
    /** Under it two that touch are told, too. */
    public const TOUCHING = 30.0;

    /** From it on two that do not touch are far enough. */
    public const APART = 20.0;

    /** Of 441: nearer in RGB than this, they are told, whatever ΔE00 says. */
    public const RGB = 32.0;

    /** So near, as a share of D, two surfaces touch. */
    public const NEAR = 1e-3;

    /** For so many colors the nearest one that passes is looked for. */
    private const TOLD = 40;

    /** More blends than this are not listed: that many colors are no IDs that anybody picks. */
    private const MIXES = 1000;

    /** More colours than this are painted or baked in, no flat IDs. */
    public const MOST = 1000;

    /**
     * @param  list<array{one: int, two: int, delta: float, rgb: float, touch: bool}>  $pairs  numbers among the colours, in their order
     * @param  list<array{int, int}>  $touching  all that touch
     * @param  list<array{one: int, two: int, third: int, delta: float}>  $mixes  the third is near the blend of the first two, which touch
     * @param  array<int, array{string, float}|null>  $passing  for the second of each pair: the nearest color that would pass, and how far it is from all others
     */
    private function __construct(public array $pairs, public array $touching, public array $mixes, public array $passing)
    {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['pairs' => $this->pairs, 'touching' => $this->touching, 'mixes' => $this->mixes, 'passing' => $this->passing];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function kept(array $stored): self
    {
        /** @var array{pairs: list<array{one: int, two: int, delta: float, rgb: float, touch: bool}>, touching: list<array{int, int}>, mixes: list<array{one: int, two: int, third: int, delta: float}>, passing: array<int, array{string, float}|null>} $stored */
        return new self($stored['pairs'], $stored['touching'], $stored['mixes'], $stored['passing']);
    }

    /**
     * @param  list<array{int, int}>  $touching
     * @param  float  $limit  ΔE00 under which two block, touching or not
     * @param  float  $mix  ΔE00 from a blend under which a third is told
     */
    public static function of(IdColors $ids, array $touching, float $limit, float $mix): self
    {
        $all = count($ids->colors) > self::MOST ? [] : array_values(array_map(static fn (IdColor $id): Color => $id->color, $ids->colors));
        $labs = array_map(static fn (Color $color): array => $color->lab(), $all);
        $touch = [];
        foreach ($all === [] ? [] : $touching as [$one, $two]) {
            $touch[$one][$two] = $touch[$two][$one] = true;
        }
        $pairs = $mixes = $passing = [];
        foreach ($all as $i => $one) {
            for ($j = $i + 1, $n = count($all); $j < $n; $j++) {
                $delta = DeltaE00::of($labs[$i], $labs[$j]);
                if ($delta >= max(self::TOUCHING, $limit)) {
                    continue;
                }
                $rgb = $one->rgbDistance($all[$j]);
                $blocks = $delta < $limit || $rgb < self::RGB;
                $meet = isset($touch[$i][$j]);
                if ($blocks || $delta < self::APART || $meet) {
                    $pairs[] = ['one' => $i, 'two' => $j, 'delta' => $delta, 'rgb' => $rgb, 'touch' => $meet];
                    $passing[$j] ??= null;
                }
            }
        }
        foreach (array_slice(array_keys($passing), 0, self::TOLD) as $j) {
            $passing[$j] = NearestPassing::to($all, $j, array_keys($touch[$j] ?? []));
        }
        foreach ($all === [] ? [] : $touching as [$one, $two]) {
            $between = $all[$one]->midway($all[$two])->lab();
            foreach ($labs as $third => $lab) {
                // So far in lightness or hue is far in ΔE00, too.
                if ($third === $one || $third === $two || abs($lab[0] - $between[0]) > 6 * $mix || abs($lab[1] - $between[1]) > 6 * $mix || abs($lab[2] - $between[2]) > 6 * $mix) {
                    continue;
                }
                $delta = DeltaE00::of($between, $lab);
                if ($delta < $mix && count($mixes) < self::MIXES) {
                    $mixes[] = ['one' => $one, 'two' => $two, 'third' => $third, 'delta' => $delta];
                }
            }
        }

        return new self($pairs, $all === [] ? [] : $touching, $mixes, $passing);
    }
}
