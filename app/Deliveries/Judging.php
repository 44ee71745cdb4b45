<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Cause;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Finding;
use Anvil\Checks\Runner;
use Anvil\Measures\Kind\Suffixes;
use Anvil\Measures\Kind\Turn as TurnMeasure;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Place\PlaceMend;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;
use App\Models\Delivery;
use App\Models\Finding as Row;
use App\Models\State\DeliveryState;
use Illuminate\Support\Facades\DB;

/**
 * What the checks say of a delivery, written down: as far as it is known while it is measured, and whole once it is.
 *
 * A finding keeps its row, and so its number, for as long as it is found of the same subject: a link to it holds.
 */
final class Judging
{
    /** A judgement on the way takes at most one part in so many of the time. */
    private const SELDOM = 4;

    /** Seconds between two of them, at least. */
    private const LEAST = 1.0;

    /** Seconds after which one that was begun is given up, and another worker may begin one. */
    private const GIVEN_UP = 120;

    /** Codes of the checks that say no more than that the other side is not there. */
    private const OF_SIDE = ['high' => 'pair-no-high', 'low' => 'pair-no-low'];

    /**
     * What the checks say, and that those that ask for a side which is still to be handed in wait for it.
     *
     * @return list<CheckResult>
     */
    public static function results(Delivery $delivery, Measures $measures, bool $soFar = false): array
    {
        return self::waiting($measures->asset->sideToCome(), Runner::run($soFar ? $measures->soFar() : $measures, Waivers::rules($delivery, $measures), soFar: $soFar));
    }

    /**
     * @param  list<CheckResult>  $results
     * @return list<CheckResult>
     */
    private static function waiting(?Role $side, array $results): array
    {
        $code = self::OF_SIDE[$side->value ?? ''] ?? null;

        return $code === null ? $results : array_map(static fn (CheckResult $one): CheckResult => $one->about->code === $code && $one->findings !== []
            ? new CheckResult($one->about, 'waiting', 'the '.($side?->value).' poly is still to be handed in', [], $one->seconds) : $one, $results);
    }

    /** What a delivery of one side waits for, in words; null where it has both. */
    public static function waitsFor(?string $side): ?string
    {
        return match ($side) {
            'high' => 'waiting for the high poly',
            'low' => 'waiting for the low poly',
            default => null,
        };
    }

    /**
     * Writes findings, causes and how each check ended. Under the delivery's lock.
     *
     * @param  list<CheckResult>  $results
     */
    public static function record(Delivery $delivery, array $results): void
    {
        $findings = array_merge(...array_map(static fn (CheckResult $result): array => $result->findings, $results));
        $causes = Cause::of($findings);
        $causeOf = [];
        foreach ($causes as $number => $cause) {
            foreach ($cause->findings as $position) {
                $causeOf[$position] = $number;
            }
        }
        self::rows($delivery, $findings, $causeOf);
        $count = static fn (Severity $severity): int => Cause::count($causes, $severity);
        $delivery->update([
            'blockers' => $count(Severity::Blocker), 'cautions' => $count(Severity::Caution), 'notes' => $count(Severity::Note), 'judged' => $delivery->judged + 1,
            'report' => [
                ...($delivery->report ?? []),
                'causes' => array_map(static fn (Cause $cause): array => ['code' => $cause->code, 'severity' => $cause->severity->value, 'message' => $cause->message, 'remedy' => $cause->remedy, 'subjects' => $cause->subjects, 'waived' => $cause->waived], $causes),
                'checks' => array_map(static fn (CheckResult $result): array => $result->toArray(), $results),
            ],
        ]);
    }

