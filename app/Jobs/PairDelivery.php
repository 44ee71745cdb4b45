<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Checks\Runner;
use Anvil\Clearance\NotMeasured;
use Anvil\Explode\Assembled;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\Layout;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Shades;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Measures\Plan;
use Anvil\Measures\Subject;
use App\Deliveries\Judging;
use App\Deliveries\KeptMeasures;
use App\Deliveries\Since;
use App\Deliveries\Steps;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Turn;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\SetState;
use App\Models\State\Step;
use App\Models\State\TaskState;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Ties the parts, makes the sets, plans what is to be measured, and takes over what is known already. Reads no mesh.
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
        $delivery->update(['exploded_from' => $this->original($delivery, $stored), 'compared_to' => Since::choose($delivery)?->id]);
        $store = new KeptMeasures(true);
        $measures = $stored->light($store);
        // What the checks read, and what the screens show beside.
        $tasks = self::planned($measures, $store, Plan::of($measures, [...Runner::measures($measures), Contents::class, Rays::class, Shades::class, Layout::class]));
        $rays = new Rays;
        $known = [];
        foreach ($tasks as $task) {
            if ($task['measure'] === $rays->name()) {
                $known[$task['subject']] = $task['key'];
            }
        }
        $results = Judging::results($delivery, $measures, true);
        $mends = Judging::mends($measures);
        $this->ifStillWanted(function (Delivery $delivery) use ($measures, $tasks, $rays, $known, $results, $mends): void {
            if ($delivery->step !== Step::Pair) {
                return;
            }
            $delivery->sets()->delete();
            foreach ($measures->asset->sets as $set) {
                $key = $known[$set->name] ?? null;
                $one = $key === null ? null : $measures->ofSet(Rays::class, $set);
                $reason = $one instanceof NotMeasured ? $one->reason : null;
                $delivery->sets()->create([
                    'name' => $set->name,
                    'state' => match (true) {
                        $reason !== null => SetState::Failed,
                        ! $set->isWhole() || $key !== null => SetState::Done,
                        default => SetState::Waiting,
                    },
                    'error' => $reason, 'key' => $key, 'reused' => $key !== null,
                    'names' => $set->isWhole() ? $rays->names($measures, Subject::set($set)) : null,
                ]);
            }
            $delivery->tasks()->delete();
            foreach (array_chunk($tasks, 500) as $some) {
                DB::table('tasks')->insert(array_map(static fn (array $task): array => ['delivery_id' => $delivery->id, ...$task], $some));
            }
            // Of an earlier run, and of other choices.
            $delivery->report = $mends;
            Judging::record($delivery, $results);
            Turn::to($delivery, DeliveryState::Measuring, Step::Measure, ['wave' => 0, 'waits_for' => $measures->asset->sideToCome()?->value]);
            Steps::send($delivery);
        });
    }

    /**
     * The rows of a plan; what is known already is done.
     *
     * @return list<array{wave: int, bundle: int, measure: string, subject: string, state: string, key: string|null, reused: bool}>
     */
    private static function planned(Measures $measures, KeptMeasures $store, Plan $plan): array
    {
        $out = [];
        $number = 0;
        foreach ($plan->waves as $wave => $bundles) {
            $rows = $keys = [];
            // A set is judged once its rays and its places are known: these are quick and come first, so that each ray shot tells of its set.
            usort($bundles, static fn (array $a, array $b): int => ($b[0]->measure instanceof Places) <=> ($a[0]->measure instanceof Places));
            foreach ($bundles as $bundle) {
                $number++;
                foreach ($bundle as $task) {
                    try {
                        $key = $measures->key($task->measure, $task->subject);
                        $keys[] = $key;
                    } catch (NotKnown) {
                        $key = null;
                    }
                    $rows[] = ['wave' => $wave, 'bundle' => $number, 'measure' => $task->measure->name(), 'subject' => $task->subject->key, 'key' => $key];
                }
            }
            // What later waves read of this one is got at once.
            $store->fetch($wave < count($plan->waves) - 1 ? $keys : []);
            $known = KeptMeasures::known($keys);
            foreach ($rows as $row) {
                $isKnown = $row['key'] !== null && isset($known[$row['key']]);
                $out[] = [...$row, 'state' => ($isKnown ? TaskState::Done : TaskState::Waiting)->value, 'key' => $isKnown ? $row['key'] : null, 'reused' => $isKnown];
            }
        }

        return $out;
    }

    /** The newest delivery before this one that this one is an exploded layout of, where no plan says so. */
    private function original(Delivery $delivery, StoredDelivery $stored): ?int
    {
        if ($delivery->files->firstWhere('kind', 'plan') !== null) {
            return null;
        }
        $delivery->exploded_from = null;
        $now = $stored->alone();
        $before = $delivery->asset->deliveries()->where('number', '<', $delivery->number)->whereNull('exploded_from')
            ->whereDoesntHave('files', static fn (Builder $files): Builder => $files->where('kind', 'plan'))->orderByDesc('number')->limit(self::LOOKS_BACK)->get();
        foreach ($before as $one) {
            if (Assembled::recognise($now->asset, (new StoredDelivery($one))->alone()->asset) !== null) {
                return $one->id;
            }
        }

        return null;
    }
}
