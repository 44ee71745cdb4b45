<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Parallel\Forks;
use Closure;

/**
 * What has to be computed for the measures that are wanted: these and all that they read, in waves. The command line runs it in its own processes, the
 * queue a bundle a job.
 */
final readonly class Plan
{
    /** Part by part measures are bundled up to so many triangles: each by itself would take longer to send than to compute. */
    private const BUNDLE = 200_000;

    /** So many tasks by which is known what has to be computed are a bundle. */
    private const LIGHT = 32;

    /** Work of a wave from which on a second process gains more than it costs. */
    private const WORTH_A_PROCESS = 20_000;

    /** Triangles of one set from which on nothing is measured beside it: both together would take too much memory. */
    private const ALONE = 5_000_000;

    /** A ray costs as much as so many triangles. */
    private const RAY = 8;

    /**
     * @param  list<list<list<Task>>>  $waves  of bundles of tasks, the most work first
     */
    private function __construct(public array $waves)
    {
    }

    /**
     * @param  list<string>  $wanted  classes of measures
     */
    public static function of(Measures $measures, array $wanted): self
    {
        $waves = array_filter(self::waves($wanted), static fn (string $class): bool => $measures->isKept() || ! MeasureCatalogue::all()[$class] instanceof OnlyForInputs, ARRAY_FILTER_USE_KEY);
        $busiest = count(array_filter($waves, static fn (int $wave): bool => $wave === 1)) > 0 ? 1 : 0;
        $read = array_merge(...array_map(static fn (string $class): array => MeasureCatalogue::all()[$class]->reads(), array_keys($waves)));
        $out = [];
        foreach ($waves as $class => $wave) {
            $measure = MeasureCatalogue::all()[$class];
            // What waits for nothing, and nothing waits for, is done beside the rays.
            $wave = $measure->reads() === [] && ! in_array($class, $read, true) ? $busiest : $wave;
            foreach ($measure->subjects($measures) as $subject) {
                $out[$wave][] = new Task($measure, $subject, $wave, self::work($measures, $measure, $subject));
            }
        }
        ksort($out);

        return new self(array_map(self::bundled(...), array_values($out)));
    }

    /**
     * The classes that are wanted and all that they read: each with the number of its wave.
     *
     * @param  list<string>  $wanted
     * @return array<string, int>
     */
    private static function waves(array $wanted): array
    {
        $waves = [];
        $visit = static function (string $class) use (&$visit, &$waves): int {
            if (! isset($waves[$class])) {
                $wave = 0;
                foreach (MeasureCatalogue::all()[$class]->reads() as $before) {
                    $wave = max($wave, $visit($before) + 1);
                }
                $waves[$class] = $wave;
            }

            return $waves[$class];
        };
        foreach ($wanted as $class) {
            $visit($class);
        }

        return $waves;
    }

    /**
     * @param  Measure<mixed>  $measure
     */
    private static function work(Measures $measures, Measure $measure, Subject $subject): int
    {
        $triangles = 0;
        foreach ($measure->meshes($measures, $subject) as $part) {
            $triangles += $part->part->triangleCount();
        }

        return $triangles + ($measure->scope() === Scope::Set ? self::RAY * intdiv($measures->asset->standard->rays->count, max(1, count($measures->asset->sets))) : 0);
    }

    /**
     * @param  list<Task>  $tasks
     * @return list<list<Task>>
     */
    private static function bundled(array $tasks): array
    {
        $bundles = $parts = $light = [];
        foreach ($tasks as $task) {
            if ($task->measure instanceof OnlyForInputs) {
                $light[] = $task;
            } elseif ($task->measure instanceof RayedMeasure) {
                // All that is measured of one set under its rays needs the same trees.
                $parts["set {$task->subject->key}"][] = $task;
            } elseif ($task->measure->scope() === Scope::Part) {
                // All that is measured of one part stays together: much of it is made once a mesh.
                $parts[$task->subject->key][] = $task;
            } elseif ($task->measure->scope() === Scope::Asset && $task->measure->reads() === [] && $task->work <= self::BUNDLE) {
                $parts['all'][] = $task;
            } else {
                $bundles[] = [$task];
            }
        }
        array_push($bundles, ...array_chunk($light, self::LIGHT));
        $open = [];
        $sum = 0;
        foreach ($parts as $ofPart) {
            $work = $ofPart[0]->work * ($ofPart[0]->measure instanceof RayedMeasure ? count($ofPart) : 1);
            if ($open !== [] && $sum + $work > self::BUNDLE) {
                $bundles[] = $open;
                [$open, $sum] = [[], 0];
            }
            array_push($open, ...$ofPart);
            $sum += $work;
        }
        if ($open !== []) {
            $bundles[] = $open;
        }
        $work = array_map(static fn (array $bundle): int => array_sum(array_map(static fn (Task $task): int => $task->work, $bundle)), $bundles);
        arsort($work);

        return array_map(static fn (int $i): array => $bundles[$i], array_keys($work));
    }

    /**
     * Computes all of it, over several processes where that is worth it; the results are the same.
     *
     * @param  Closure(string, int, int): void|null  $progress  what is done in words, its number from 1, bundles in all
     * @param  int  $workers  processes, this one among them
     */
    public function run(Measures $measures, ?Closure $progress = null, int $workers = 1): void
    {
        $begun = 0;
        $all = array_sum(array_map(count(...), $this->waves));
        if ($measures->largestSet() > self::ALONE) {
            $workers = 1;
        }
        foreach ($this->waves as $bundles) {
            $work = array_sum(array_map(static fn (array $bundle): int => $bundle[0]->work, $bundles));
            $several = $workers > 1 && count($bundles) > 1 && $work >= self::WORTH_A_PROCESS;
            if ($several) {
                // What all need is made before the processes part.
                self::prepare($measures, $bundles);
            } else {
                // Parts first: what sets are measured with takes memory that is not free before their end.
                usort($bundles, static fn (array $a, array $b): int => self::isOfParts($b) <=> self::isOfParts($a));
            }
            $seconds = $measures->seconds();
            $answers = Forks::map(
                count($bundles), static fn (int $i): array => self::computed($measures, $bundles[$i], $several), $several ? $workers : 1, null,
                $progress === null ? null : static function (int $i) use ($progress, $bundles, $all, &$begun): void {
                    $progress($bundles[$i][0]->measure->words($bundles[$i][0]->subject), ++$begun, $all);
                },
            );
            if ($several) {
                $measures->resetSeconds($seconds);
                foreach ($bundles as $i => $bundle) {
                    foreach ($bundle as $k => $task) {
                        $measures->take($task, ...$answers[$i][$k]);
                    }
                }
            }
        }
    }

    /**
     * @param  list<Task>  $bundle
     */
    private static function isOfParts(array $bundle): bool
    {
        return $bundle[0]->measure->scope() === Scope::Part;
    }

    /**
     * @param  list<list<Task>>  $bundles
     */
    private static function prepare(Measures $measures, array $bundles): void
    {
        foreach ($bundles as [$task]) {
            if ($task->measure instanceof Kind\Rays) {
                $measures->common()->assembledLow();

                return;
            }
        }
    }

    /**
     * @param  list<Task>  $bundle
     * @param  bool  $told  whether what came out is given back, or only known here
     * @return list<array{array<mixed>|null, float}> what came out, seconds
     */
    private static function computed(Measures $measures, array $bundle, bool $told): array
    {
        $out = [];
        foreach ($bundle as $task) {
            $class = $task->measure::class;
            $measures->common()->goTo($task->subject);
            $before = $measures->secondsOf($class);
            $result = $measures->get($class, $task->subject);
            if ($told) {
                $out[] = [$task->measure->toArray($result, $measures, $task->subject), $measures->secondsOf($class) - $before];
            }
        }

        return $out;
    }
}
