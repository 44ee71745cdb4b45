<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Station;
use App\Http\Data\CauseData;
use App\Http\Data\StationData;
use App\Models\Delivery;
use App\Models\Finding;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;

/**
 * The state of each station of a delivery. A check that did not run never counts as passed.
 */
final class StationStates
{
    private const TITLES = ['intake' => 'Intake', 'pairing' => 'Pairing', 'sets' => 'Sets', 'color-id' => 'Color ID', 'clearance' => 'Clearance', 'surface' => 'Surface', 'proof' => 'Proof', 'hand-off' => 'Hand-off'];

    /**
     * @return list<StationData>
     */
    public static function of(Delivery $delivery): array
    {
        $counts = $subjects = [];
        foreach (self::causes($delivery) as $cause) {
            if (! $cause->waived) {
                $counts[$cause->station][$cause->severity] = ($counts[$cause->station][$cause->severity] ?? 0) + 1;
                $subjects[$cause->station] = ($subjects[$cause->station] ?? 0) + $cause->subjects;
            }
        }
        $states = self::checkStates($delivery);
        $out = [];
        foreach (Station::cases() as $station) {
            $own = $counts[$station->value] ?? [];
            [$state, $reason] = self::state($station, $delivery, $states[$station->value] ?? [], $own !== []);
            $out[] = new StationData($station->value, self::TITLES[$station->value], $state, $own['blocker'] ?? 0, $own['caution'] ?? 0, $own['note'] ?? 0, $subjects[$station->value] ?? 0, $reason);
        }

        return $out;
    }

    /**
     * @return list<CauseData>
     */
    public static function causes(Delivery $delivery): array
    {
        /** @var list<array{code: string, severity: string, message: string, remedy: string, subjects: int, waived: bool}>|null $causes */
        $causes = $delivery->report['causes'] ?? null;
        if ($causes === null) {
            // Judged by an earlier version: each finding for itself, in the order of the rows.
            return array_values($delivery->findings->map(static fn (Finding $one): CauseData => new CauseData($one->code, $one->station, $one->severity, $one->message, $one->remedy, 1, $one->waived))->all());
        }

        return array_map(static fn (array $one): CauseData => new CauseData($one['code'], (Catalogue::about()[$one['code']] ?? null)?->station->value ?? '', $one['severity'], $one['message'], $one['remedy'], $one['subjects'], $one['waived']), $causes);
    }

    /**
     * @return array<string, list<array{string, string|null}>> station → states of its checks
     */
    public static function checkStates(Delivery $delivery): array
    {
        $about = Catalogue::about();
        $out = [];
        /** @var list<array{code: string, state: string, reason?: string}> $checks */
        $checks = $delivery->report['checks'] ?? [];
        foreach ($checks as $check) {
            if (isset($about[$check['code']])) {
                $out[$about[$check['code']]->station->value][] = [$check['state'], $check['reason'] ?? null];
            }
        }

        return $out;
    }

    /**
     * @param  list<array{string, string|null}>  $checks
     * @return array{string, string|null}
     */
    private static function state(Station $station, Delivery $delivery, array $checks, bool $found): array
    {
        if ($delivery->state === DeliveryState::Failed || $delivery->state === DeliveryState::Cancelled) {
            return ['not-run', $delivery->state === DeliveryState::Failed ? 'checking failed' : 'cancelled'];
        }
        if ($delivery->state !== DeliveryState::Done && ($station === Station::HandOff || $checks === [])) {
            return ['computing', null];
        }
        if ($station === Station::HandOff) {
            $last = $delivery->packages->where('state', MakingState::Done)->last();
            $stale = $last === null ? null : Stale::words($last, $delivery);
            $sealed = $last !== null && $stale === null;
            if ($stale !== null && $delivery->verdict === 'ready') {
                return ['waiting', "the package is out of date: $stale"];
            }

            return [$sealed ? 'clear' : 'waiting', $sealed ? null : ($delivery->verdict === 'ready' ? 'ready to seal' : (Judging::waitsFor($delivery->waits_for) ?? 'blocked'))];
        }
        foreach ($checks as [$state, $reason]) {
            if ($state === 'waiting') {
                return [$delivery->state === DeliveryState::Done ? 'waiting' : 'computing', $reason];
            }
        }
        foreach ($checks as [$state, $reason]) {
            if ($state === 'not-run') {
                return ['not-run', $reason];
            }
        }

        if (! $found && ! in_array('passed', array_column($checks, 0), true)) {
            return ['waiting', 'its checks had nothing to look at'];
        }

        return [$found ? 'found' : 'clear', null];
    }
}
