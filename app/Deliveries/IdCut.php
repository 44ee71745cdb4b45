<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\ColorId\Assignment;
use Anvil\ColorId\By;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\ColorId\Palette;
use Anvil\ColorId\Piece;
use Anvil\ColorId\PieceCut;
use Anvil\ColorId\Vision;
use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Measures\Measures;
use Anvil\Unreadable;
use App\Http\Data\IdPieceData;
use App\Http\Data\IdSheetData;
use App\Http\Data\SheetIdData;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Output;
use App\Models\State\MakingState;
use App\People\Who;
use stdClass;

/**
 * The IDs that are to be given in a delivery: its high poly cut into pieces by a job, and what was decided about them, which is kept with
 * the asset.
 *
 * @phpstan-type Detail array{by: string, angle: float, pieces: list<array{string, string, string|null, list<string>, int}>, touching: list<array{int, int}>, remarks: list<string>}
 */
final class IdCut
{
    /** The kind of an output that is no file but a cut. */
    public const KIND = 'id-cut';

    /** @param  By|null  $by  as it was when the high poly was cut this way last; null: as it is now */
    public static function sheetOf(Asset $asset, ?By $by = null): IdSheet
    {
        $fixed = $asset->rules()->idColors;
        $stored = $asset->color_ids ?? [];
        $others = is_array($stored['others'] ?? null) ? $stored['others'] : [];
        if ($by !== null && $by->value !== ($stored['by'] ?? null)) {
            // Fixed colors, and whose eyes count, hold for all.
            $other = is_array($others[$by->value] ?? null) ? $others[$by->value] : [];
            $stored = [...$other, 'by' => $by->value, 'pins' => $stored['pins'] ?? [], 'allEyes' => $stored['allEyes'] ?? false];
        }
        unset($stored['others']);
        if ($stored === []) {
            return new IdSheet(pins: $fixed);
        }
        try {
            // Where there is nothing in them, objects come out of the database as lists.
            $kept = IdSheet::ofJson(json_encode([...$stored, 'pins' => (object) ($stored['pins'] ?? []), 'shapes' => (object) ($stored['shapes'] ?? [])], JSON_THROW_ON_ERROR));
        } catch (Unreadable) {
            // Of another version: it begins anew.
            return new IdSheet(pins: $fixed);
        }

        return $kept->withPins([...$fixed, ...$kept->pins]);
    }

    public static function keep(Asset $asset, IdSheet $sheet): void
    {
        $kept = $sheet->toArray();
        $before = $asset->color_ids ?? [];
        $others = is_array($before['others'] ?? null) ? $before['others'] : [];
        // What was decided on another cut is there again when the high poly is cut that way again.
        if (is_string($before['by'] ?? null) && $before['by'] !== $kept['by']) {
            unset($before['others']);
            $others[$before['by']] = $before;
        }
        unset($others[$kept['by']]);
        $asset->update([
            'color_ids' => [...$kept, 'pins' => (object) $kept['pins'], 'shapes' => (object) $kept['shapes'], 'others' => (object) $others],
            'color_ids_version' => $asset->color_ids_version + 1, 'changed_by' => Who::name(),
        ]);
    }

    public static function path(Delivery $delivery, Output $output): string
    {
        return $delivery->folder()."/display/cut-$output->id.bin";
    }

    /**
     * Cuts the high poly, and writes its pieces for the screen.
     *
     * @return Detail
     */
    public static function make(Delivery $delivery, Output $output, Measures $measures): array
    {
        $asked = $output->detail ?? [];
        $by = By::tryFrom(is_string($asked['by'] ?? null) ? $asked['by'] : '') ?? By::Part;
        $angle = is_int($asked['angle'] ?? null) || is_float($asked['angle'] ?? null) ? (float) $asked['angle'] : 30.0;
        $cut = PieceCut::of($measures->asset, $by, $angle);
        $pieces = $cut->pieces();
        $touching = IdPlan::touching($cut, $measures->asset);
        // Refused here, where it can be told, where there are too many.
        $plan = IdPlan::ofPieces($pieces, $touching, self::fitted(self::sheetOf($delivery->asset, $by), $by, $angle), $cut);
        DisplayFile::writePieces(self::path($delivery, $output), $cut->meshes());
        // What is shown of an earlier cut is shown no more.
        foreach ($delivery->outputs()->where('kind', self::KIND)->where('id', '<', $output->id)->get() as $old) {
            Store::dropFile(self::path($delivery, $old));
        }
        // Decided from now on: whoever looks at it gets the same colors at once.
        self::keep($delivery->asset->refresh(), $plan->kept());

        return [
            'by' => $by->value, 'angle' => $angle, 'touching' => $touching, 'remarks' => $plan->remarks(),
            'pieces' => array_map(static fn (Piece $piece): array => [$piece->key, $piece->name, $piece->shape, $piece->parts, $piece->triangles], $pieces),
        ];
    }

