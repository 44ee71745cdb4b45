<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Rays\Hits;
use Anvil\Rays\Samples;
use Anvil\Standard\Reach;
use Closure;

/**
 * From which reach on rays go wrong (METHODS, "First wrong hit").
 *
 * A wrong hit is taken by rays that start between it and the next hit outward. What is seen is asked of a sample only when its turn
 * comes: outward from the needed reach, or back from it, never for all that could go wrong up to d.
 */
final class WrongReach
{
    /** Share of seen low area that may go wrong before a reach counts as wrong. */
    public const SHARE = 0.0005;

    /** The least reach at which too much goes wrong; null: none up to d. */
    public ?float $first = null;

    /** @var list<array{int, float}> samples that go wrong around the first wrong hit, and the height of that hit */
    public array $rays = [];

    /**
     * @param  Closure(int): bool  $seen  of a sample
     * @param  float  $seenShare  of low area
     */
    private function __construct(private readonly Samples $samples, private readonly Closure $seen, private readonly float $seenShare)
    {
    }

    /**
     * @param  Closure(int): bool  $seen
     */
    public static function outward(Hits $hits, Samples $samples, Reach $needed, float $d, Closure $seen, float $seenShare): self
    {
        $wrong = new self($samples, $seen, $seenShare);
        $spans = [];
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            $above = $d;
            for ($h = $hits->start[$i]; $h < $hits->start[$i + 1]; $h++) {
                $t = $hits->heights[$h];
                if ($t < -$needed->in) {
                    break;
                }
                if ($above > 0.0 && $hits->kind($i, $h) < 1) {
                    $spans[] = [max(0.0, $t), $above, $i, $t];
                }
                $above = $t;
            }
        }
        $wrong->find($spans, $needed->out);

        return $wrong;
    }

    /**
     * @param  Closure(int): bool  $seen
     */
    public static function inward(Hits $hits, Samples $samples, Reach $needed, float $d, Closure $seen, float $seenShare): self
    {
        $wrong = new self($samples, $seen, $seenShare);
        $spans = [];
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            for ($h = $hits->start[$i]; $h < $hits->start[$i + 1]; $h++) {
                $t = $hits->heights[$h];
                if ($t > $needed->out) {
                    continue;
                }
                if ($hits->kind($i, $h) < 1) {
                    $spans[] = [max(0.0, -$t), INF, $i, $t];
                }
                break;
            }
        }
        $wrong->find($spans, $needed->in);

        return $wrong;
    }

    /**
     * @param  list<array{float, float, int, float}>  $spans  from which reach on, until which, sample, height of the hit
     */
    private function find(array $spans, float $needed): void
    {
        $limit = self::SHARE * $this->seenShare;
        $weight = $this->samples->weight;
        $now = $later = [];
        foreach ($spans as $k => [$from, $until]) {
            if ($from <= $needed && $until > $needed) {
                $now[] = $k;
            } elseif ($from > $needed) {
                $later[] = $k;
            }
        }
        $now = array_values(array_filter($now, fn (int $k): bool => ($this->seen)($spans[$k][2])));
        $here = 0.0;
        foreach ($now as $k) {
            $here += $weight[$spans[$k][2]];
        }
        if ($here > $limit) {
            $this->back($spans, $now, $here, $limit, $needed);

            return;
        }
        // Onward from what is needed: what begins counts before what ends.
        $events = [];
        foreach ($now as $k) {
            $events[] = [$spans[$k][1], 1, $k];
        }
        foreach ($later as $k) {
            $events[] = [$spans[$k][0], 0, $k];
            $events[] = [$spans[$k][1], 1, $k];
        }
        sort($events);
        $in = array_fill_keys($now, true);
        $sum = $here;
        foreach ($events as [$reach, $ends, $k]) {
            $i = $spans[$k][2];
            if ($ends === 1) {
                if (isset($in[$k])) {
                    $sum -= $weight[$i];
                    unset($in[$k]);
                }

                continue;
            }
            if (($this->seen)($i)) {
                $in[$k] = true;
                $sum += $weight[$i];
                if ($sum > $limit) {
                    $this->first = $reach;
                    $this->keep($spans, array_keys($in));

                    return;
                }
            }
        }
    }

    /**
     * How far back from the needed reach it has been going wrong all along.
     *
     * @param  list<array{float, float, int, float}>  $spans
     * @param  list<int>  $now  spans in force at the needed reach, seen
     */
    private function back(array $spans, array $now, float $sum, float $limit, float $needed): void
    {
        $weight = $this->samples->weight;
        $in = array_fill_keys($now, true);
        $events = [];
        foreach ($spans as $k => [$from, $until]) {
            if ($from <= $needed) {
                $events[] = [$from, isset($in[$k]) ? 1 : 0, $k, 0];
                if ($until <= $needed) {
                    $events[] = [$until, 1, $k, 1];
                }
            }
        }
        // Inward in reach; at one reach a span's end is met before another's beginning: both are in force there.
        usort($events, static fn (array $a, array $b): int => [$b[0], $a[3], $b[2]] <=> [$a[0], $b[3], $a[2]]);
        $this->first = 0.0;
        foreach ($events as [$reach, , $k, $isEnd]) {
            $i = $spans[$k][2];
            if ($isEnd === 1) {
                if (($this->seen)($i)) {
                    $in[$k] = true;
                    $sum += $weight[$i];
                }

                continue;
            }
            if (isset($in[$k])) {
                $sum -= $weight[$i];
                unset($in[$k]);
                if ($sum <= $limit) {
                    $this->first = $reach;
                    $in[$k] = true;
                    break;
                }
            }
        }
        $this->keep($spans, $in === [] ? $now : array_keys($in));
    }

    /**
     * @param  list<array{float, float, int, float}>  $spans
     * @param  list<int>  $which
     */
    private function keep(array $spans, array $which): void
    {
        foreach ($which as $k) {
            $this->rays[] = [$spans[$k][2], $spans[$k][3]];
        }
    }
}
