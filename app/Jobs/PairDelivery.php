<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Clearance\AssetClearance;
use Anvil\Standard\Role;
use App\Deliveries\StoredDelivery;
use App\Models\Delivery;
use App\Models\Part;
use Illuminate\Bus\Batch;
use Illuminate\Support\Facades\Bus;
use Illuminate\Support\Facades\DB;

/**
 * Ties the parts, makes the sets, and sends one job a set to measure its rays.
 */
final class PairDelivery extends DeliveryJob
{
    protected function perform(Delivery $delivery): void
    {
        $id = $delivery->id;
        $stored = new StoredDelivery($delivery);
        $light = $stored->inspection(static fn (Part $part): bool => false);
        // Samples are shared out by the low parts' area; no other mesh is needed here.
        $low = [];
        foreach ($light->judged(Role::Low) as $part) {
            $low["$part->path\0{$part->part->name}"] = true;
        }
        $names = [];
        foreach ($delivery->files as $file) {
            $names[$file->id] = $file->name;
        }
        $inspection = $stored->inspection(static fn (Part $part): bool => isset($low["{$names[$part->file_id]}\0$part->name"]));
        $blocked = AssetClearance::notMeasured($inspection);
        $counts = AssetClearance::sampleCounts($inspection);
        DB::transaction(function () use ($delivery, $inspection, $blocked, $counts): void {
            $delivery->sets()->delete();
            foreach ($inspection->sets as $set) {
                $reason = $blocked[$set->name] ?? null;
                $delivery->sets()->create([
                    'name' => $set->name,
                    'samples' => $counts[$set->name] ?? 0,
                    'state' => ! $set->isWhole() ? 'done' : ($reason !== null ? 'failed' : 'waiting'),
                    'error' => $reason,
                ]);
            }
            $delivery->update(['state' => 'measuring']);
        });
        $jobs = $delivery->sets()->where('state', 'waiting')->pluck('id')->map(fn (mixed $set): MeasureSet => new MeasureSet($id, is_int($set) ? $set : 0))->all();
        if ($jobs === []) {
            CheckDelivery::dispatch($id);

            return;
        }
        $batch = Bus::batch($jobs)
            ->name("measure delivery $id")
            ->then(function (Batch $batch) use ($id): void {
                CheckDelivery::dispatch($id);
            })
            ->dispatch();
        $delivery->update(['batch_id' => $batch->id]);
    }
}
