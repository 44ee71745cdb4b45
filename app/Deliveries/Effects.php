<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Catalogue;
use Anvil\Checks\CheckResult;
use Anvil\Checks\Runner;
use Anvil\Measures\NotKnown;
use Anvil\Report\LimitValues;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard as Rules;
use App\Http\Data\EffectCodeData;
use App\Http\Data\EffectData;
use App\Http\Data\EffectRowData;
use App\Models\Delivery;
use App\Models\Standard;
use App\Models\State\DeliveryState;
use Illuminate\Support\Facades\DB;

/**
 * What other rules would change on the assets that are held to a standard. Limits and severities are weighed against what was measured, in a moment;
 * what those do not foretell is judged by the checks from stored measures, some assets at a time. Nothing is measured anew: checks that would need it are named.
 *
 * @phpstan-type Counts array<string, array<string, int>>
 */
final class Effects
{
    /** Seconds that judging takes of one answer. */
    private const SECONDS = 1.2;

    /** Assets whose values are got at once. */
    private const AT_ONCE = 250;

    private const MOST_ROWS = 200;

    private const NAMED = ['blocker', 'caution', 'note'];

    /** @var array<string, array{int, int, int}> code → more blockers, cautions, notes */
    private array $codes = [];

    /** @var list<EffectRowData> */
    private array $rows = [];

    /** @var array{assets: int, foretold: int, judged: int, unknown: int, changed: int, nowBlocked: int, nowReady: int, waiversIdle: int, waiversDied: int} */
    private array $totals = ['assets' => 0, 'foretold' => 0, 'judged' => 0, 'unknown' => 0, 'changed' => 0, 'nowBlocked' => 0, 'nowReady' => 0, 'waiversIdle' => 0, 'waiversDied' => 0];

    /** @var array<string, true> titles of checks of which something is not known */
    private array $unknown = [];

    private function __construct(private readonly Rules $old, private readonly Rules $new, private readonly float $until)
    {
    }

    /**
     * @param  int  $after  of assets by number: those after that one are judged; 0: weighs those that need no judging, too
     */
    public static function of(Standard $standard, Rules $new, int $after): EffectData
    {
        $effects = new self($standard->parsed(), $new, microtime(true) + self::SECONDS);
        $next = $effects->walk($standard, $after);

        return $effects->data($next);
    }

    /** @return int|null the asset after which the next slice begins; null where all are told */
    private function walk(Standard $standard, int $after): ?int
    {
        [$codes, $byValues] = $this->changes();
        $first = $after === 0;
        $rows = DB::table('deliveries')->join('assets', 'assets.id', '=', 'deliveries.asset_id')->where('assets.standard_id', $standard->id)->where('deliveries.state', DeliveryState::Done->value)->where('deliveries.asset_id', '>', $after)
            ->groupBy('deliveries.asset_id')->orderBy('deliveries.asset_id')->selectRaw('deliveries.asset_id as asset, max(deliveries.id) as delivery, max(assets.name) as name')->get();
        $newest = $open = [];
        foreach ($rows as $row) {
            if (is_int($row->asset) && is_int($row->delivery) && is_string($row->name)) {
                $newest[] = [$row->asset, $row->delivery, $row->name];
            }
        }
        foreach (array_chunk($newest, self::AT_ONCE) as $some) {
            $values = $byValues ? KeptValues::of(array_column($some, 1)) : [];
            foreach ($some as [$asset, $delivery, $name]) {
                $own = $values[$delivery] ?? null;
                $isForetold = $own !== null && array_filter($codes, fn (string $code): bool => ! $own->foretells($code, $this->new)) === [];
                if (! $isForetold) {
                    $open[] = [$asset, $delivery, $name];
                } elseif ($first) {
                    $this->totals['foretold']++;
                    $this->take($asset, $delivery, $name, $own->under($this->old), $own->under($this->new), []);
                }
                $this->totals['assets'] += $first ? 1 : 0;
            }
        }
        foreach ($open as [$asset, $delivery, $name]) {
            if (isset($last) && microtime(true) > $this->until) {
                return $last;
            }
            $this->judge($asset, $delivery, $name);
            $last = $asset;
        }

        return null;
    }

    /**
     * @return array{list<string>, bool} checks whose limits change, and whether nothing but checks does
     */
    private function changes(): array
    {
        $limits = static fn (Rules $rules, string $code): array => array_diff_key($rules->checks[$code] ?? [], ['severity' => 0]) + ['limit' => null, 'caution' => null];
        $codes = array_map(strval(...), array_keys($this->old->checks + $this->new->checks));
        $rest = static fn (Rules $rules): array => array_diff_key($rules->toArray(), ['checks' => 0, 'name' => 0]);

        return [
            array_values(array_filter($codes, fn (string $code): bool => $limits($this->old, $code) != $limits($this->new, $code))),
            json_encode($rest($this->old)) === json_encode($rest($this->new)),
        ];
    }

