<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\SetSurfaces;
use App\Deliveries\StoredDelivery;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\Part;

/**
 * Shoots the rays of one set. Loads its own meshes, all low parts (for what is seen), and the high parts near enough to be met.
 */
final class MeasureSet extends DeliveryJob
{
    public function __construct(int $deliveryId, public int $setId)
    {
        parent::__construct($deliveryId);
    }

    protected function perform(Delivery $delivery): void
    {
        $row = BakeSet::query()->find($this->setId);
        if ($row === null || $row->state === 'done') {
            return;
        }
        $row->update(['state' => 'measuring']);
        $stored = new StoredDelivery($delivery);
        $needed = [];
        $light = $stored->inspection(static fn (Part $part): bool => false);
        $bounds = null;
        foreach ($light->sets as $set) {
            if ($set->name === $row->name) {
                $low = $set->lowBounds();
                $bounds = $low?->grown($low->diagonal());
            }
        }
        foreach ($light->sets as $set) {
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
        $names = $delivery->files->pluck('name', 'id');
        $inspection = $stored->inspection(static fn (Part $part): bool => isset($needed["{$names[$part->file_id]}\0$part->name"]));
        $surfaces = [];
        foreach ($inspection->sets as $set) {
            $surfaces[$set->name] = SetSurfaces::of($set, $inspection->standard->rays->smooth);
        }
        $others = array_values(array_filter($surfaces, static fn (SetSurfaces $other): bool => $other->name !== $row->name));
        $clearance = ClearanceMeasure::of($surfaces[$row->name], $others, ClearanceMeasure::assembled(array_values($surfaces)), $inspection->standard, $row->samples);
        $row->update(['state' => 'done', 'clearance' => $clearance->toArray()]);
    }
}
