<?php

declare(strict_types=1);

namespace Anvil\Checks\Proof;

use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Measures\Measures;
use Anvil\Proof\Returned\MapFit;
use Anvil\Proof\Returned\MapVerdict;
use Closure;

/**
 * What the checks on maps that came back have in common.
 */
final class MapChecks
{
    /**
     * @param  Closure(MapVerdict): (Finding|null)  $find
     */
    public static function each(Measures $measures, Closure $find): Outcome
    {
        if ($measures->asset->maps === []) {
            return Outcome::notApplicable('no map came back yet');
        }

        return Outcome::of(array_values(array_filter(array_map($find, $measures->ofAsset(ReturnedMaps::class)))));
    }

    /**
     * @return array{file: string, page?: string}
     */
    public static function subject(MapVerdict $map): array
    {
        return ['file' => $map->path, ...($map->page === null ? [] : ['page' => $map->page])];
    }

    /** How far it is off where it fits best: `1.2°`. */
    public static function distance(MapVerdict $map): string
    {
        return self::words($map->kind ?? 'normal', $map->median ?? 0.0);
    }

    /** By how much a texel may be off. */
    public static function may(MapVerdict $map): string
    {
        return self::words($map->kind ?? 'normal', MapFit::DIFFERS[$map->kind ?? 'normal'] ?? 0.0);
    }

    public static function unit(string $kind): string
    {
        return match ($kind) {
            'normal' => 'deg', 'id' => 'dE00', default => 'share',
        };
    }

    /** A limit that the standard moves for normals moves for the others by the same ratio. */
    public static function scaled(float $limit, float $usual, float $ofKind): float
    {
        return $limit / $usual * $ofKind;
    }

    /** The standard's padding, in px of a map that may have another size. */
    public static function padding(Measures $measures, MapVerdict $map): float
    {
        $standard = $measures->asset->standard;

        return $standard->limit('map-padding', $standard->padding()) * ($map->header->width ?? $standard->mapSize) / $standard->mapSize;
    }

    private static function words(string $kind, float $value): string
    {
        return match ($kind) {
            'normal' => Words::degrees($value), 'id' => 'ΔE00 '.round($value, 1), default => (string) round($value, 3),
        };
    }
}
