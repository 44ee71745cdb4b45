<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use Anvil\Checks\Catalogue;
use Anvil\Handoff\Extra;
use App\Deliveries\Trial;
use App\Deliveries\Waivers;
use App\Http\Data\AlongData;
use App\Http\Data\HandOffData;
use App\Http\Data\MeasureData;
use App\Http\Data\SettingData;
use App\Http\Data\WaiverData;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\Finding;
use App\Models\Output;
use App\Models\State\MakingState;
use App\Models\State\SetState;
use App\Models\Waiver;

/**
 * The settings that go with a hand-off.
 */
final class HandOffPage
{
    public static function of(Delivery $delivery): HandOffData
    {
        /** @var array{shades?: list<array{set: string, by: string, share: float, wanted: bool}>, leftOut?: list<array{part: string, file: string}>, ids?: list<array{name: string, hex: string, parts: list<string>}>, pages?: list<array{page: string, texels: int, share: float}>} $ticket */
        $ticket = $delivery->report['ticket'] ?? [];

        return new HandOffData(
            self::settings($delivery), self::waivers($delivery), $ticket['shades'] ?? [], array_column($ticket['leftOut'] ?? [], 'part'), $ticket['ids'] ?? [], $ticket['pages'] ?? [],
            self::along($delivery, $ticket['pages'] ?? []),
        );
    }

    /**
     * @return list<SettingData>
     */
    private static function settings(Delivery $delivery): array
    {
        /** @var list<array{setting: string, value: string, reason: string}> $settings */
        $settings = $delivery->report['settings'] ?? [];

        return array_map(static fn (array $row): SettingData => new SettingData($row['setting'], $row['value'], $row['reason']), $settings);
    }

    /**
     * @param  list<mixed>  $pages
     * @return list<AlongData>
     */
    private static function along(Delivery $delivery, array $pages): array
    {
        $isBaked = $delivery->outputs->contains(static fn (Output $output): bool => $output->kind === Trial::KIND && $output->state === MakingState::Done && Trial::isNew($delivery, $output));
        $isMeasured = $delivery->sets->contains(static fn (BakeSet $set): bool => $set->state === SetState::Done);
        $lacks = ['trial' => $isBaked ? null : 'bake a trial on Proof first', 'retouch' => $pages === [] ? 'the low poly has no UVs' : null, 'exploded' => $isMeasured ? null : 'no set was measured', 'cage' => $isMeasured ? null : 'no set was measured'];

        return array_map(static fn (string $kind, string $words): AlongData => new AlongData($kind, $words, $lacks[$kind] ?? null), array_keys(Extra::KINDS), array_values(Extra::KINDS));
    }

    /**
     * Those that hold, and those that did.
     *
     * @return list<WaiverData>
     */
    private static function waivers(Delivery $delivery): array
    {
        $inForce = Waivers::inForce($delivery)->keyBy('id');
        $about = Catalogue::about();
        $out = [];
        foreach (Waiver::query()->where('asset_id', $delivery->asset_id)->orderByDesc('id')->limit(500)->get() as $waiver) {
            $rule = Waivers::on($waiver, $delivery);
            $own = $delivery->findings->filter(static fn (Finding $row): bool => Waivers::isOf($rule, $row));
            [$state, $words] = match (true) {
                $waiver->withdrawn_at !== null => ['taken back', "taken back by $waiver->withdrawn_by"],
                $waiver->isOver() => ['ended', 'its last day is over'],
                ! isset($inForce[$waiver->id]) => ['later', 'given on a later delivery'],
                $own->isEmpty() => ['mended', 'nothing of it is found any more'],
                $own->where('waived', true)->isEmpty() => ['died', 'worse now than what was accepted'],
                default => ['holds', null],
            };
            $out[] = new WaiverData(
                $waiver->id, $waiver->code, $about[$waiver->code]->title ?? $waiver->code, implode(', ', array_unique(array_values($rule->subject))), $waiver->message,
                $waiver->measure === null ? null : new MeasureData((float) $waiver->measure['value'], (float) $waiver->measure['limit'], $waiver->measure['unit']),
                $waiver->reason, $waiver->until?->toDateString(), $waiver->by, $waiver->created_at->toIso8601String(), $state, $words, $own->first()?->cause,
            );
        }

        return $out;
    }
}
