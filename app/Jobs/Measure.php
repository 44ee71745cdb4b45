<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Clearance\NotMeasured;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measure as CoreMeasure;
use Anvil\Measures\MeasureCatalogue;
use Anvil\Measures\Measures;
use Anvil\Measures\Subject;
use App\Deliveries\Judging;
use App\Deliveries\StoredDelivery;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\Part;
use App\Models\State\SetState;
use App\Models\State\Step;
use App\Models\State\TaskState;
use App\Models\Task;

/**
 * Measures what a bundle of a delivery's plan holds. Loads only the meshes that it needs, where the delivery is a large one.
 */
final class Measure extends DeliveryJob
{
    /** @var array{string, Measures}|null */
    private static ?array $kept = null;

    public function __construct(int $deliveryId, int $run, public int $bundle)
    {
        parent::__construct($deliveryId, $run);
    }

    public function name(): string
    {
        return "measure:$this->deliveryId:$this->run:$this->bundle";
    }

    public function words(): string
    {
        $task = Task::query()->where('delivery_id', $this->deliveryId)->where('bundle', $this->bundle)->orderBy('id')->first();

        return match (true) {
            $task === null => 'measuring',
            $task->measure === (new Rays)->name() => "shooting rays of $task->subject",
            default => 'measuring: '.str_replace('-', ' ', $task->measure),
        };
    }

    public function handle(): void
    {
        parent::handle();
        $delivery = Delivery::query()->find($this->deliveryId);
        if ($delivery !== null && $delivery->run === $this->run && $delivery->step === Step::Measure) {
            Judging::soFar($delivery, $this->run);
        }
    }

    protected function perform(Delivery $delivery): void
    {
        $tasks = Task::query()->where('delivery_id', $delivery->id)->where('bundle', $this->bundle)->where('state', TaskState::Waiting)->orderBy('id')->get();
        if ($tasks->isEmpty()) {
            return;
        }
        $rays = (new Rays)->name();
        foreach ($tasks->where('measure', $rays) as $task) {
            BakeSet::query()->where('delivery_id', $delivery->id)->where('name', $task->subject)->where('state', SetState::Waiting)->update(['state' => SetState::Measuring]);
        }
        $measures = $this->measures($delivery, array_values($tasks->all()));
        $done = [];
        foreach ($tasks as $task) {
            $measure = MeasureCatalogue::named($task->measure);
            $subject = self::subject($measures, $measure, $task->subject);
            $measures->common()->goTo($subject);
            $result = $measures->get($measure::class, $subject);
            $done[] = [$task, $measures->key($measure, $subject), $measures->wasKnown($task->measure, $subject), $result instanceof NotMeasured ? $result->reason : null];
        }
        $this->ifStillWanted(static function () use ($done, $rays): void {
            foreach ($done as [$task, $key, $reused, $reason]) {
                $task->update(['state' => TaskState::Done, 'key' => $key, 'reused' => $reused]);
                if ($task->measure === $rays) {
                    BakeSet::query()->where('delivery_id', $task->delivery_id)->where('name', $task->subject)
                        ->update(['state' => $reason === null ? SetState::Done : SetState::Failed, 'error' => $reason, 'key' => $key, 'reused' => $reused]);
                }
            }
        });
    }

    /**
     * @param  list<Task>  $tasks
     */
    private function measures(Delivery $delivery, array $tasks): Measures
    {
        $key = "$delivery->id $delivery->run";
        if (self::$kept !== null && self::$kept[0] === $key) {
            return self::$kept[1];
        }
        self::$kept = null;
        $stored = new StoredDelivery($delivery);
        if ($delivery->parts()->sum('triangles') <= config()->integer('anvil.keep_triangles')) {
            self::$kept = [$key, $stored->computing()];

            return self::$kept[1];
        }
        $light = $stored->light();
        $needed = [];
        foreach ($tasks as $task) {
            $measure = MeasureCatalogue::named($task->measure);
            foreach ($measure->meshes($light, self::subject($light, $measure, $task->subject)) as $part) {
                $needed[$light->subject($part)->key] = true;
            }
        }
        $ids = [];
        foreach ($stored->parts() as $number => $part) {
            if (isset($needed[$number])) {
                $ids[$part->id] = true;
            }
        }

        return $stored->computing(static fn (Part $part): bool => isset($ids[$part->id]));
    }

    /**
     * @param  CoreMeasure<mixed>  $measure
     */
    private static function subject(Measures $measures, CoreMeasure $measure, string $key): Subject
    {
        return $measures->subjectOf($measure->scope(), $key);
    }
}
