<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Report\FindingChanges;
use Anvil\Standard\Severity;
use App\Http\Data\FixCauseData;
use App\Http\Data\FixFindingData;
use App\Http\Data\FixListData;
use App\Http\Data\FixStateData;
use App\Http\Data\MeasureData;
use App\Models\Delivery;
use App\Models\Finding as Row;
use App\Models\FixList;
use App\Models\State\DeliveryState;

/**
 * What was sent back to be mended, and what of it is.
 */
final class FixLists
{
    /**
     * A finding as it was written down.
     *
     * @param  array{value: float|int, limit: float|int, unit: string, least?: bool}|null  $measure
     * @param  array<string, string>  $subject
     */
    public static function finding(string $code, string $severity, string $message, string $remedy, array $subject, ?array $measure, ?int $count, bool $waived = false): Finding
    {
        /** @var array{file?: string, part?: string, set?: string, other?: string, page?: string} $subject */
        return new Finding($code, Severity::from($severity), $message, $remedy, $subject, $measure === null ? null : new Measured((float) $measure['value'], (float) $measure['limit'], $measure['unit'], $measure['least'] ?? false), null, $count, [], $waived);
    }

    public static function ofRow(Row $row): Finding
    {
        return self::finding($row->code, $row->severity, $row->message, $row->remedy, $row->subject, $row->measure, $row->count, $row->waived);
    }

    /**
     * Causes of a delivery as they are sent.
     *
     * @param  list<int>  $numbers  of the causes
     * @return list<array<string, mixed>>
     */
    public static function causes(Delivery $delivery, array $numbers): array
    {
        $about = Catalogue::about();
        $out = [];
        foreach (StationStates::causes($delivery) as $number => $cause) {
            if (in_array($number, $numbers, true)) {
                $out[] = [
                    'code' => $cause->code, 'severity' => $cause->severity, 'message' => $cause->message, 'remedy' => $cause->remedy, 'station' => $cause->station, 'afterBake' => ($about[$cause->code] ?? null)->afterBake ?? '',
                    'findings' => array_values($delivery->findings->filter(static fn (Row $row): bool => $row->cause === $number && ! $row->waived)->map(static fn (Row $row): array => [
                        'subject' => $row->subject, 'message' => $row->message, 'remedy' => $row->remedy, 'measure' => $row->measure, 'where' => array_slice(array_merge(...$row->where), 0, 300), 'severity' => $row->severity, 'count' => $row->count,
                    ])->all()),
                ];
            }
        }

        return $out;
    }

    /** The newest delivery of the asset that is judged: what a list is held against. */
    private static function against(FixList $list): ?Delivery
    {
        return Delivery::query()->where('asset_id', $list->asset_id)->where('state', DeliveryState::Done)->where('number', '>=', $list->delivery->number)->orderByDesc('number')->first();
    }

    public static function of(FixList $list): FixListData
    {
        $now = self::against($list) ?? $list->delivery;
        $isLater = $now->number > $list->delivery->number;
        $renames = $isLater ? Since::renames($list->delivery, $now) : [];
        $there = [];
        foreach ($now->findings as $row) {
            $there[FindingChanges::key(self::ofRow($row), [])][] = $row;
        }
        $causes = [];
        foreach ($list->causes as $cause) {
            $findings = [];
            foreach ($cause['findings'] as $one) {
                $row = null;
                if ($isLater) {
                    $key = FindingChanges::key(self::finding($cause['code'], $one['severity'], $one['message'], $one['remedy'], $one['subject'], $one['measure'], $one['count']), $renames);
                    $row = isset($there[$key]) && $there[$key] !== [] ? array_shift($there[$key]) : null;
                }
                $state = match (true) {
                    ! $isLater => 'open',
                    $row === null => 'mended',
                    $row->waived => 'waived',
                    default => 'open',
                };
                $findings[] = new FixFindingData(
                    $one['subject']['part'] ?? null, $one['subject']['other'] ?? null, $one['subject']['set'] ?? null, $one['subject']['file'] ?? null, $one['subject']['page'] ?? null, $one['message'], $one['remedy'],
                    self::measure($one['measure']), $row === null ? null : self::measure($row->measure), array_map(floatval(...), $one['where']), $state,
                );
            }
            $open = count(array_filter($findings, static fn (FixFindingData $one): bool => $one->state === 'open'));
            $causes[] = new FixCauseData($cause['code'], $cause['severity'], $cause['message'], $cause['remedy'], $cause['station'], $cause['afterBake'], $findings, count($findings) - $open, match (true) {
                $open === count($findings) => 'open',
                $open > 0 => 'partly mended',
                array_filter($findings, static fn (FixFindingData $one): bool => $one->state === 'waived') !== [] => 'waived',
                default => 'mended',
            });
        }

        return new FixListData(
            $list->id, $list->asset_id, $list->delivery->asset->name, $list->delivery_id, $list->delivery->number, $list->to, $list->by, $list->note, $list->created_at->toIso8601String(), $causes,
            $isLater ? $now->number : null, $isLater ? $now->id : null, self::count($causes, 'mended'), self::count($causes, 'waived'),
        );
    }

    /**
     * @param  list<FixCauseData>  $causes
     */
    private static function count(array $causes, string $state): int
    {
        return count(array_filter($causes, static fn (FixCauseData $one): bool => $one->state === $state));
    }

    /**
     * @param  array{value: float|int, limit: float|int, unit: string}|null  $measure
     */
    private static function measure(?array $measure): ?MeasureData
    {
        return $measure === null ? null : new MeasureData((float) $measure['value'], (float) $measure['limit'], $measure['unit']);
    }

    /** What an asset's state says of the list that was sent last; null where none was. */
    public static function state(int $asset): ?FixStateData
    {
        return self::states([$asset])[$asset] ?? null;
    }

    /**
     * @param  array<int, int>  $assets
     * @return array<int, FixStateData> by asset
     */
    public static function states(array $assets): array
    {
        $newest = FixList::query()->selectRaw('max(id)')->whereIn('asset_id', $assets)->groupBy('asset_id');
        $out = [];
        foreach (FixList::query()->whereIn('id', $newest)->with('delivery.asset')->get() as $list) {
            $data = self::of($list);
            $out[$list->asset_id] = new FixStateData($list->id, $list->to, $list->created_at->toIso8601String(), $data->delivery, count($data->causes), $data->mended, $data->waived, $data->against);
        }

        return $out;
    }
}