    /** The newest cut of a delivery that came to its end, or the newest one. */
    public static function newest(Delivery $delivery): ?Output
    {
        $cuts = $delivery->outputs->where('kind', self::KIND)->filter(static fn (Output $one): bool => $delivery->checked_at === null || $one->created_at >= $delivery->checked_at);

        return $cuts->where('state', MakingState::Done)->last() ?? $cuts->last();
    }

    /**
     * A sheet on the pieces of a cut.
     *
     * @throws Unreadable
     */
    public static function plan(Output $output, IdSheet $sheet): IdPlan
    {
        /** @var Detail $detail */
        $detail = $output->detail;

        return IdPlan::ofPieces(
            array_map(static fn (array $row): Piece => new Piece(...$row), $detail['pieces']),
            array_map(static fn (array $pair): array => [$pair[0], $pair[1]], $detail['touching']), self::fitted($sheet, By::from($detail['by']), (float) $detail['angle']),
        );
    }

    public static function data(Delivery $delivery, Output $output, IdPlan $plan): IdSheetData
    {
        /** @var Detail $detail */
        $detail = $output->detail;
        $colors = $plan->colors();
        $labs = array_map(static fn (Color $color): array => $color->lab(), $colors);
        $touches = array_fill(0, max(1, count($colors)), []);
        foreach ($plan->touching as [$one, $two]) {
            $touches[$one][] = $two;
            $touches[$two][] = $one;
        }
        $ids = [];
        foreach ($plan->ids as $i => $id) {
            $far = $at = null;
            foreach ($labs as $j => $lab) {
                $distance = $i === $j ? INF : DeltaE00::of($labs[$i], $lab);
                if ($distance < ($far ?? INF)) {
                    [$far, $at] = [$distance, $j];
                }
            }
            $ids[] = new SheetIdData(
                $id->name, $id->color->hex(), $id->pinned, array_map(static fn (Piece $piece): string => $piece->key, $id->pieces), $id->parts(), $far,
                $at === null ? null : $plan->ids[$at]->name, array_values(array_map(static fn (int $other): string => $plan->ids[$other]->name, $touches[$i])),
            );
        }
        $known = static fn (float $value): ?float => is_finite($value) ? $value : null;

        return new IdSheetData(
            $output->id, $delivery->asset->color_ids_version, $output->state, $output->error, $detail['by'], (float) $detail['angle'], $plan->sheet->allEyes, (object) array_map(static fn (Color $color): string => $color->hex(), $plan->sheet->pins), $ids,
            array_map(static fn (array $row): IdPieceData => new IdPieceData($row[0], $row[1], $row[3], $row[4]), $detail['pieces']),
            array_map(static fn (Vision $eye): ?float => $known(Palette::leastDistance($colors, $eye)), Vision::cases()),
            $known(Assignment::leastTouching($colors, $plan->touching)), $known($plan->leastBefore), $detail['remarks'],
        );
    }

    /** What is shown of a cut that is not there yet, or could not be made. */
    public static function waiting(Output $output): IdSheetData
    {
        $by = $output->detail['by'] ?? null;
        $angle = $output->detail['angle'] ?? null;

        return new IdSheetData($output->id, 0, $output->state, $output->error, is_string($by) ? $by : 'part', is_int($angle) || is_float($angle) ? (float) $angle : 30.0, false, new stdClass, [], [], [null, null, null, null], null, null, []);
    }

    /** The same decisions on another cut: IDs of pieces that it does not have fall away by themselves. */
    private static function fitted(IdSheet $sheet, By $by, float $angle): IdSheet
    {
        return new IdSheet($by, $angle, $sheet->allEyes, $sheet->pins, $sheet->ids, $sheet->shapes);
    }
}
