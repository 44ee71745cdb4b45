<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\SetClearance;
use Anvil\Explode\Assembled;
use Anvil\Measures\Measures;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Sets\BakeSet as Set;
use App\Deliveries\SetInputs;
use App\Deliveries\Steps;
use App\Deliveries\StoredDelivery;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\SetState;
use App\Models\State\Step;
use Illuminate\Database\Eloquent\Builder;

/**
 * Ties the parts, makes the sets, and sends one job a set to measure its rays.
 */
final class PairDelivery extends DeliveryJob
{
    /** Earlier deliveries that are looked at for what an exploded layout was made of. */
    private const LOOKS_BACK = 5;

    public function name(): string
    {
        return "pair:$this->deliveryId:$this->run";
    }

    public function words(): string
    {
        return 'pairing the parts';
    }

    protected function perform(Delivery $delivery): void
    {
        $stored = new StoredDelivery($delivery);
        $delivery->update(['exploded_from' => $this->original($delivery, $stored)]);
        // All meshes: whether the high poly is turned against the low one is seen on its surface.
        $measures = $stored->inspection();
        $blocked = AssetClearance::notMeasured($measures->asset, $measures->quarterTurn());
        $counts = AssetClearance::sampleCounts($measures->asset);
        $whole = array_values(array_filter($measures->asset->sets, static fn (Set $set): bool => $set->isWhole() && ! isset($blocked[$set->name])));
        [$inputs, $names, $known] = $this->known($delivery, $measures, $whole, $counts);
        $this->ifStillWanted(function (Delivery $delivery) use ($measures, $blocked, $counts, $inputs, $names, $known): void {
            if ($delivery->step !== Step::Pair) {
                return;
            }
            $delivery->sets()->delete();
            foreach ($measures->asset->sets as $set) {
                $reason = $blocked[$set->name] ?? null;
                $before = $known[$set->name] ?? null;
                $delivery->sets()->create([
                    'name' => $set->name,
                    'samples' => $counts[$set->name] ?? 0,
                    'state' => ! $set->isWhole() || $before !== null ? SetState::Done : ($reason !== null ? SetState::Failed : SetState::Waiting),
                    'error' => $reason,
                    'inputs' => $inputs[$set->name] ?? null,
                    'names' => $names[$set->name] ?? null,
                    'seen' => $before[0] ?? null,
                    'clearance' => $before[1] ?? null,
                    'reused' => $before !== null,
                ]);
            }
            $delivery->update(['state' => DeliveryState::Measuring, 'step' => Step::Measure]);
            Steps::send($delivery);
        });
    }

    /** The newest delivery before this one that this one is an exploded layout of, where no plan says so. */
    private function original(Delivery $delivery, StoredDelivery $stored): ?int
    {
        if ($delivery->files->firstWhere('kind', 'plan') !== null) {
            return null;
        }
        $delivery->exploded_from = null;
        $now = $stored->light();
        $before = $delivery->asset->deliveries()->where('number', '<', $delivery->number)->whereNull('exploded_from')
            ->whereDoesntHave('files', static fn (Builder $files): Builder => $files->where('kind', 'plan'))->orderByDesc('number')->limit(self::LOOKS_BACK)->get();
        foreach ($before as $one) {
            if (Assembled::recognise($now->asset, (new StoredDelivery($one))->light()->asset) !== null) {
                return $one->id;
            }
        }

        return null;
    }

    /**
     * What the rays of each set depend on, and what they met before where that is the same, in this delivery or another of the asset.
     *
     * @param  list<Set>  $sets
     * @param  array<string, int>  $counts
     * @return array{array<string, string>, array<string, array<string, mixed>>, array<string, array{string, array<string, mixed>}>} set → hash; set → names of what was hashed; set → what is seen, what was measured
     */
    private function known(Delivery $delivery, Measures $measures, array $sets, array $counts): array
    {
        if ($sets === []) {
            return [[], [], []];
        }
        $surfaces = [];
        foreach ($measures->asset->sets as $set) {
            $surfaces[$set->name] = SetSurfaces::of($set, $measures->asset->standard->rays->smooth);
        }
        [$assembled, $allSeen] = AssetClearance::seenThrough($measures->asset, $surfaces);
        $hash = new SetInputs($delivery, $measures);
        $inputs = $names = $known = [];
        foreach ($sets as $set) {
            $inputs[$set->name] = $hash->of($set, $counts[$set->name] ?? 0, isset($allSeen[$set->name]));
            $names[$set->name] = $hash->names($set);
        }
        $deliveries = $delivery->asset->deliveries()->pluck('id')->all();
        foreach (array_chunk($inputs, 500, true) as $some) {
            $rows = BakeSet::query()->whereIn('delivery_id', $deliveries)->whereIn('inputs', array_values($some))->whereNotNull('clearance')->orderBy('id')->get()->groupBy('inputs');
            foreach ($some as $name => $input) {
                $seen = null;
                foreach ($rows->get($input) ?? [] as $row) {
                    $seen ??= hash('sha256', Visibility::seenFrom($surfaces[$name], $assembled, isset($allSeen[$name])));
                    if ($row->seen === $seen && $row->clearance !== null && $row->names !== null) {
                        $known[$name] = [$seen, SetClearance::underNames($row->clearance, $row->names, $names[$name])];
                        break;
                    }
                }
            }
        }

        return [$inputs, $names, $known];
    }
}