    /** By the checks themselves, from what is stored. */
    private function judge(int $asset, int $deliveryId, string $name): void
    {
        $delivery = Delivery::query()->findOrFail($deliveryId);
        $measures = (new StoredDelivery($delivery))->measured();
        $waivers = Waivers::rules($delivery, $measures);
        $other = $measures->under($this->new->withReaches($delivery->asset->reaches ?? []));
        $before = $after = [];
        $isPart = false;
        foreach (Catalogue::about() as $code => $about) {
            try {
                // Both or neither: what is not known of one is told of neither.
                $was = Runner::run($measures, $waivers, [$code]);
                $is = Runner::run($other, $waivers, [$code]);
            } catch (NotKnown) {
                $this->unknown[$about->title] = true;
                $isPart = true;

                continue;
            }
            array_push($before, ...$was);
            array_push($after, ...$is);
        }
        $this->totals['judged']++;
        $this->totals['unknown'] += $isPart ? 1 : 0;
        $this->take($asset, $deliveryId, $name, self::counts($before, $this->old), self::counts($after, $this->new), self::died($before, $after));
    }

    /**
     * @param  list<CheckResult>  $results
     * @return Counts
     */
    private static function counts(array $results, Rules $rules): array
    {
        $out = [];
        foreach ($results as $result) {
            foreach ($result->findings as $finding) {
                $key = $finding->severity->value.($finding->waived ? ' waived' : '');
                $out[$result->about->code][$key] = ($out[$result->about->code][$key] ?? 0) + 1;
            }
            if ($result->state === 'not-run' && $rules->severity($result->about->code, $result->about->severity) === Severity::Blocker) {
                $out[$result->about->code]['not-run'] = 1;
            }
        }

        return $out;
    }

    /**
     * Findings that a waiver held, and that none holds any more.
     *
     * @param  list<CheckResult>  $before
     * @param  list<CheckResult>  $after
     * @return list<string> codes
     */
    private static function died(array $before, array $after): array
    {
        $held = [];
        foreach ($before as $result) {
            foreach ($result->findings as $finding) {
                if ($finding->waived) {
                    $held[$finding->code.json_encode($finding->subject)] = true;
                }
            }
        }
        $out = [];
        foreach ($after as $result) {
            foreach ($result->findings as $finding) {
                if (! $finding->waived && isset($held[$finding->code.json_encode($finding->subject)])) {
                    $out[] = $finding->code;
                }
            }
        }

        return $out;
    }

    /**
     * @param  Counts  $before
     * @param  Counts  $after
     * @param  list<string>  $died
     */
    private function take(int $asset, int $delivery, string $name, array $before, array $after, array $died): void
    {
        $own = [];
        foreach (array_keys($before + $after) as $code) {
            $delta = static fn (string $severity): int => ($after[$code][$severity] ?? 0) - ($before[$code][$severity] ?? 0);
            $more = [$delta('blocker'), $delta('caution'), $delta('note')];
            $idle = 0;
            foreach (self::NAMED as $severity) {
                $idle += ($before[$code]["$severity waived"] ?? 0) - ($after[$code]["$severity waived"] ?? 0);
            }
            $this->totals['waiversIdle'] += max(0, $idle - count(array_keys($died, $code, true)));
            if ($more !== [0, 0, 0]) {
                $own[] = new EffectCodeData((string) $code, ...$more);
                $sum = $this->codes[$code] ?? [0, 0, 0];
                $this->codes[$code] = [$sum[0] + $more[0], $sum[1] + $more[1], $sum[2] + $more[2]];
            }
        }
        $this->totals['waiversDied'] += count($died);
        [$was, $is] = [LimitValues::isReady($before), LimitValues::isReady($after)];
        $this->totals['nowBlocked'] += $was && ! $is ? 1 : 0;
        $this->totals['nowReady'] += $is && ! $was ? 1 : 0;
        if ($own !== [] || $was !== $is) {
            $this->totals['changed']++;
            if (count($this->rows) < self::MOST_ROWS) {
                $this->rows[] = new EffectRowData($asset, $delivery, $name, $was, $is, $own);
            }
        }
    }

    private function data(?int $next): EffectData
    {
        ksort($this->codes);
        $codes = [];
        foreach ($this->codes as $code => $more) {
            if ($more !== [0, 0, 0]) {
                $codes[] = new EffectCodeData((string) $code, ...$more);
            }
        }

        return new EffectData(...$this->totals, codes: $codes, rows: $this->rows, unknownChecks: array_keys($this->unknown), next: $next);
    }
}
