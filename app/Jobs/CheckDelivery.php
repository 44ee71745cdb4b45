<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Asset\GivenMap;
use Anvil\Changes\PartChange;
use Anvil\Explode\ExplodePlan;
use Anvil\Handoff\MadeOf;
use Anvil\Handoff\Ticket;
use Anvil\Measures\Kind\Changed;
use Anvil\Measures\Kind\Layout;
use Anvil\Measures\Kind\Shades;
use Anvil\Measures\Kind\Whole;
use Anvil\Measures\MeasureCatalogue;
use Anvil\Measures\Measures;
use Anvil\Report\LimitValues;
use Anvil\Report\Report;
use Anvil\Report\UvSheet;
use App\Deliveries\DisplayFile;
use App\Deliveries\FoundIds;
use App\Deliveries\Judging;
use App\Deliveries\KeptValues;
use App\Deliveries\RackRow;
use App\Deliveries\Since;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Turn;
use App\Deliveries\Waivers;
use App\Models\Delivery;
use App\Models\State\DeliveryState;

/**
 * Runs the checks on what was measured and writes the findings, the verdict and the display meshes.
 */
final class CheckDelivery extends DeliveryJob
{
    public function name(): string
    {
        return "check:$this->deliveryId:$this->run";
    }

    public function words(): string
    {
        return 'checking the delivery';
    }

    protected function perform(Delivery $delivery): void
    {
        // The one that it is judged by: it may be changed meanwhile.
        $standardVersion = $delivery->asset->standard->version;
        $stored = new StoredDelivery($delivery);
        $measures = $stored->measured();
        $clearances = $measures->clearances();
        $results = Judging::results($delivery, $measures);
        $plan = $measures->ofAsset(Layout::class);
        $report = new Report($measures, $results, ['read' => 0.0, 'pair' => 0.0, 'check' => 0.0, 'total' => 0.0], $plan->vectors ?? [], Waivers::rules($delivery, $measures));
        $low = DisplayFile::low($stored);
        DisplayFile::writeCage($delivery, $low, $clearances);
        DisplayFile::writeSurface($delivery, $low, UvSheet::of($measures));
        DisplayFile::writeProof($delivery, $measures, $low);
        unset($low);
        $whole = MeasureCatalogue::get(Whole::class)->subjects($measures) === [] ? null : $measures->ofAsset(Whole::class);
        $extra = [
            'shades' => (object) $measures->ofAsset(Shades::class),
            ...Judging::mends($measures),
            'changes' => self::changes($delivery, $measures),
            'whole' => $whole === null ? null : ['clean' => $whole->isClean, 'out' => $whole->reach->out, 'in' => $whole->reach->in],
        ];
        $array = $report->toArray();
        $ticket = Ticket::of($delivery->asset->name, $report)->toArray([]);
        $values = LimitValues::of($measures, $results, $report->waivers);
        $samples = array_sum(array_map(static fn ($clearance): int => $clearance->samples, $clearances));
        // Cancelled or begun anew while it was being checked: what was found late is not put over that.
        $this->ifStillWanted(function (Delivery $delivery) use ($report, $array, $plan, $measures, $clearances, $samples, $extra, $values, $ticket, $standardVersion): void {
            Judging::record($delivery, $report->results);
            KeptValues::keep($delivery->id, $values);
            $side = $measures->asset->sideToCome();
            Turn::to($delivery, DeliveryState::Done, null, [
                'verdict' => $side !== null ? 'waiting' : ($report->isReady() ? 'ready' : 'blocked'), 'waits_for' => $side?->value,
                'report' => [
                    ...($delivery->report ?? []), ...$extra,
                    'ids' => FoundIds::of($measures),
                    'settings' => $ticket['settings'], 'ticket' => array_intersect_key($ticket, ['shades' => 0, 'leftOut' => 0, 'ids' => 0, 'pages' => 0]),
                    'common' => $array['common'], 'sets' => $array['sets'],
                    'explode' => $plan === null ? null : [...$plan->toArray($measures->asset), 'conflicts' => (object) ExplodePlan::inTheWay($measures->asset, $clearances), 'before' => (object) $plan->bleedBefore, 'after' => (object) $plan->bleedAfter, 'proved' => $plan->isProved(), 'samples' => $samples],
                ],
                'core_version' => config()->string('anvil.core_version'),
                'standard_version' => $standardVersion,
                'judged_of' => MadeOf::of($measures->asset, [array_map(static fn (GivenMap $map): array => [$map->kind, $map->page, $map->sha256], $measures->asset->maps), $measures->layout, $delivery->asset->color_ids]),
                'checked_at' => now(),
            ]);
            $delivery->unsetRelations();
            $delivery->update(['summary' => RackRow::of($delivery, $delivery->asset->standard->parsed())->toKeep($delivery->run, $delivery->state)]);
        });
    }

    /**
     * What became of the parts of the last delivery; those that are the same are counted.
     *
     * @return array{last: int, isSource: bool, same: int, parts: list<array<string, mixed>>, renames: object}|null
     */
    private static function changes(Delivery $delivery, Measures $measures): ?array
    {
        $before = Since::before($delivery);
        if ($before === null || $measures->asset->last === null) {
            return null;
        }
        $parts = $measures->ofAsset(Changed::class);
        $changed = array_values(array_filter($parts, static fn (PartChange $one): bool => $one->states !== ['same']));

        return [
            'last' => $before->id, 'isSource' => $measures->asset->last->isSource, 'same' => count($parts) - count($changed),
            'parts' => array_map(static fn (PartChange $one): array => $one->toArray(), $changed), 'renames' => (object) Since::renamesOf($measures),
        ];
    }
}
