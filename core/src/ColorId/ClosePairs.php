<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\DeltaE00;

/**
 * Pairs of ID colours that are near each other: how near, and whether they touch where that decides (METHODS, "Colour").
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
    private const NEAR = 1e-3;

    /** More colours than this are painted or baked in, no flat IDs. */
    public const MOST = 1000;

    /**
     * @param  list<array{one: int, two: int, delta: float, rgb: float, touch: bool}>  $pairs  numbers among the colours, in their order
     */
    private function __construct(public array $pairs)
    {
    }

    /**
     * @param  array<mixed>  $stored  `pairs`
     */
    public static function kept(array $stored): self
    {
        /** @var list<array{one: int, two: int, delta: float, rgb: float, touch: bool}> $stored */
        return new self($stored);
    }

    /**
     * @param  float  $limit  ΔE00 under which two block, touching or not
     * @param  float  $diagonal  D
     */
    public static function of(IdColors $ids, float $limit, float $diagonal): self
    {
        $all = count($ids->colors) > self::MOST ? [] : array_values($ids->colors);
        $labs = array_map(static fn (IdColor $id): array => $id->color->lab(), $all);
        $pairs = [];
        foreach ($all as $i => $one) {
            for ($j = $i + 1, $n = count($all); $j < $n; $j++) {
                $two = $all[$j];
                $delta = DeltaE00::of($labs[$i], $labs[$j]);
                if ($delta >= max(self::TOUCHING, $limit)) {
                    continue;
                }
                $rgb = $one->color->rgbDistance($two->color);
                $blocks = $delta < $limit || $rgb < self::RGB;
                $touch = ! $blocks && $delta >= self::APART && Touching::of($one, $two, self::NEAR * $diagonal);
                if ($blocks || $touch || $delta < self::APART) {
                    $pairs[] = ['one' => $i, 'two' => $j, 'delta' => $delta, 'rgb' => $rgb, 'touch' => $touch];
                }
            }
        }

        return new self($pairs);
    }
}
