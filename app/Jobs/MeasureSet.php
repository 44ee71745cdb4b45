<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Clearance\AssetClearance;
use Anvil\Pairing\Tie;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\Standard;
use App\Deliveries\StoredDelivery;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\Part;
use App\Models\State\SetState;
use Closure;

/**
 * Shoots the rays of one set. Loads its own meshes, all low parts (for what is seen), and the high parts near enough to be met.
 */
final class MeasureSet extends DeliveryJob
{
    private const KEEP_UP_TO = 3_000_000;

    /** @var array{string, array{Standard, array<string, SetSurfaces>, TriangleTree, array<string, list<Tie>>, array<string, true>, int}}|null */
    private static ?array $kept = null;

    public function __construct(int $deliveryId, int $run, public int $setId)
    {
        parent::__construct($deliveryId, $run);
    }

    public function name(): string
    {
        return "measure:$this->setId:$this->run";
    }

    public function words(): string
    {
        return 'shooting the rays of '.(BakeSet::query()->find($this->setId)->name ?? 'a set');
    }

    protected function perform(Delivery $delivery): void
    {
        $row = BakeSet::query()->find($this->setId);
        if ($row === null || $row->state === SetState::Done) {
            return;
        }
        $row->update(['state' => SetState::Measuring]);
        [$standard, $surfaces, $assembled, $ties, $allSeen, $tiesInAll] = $this->surfaces($delivery, $row);
        [$clearance] = AssetClearance::ofSet($row->name, $surfaces, $assembled, $standard, $row->samples, isset($allSeen[$row->name]), $ties[$row->name], $tiesInAll);
        if ($clearance === null) {
            $this->ifStillWanted(static function () use ($row): void {
                $row->update(['state' => SetState::Failed, 'error' => AssetClearance::NO_AREA]);
            });

            return;
        }
        $seen = hash('sha256', Visibility::seenFrom($surfaces[$row->name], $assembled, isset($allSeen[$row->name])));
        $this->ifStillWanted(static function () use ($row, $seen, $clearance): void {
            $row->update(['state' => SetState::Done, 'seen' => $seen, 'clearance' => $clearance->toArray()]);
        });
    }

    /**
     * The delivery's surfaces: kept from one job to the next while a worker measures the sets of one delivery of a usual size; of a
     * very large one only what this set needs is loaded.
     *
     * @return array{Standard, array<string, SetSurfaces>, TriangleTree, array<string, list<Tie>>, array<string, true>, int}
     */
    private function surfaces(Delivery $delivery, BakeSet $row): array
    {
        $key = "$delivery->id $delivery->run";
        if (self::$kept !== null && self::$kept[0] === $key) {
            return self::$kept[1];
        }
        self::$kept = null;
        $large = $delivery->parts()->sum('triangles') > self::KEEP_UP_TO;
        $stored = new StoredDelivery($delivery);
        $measures = $stored->inspection($large ? $this->needed($delivery, $stored, $row) : null);
        $surfaces = $ties = [];
        foreach ($measures->asset->sets as $set) {
            $ties[$set->name] = $measures->asset->tiesOf($set);
            $surfaces[$set->name] = SetSurfaces::of($set, $measures->asset->standard->rays->smooth);
        }
        [$assembled, $allSeen] = AssetClearance::seenThrough($measures->asset, $surfaces);
        $out = [$measures->asset->standard, $surfaces, $assembled, $ties, $allSeen, count($measures->asset->pairing->ties)];
        if (! $large) {
            self::$kept = [$key, $out];
        }

        return $out;
    }

    /**
     * @return Closure(Part): bool
     */
    private function needed(Delivery $delivery, StoredDelivery $stored, BakeSet $row): Closure
    {
        $needed = [];
        $light = $stored->light();
        $bounds = null;
        foreach ($light->asset->sets as $set) {
            if ($set->name === $row->name) {
                $low = $set->lowBounds();
                $bounds = $low?->grown($low->diagonal());
            }
        }
        foreach ($light->asset->sets as $set) {
            $own = $set->name === $row->name;
            foreach ($set->low as $part) {
                $needed["$part->path\0{$part->part->name}"] = true;
            }
            foreach ($set->high as $part) {
                if ($own || ($bounds !== null && $part->part->bounds()?->meets($bounds) === true)) {
                    $needed["$part->path\0{$part->part->name}"] = true;
                }
            }
        }
        $names = [];
        foreach ($delivery->files as $file) {
            $names[$file->id] = $file->name;
        }

        return static fn (Part $part): bool => isset($needed["{$names[$part->file_id]}\0$part->name"]);
    }
}