    /**
     * @param  list<Finding>  $findings
     * @param  array<int, int>  $causeOf  position → cause
     */
    private static function rows(Delivery $delivery, array $findings, array $causeOf): void
    {
        $there = $delivery->findings()->whereNotNull('key')->get()->keyBy('key');
        $delivery->findings()->whereNull('key')->delete();
        $about = Catalogue::about();
        $new = [];
        $counts = [];
        foreach ($findings as $position => $finding) {
            $subject = $finding->code.' '.json_encode($finding->subject, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
            $counts[$subject] = ($counts[$subject] ?? 0) + 1;
            $key = sha1("$subject {$counts[$subject]}");
            $columns = [
                'position' => $position, 'code' => $finding->code, 'station' => $about[$finding->code]->station->value, 'severity' => $finding->severity->value,
                'message' => $finding->message, 'remedy' => $finding->remedy, 'subject' => $finding->subject, 'measure' => $finding->measure === null ? null : [...$finding->measure->toArray(), ...($finding->measure->lessIsWorse ? ['least' => true] : [])],
                'texels' => $finding->texels, 'count' => $finding->count, 'where' => $finding->where, 'waived' => $finding->waived, 'cause' => $causeOf[$position] ?? null,
            ];
            $row = $there->pull($key);
            if ($row !== null) {
                $row->update($columns);

                continue;
            }
            $new[] = [...(new Row([...$columns, 'delivery_id' => $delivery->id, 'key' => $key]))->getAttributes()];
        }
        foreach (array_chunk($there->modelKeys(), 500) as $gone) {
            Row::query()->whereKey($gone)->delete();
        }
        foreach (array_chunk($new, 200) as $some) {
            DB::table('findings')->insert($some);
        }
    }

    /** What files that are read say by themselves, while others are still to be read. */
    public static function files(Delivery $delivery, int $run): void
    {
        if (! self::claims($delivery->id)) {
            return;
        }
        $start = microtime(true);
        $results = Runner::ofFiles((new StoredDelivery($delivery))->readFiles(), 'the other files are still to be read');
        self::write($delivery->id, $run, DeliveryState::Reading, $results, microtime(true) - $start);
    }

    /** What is known by now of a delivery that is measured; seldom enough that it takes little of the time. */
    public static function soFar(Delivery $delivery, int $run): void
    {
        if (! self::claims($delivery->id)) {
            return;
        }
        $start = microtime(true);
        $results = self::results($delivery, (new StoredDelivery($delivery))->measured(), true);
        self::write($delivery->id, $run, DeliveryState::Measuring, $results, microtime(true) - $start);
    }

    /** Whether it is time for another judgement; true to one only. */
    private static function claims(int $id): bool
    {
        return DB::update('update deliveries set judge_after = now(3) + interval ? second where id = ? and (judge_after is null or judge_after <= now(3))', [self::GIVEN_UP, $id]) > 0;
    }

    /**
     * @param  list<CheckResult>  $results
     */
    private static function write(int $id, int $run, DeliveryState $state, array $results, float $seconds): void
    {
        Turn::locked($id, static function (Delivery $delivery) use ($run, $state, $results): void {
            // What was judged on the way is not put over what is known since.
            if ($delivery->run === $run && $delivery->state === $state) {
                self::record($delivery, $results);
            }
        });
        DB::update('update deliveries set judge_after = now(3) + interval ? microsecond where id = ?', [(int) (1e6 * max(self::LEAST, self::SELDOM * $seconds)), $id]);
    }

    /**
     * What can be mended with one act, as far as it is known: the factor or turn that fits, and suffixes found in the names.
     *
     * @return array<string, mixed>
     */
    public static function mends(Measures $measures): array
    {
        try {
            $measures->ofAsset(TurnMeasure::class);
            $place = PlaceMend::of($measures->asset, $measures->quarterTurn());
        } catch (NotKnown) {
            $place = null;
        }
        try {
            $guess = $measures->ofAsset(Suffixes::class);
        } catch (NotKnown) {
            $guess = null;
        }

        return [
            'place' => $place === null ? null : ['factor' => $place->factor, 'turn' => $place->turn, 'words' => $place->words(), 'matrix' => $place->matrix->m, 'stuck' => $place->stuck],
            'suffixes' => $guess === null ? null : ['suffixes' => $guess->suffixes, 'pairs' => $guess->pairs, 'bases' => $guess->bases, 'ofFiles' => $guess->ofFiles],
        ];
    }
}
