<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use App\Http\Data\IntakeData;
use App\Http\Data\PlaceMendData;
use App\Http\Data\SuffixGuessData;
use App\Models\Delivery;

/**
 * What Intake shows beside the files: how sizes and axes are mended, and suffixes found in the names.
 */
final class IntakePage
{
    public static function of(Delivery $delivery): IntakeData
    {
        $report = $delivery->report ?? [];

        return new IntakeData(self::place($report), self::suffixGuess($report));
    }

    /**
     * @param  array<string, mixed>  $report
     */
    private static function place(array $report): ?PlaceMendData
    {
        /** @var array{factor: float|int|null, turn: string|null, words: string, matrix: list<float|int>, stuck: list<string>}|null $place */
        $place = $report['place'] ?? null;

        return $place === null ? null : new PlaceMendData($place['factor'] === null ? null : (float) $place['factor'], $place['turn'], $place['words'], array_map(floatval(...), $place['matrix']), $place['stuck'][0] ?? null);
    }

    /**
     * @param  array<string, mixed>  $report
     */
    public static function suffixGuess(array $report): ?SuffixGuessData
    {
        /** @var array{suffixes: array<string, list<string>>, pairs: int, bases: int, ofFiles: bool}|null $guess */
        $guess = $report['suffixes'] ?? null;

        return $guess === null ? null : new SuffixGuessData($guess['suffixes']['low'][0] ?? '', $guess['suffixes']['high'][0] ?? '', $guess['suffixes']['id'][0] ?? null, $guess['pairs'], $guess['bases'], $guess['ofFiles']);
    }
}
