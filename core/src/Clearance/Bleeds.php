<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Bounds;
use Anvil\Rays\Hits;
use Anvil\Rays\Samples;
use Anvil\Rays\SeenSamples;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Reach;

/**
 * Which other sets' high poly takes a set's rays at a reach (METHODS, "Bleed").
 */
final class Bleeds
{
    /**
     * @param  list<SetSurfaces>  $others
     * @return list<Bleed>
     */
    public static function of(SetSurfaces $own, array $others, Reach $reach, Samples $s, Hits $hits, RaySettings $rays, SeenSamples $seen, float $seenShare): array
    {
        $near = $own->lowBounds()?->grown(max($reach->out, $reach->in));
        $casts = [];
        foreach ($others as $other) {
            $box = $other->highBounds();
            if ($near !== null && $other->hasHigh() && $box?->meets($near) === true) {
                $casts[] = [$other, new SegmentCast($other->high()->tree()), $box];
            }
        }
        if ($casts === []) {
            return [];
        }
        $facing = $rays->backFaces ? 0 : 1;
        $shares = $unseen = array_fill(0, count($casts), 0.0);
        $where = array_fill(0, count($casts), []);
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $first = -$reach->in;
            $any = false;
            for ($h = $hits->start[$i]; $h < $hits->start[$i + 1]; $h++) {
                if ($hits->kinds[$h] >= 0 && $hits->heights[$h] <= $reach->out) {
                    $any = $hits->heights[$h] >= $first;
                    $first = max($first, $hits->heights[$h]);
                    break;
                }
            }
            $taker = -1;
            $a = $s->at($i, $first);
            $b = $s->at($i, $reach->out);
            foreach ($casts as $c => [, $cast, $box]) {
                if (! self::crosses($box, $a, $b)) {
                    continue;
                }
                $cast->all($s->px[$i], $s->py[$i], $s->pz[$i], $s->nx[$i], $s->ny[$i], $s->nz[$i], $first, $reach->out, $facing);
                foreach ($cast->t as $t) {
                    if ($t > $first || (! $any && $taker < 0 && $t >= $first)) {
                        $first = $t;
                        $taker = $c;
                    }
                }
            }
            if ($taker < 0) {
                continue;
            }
            if ($seen->has($i)) {
                $shares[$taker] += $s->weight[$i];
                if (count($where[$taker]) < 8) {
                    $where[$taker][] = $s->at($i, $first);
                }
            } else {
                $unseen[$taker] += $s->weight[$i];
            }
        }
        $out = [];
        foreach ($casts as $c => [$other]) {
            if ($shares[$c] > 0.0 || $unseen[$c] > 0.0) {
                $out[] = new Bleed($other->name, $seenShare > 0.0 ? min(1.0, $shares[$c] / $seenShare) : 0.0, min(1.0, $unseen[$c]), $where[$c]);
            }
        }
        usort($out, static fn (Bleed $a, Bleed $b): int => [$b->share, $b->unseenShare, $a->other] <=> [$a->share, $a->unseenShare, $b->other]);

        return $out;
    }

    /**
     * Whether a line's own box meets a box.
     *
     * @param  array{float, float, float}  $a  where it begins
     * @param  array{float, float, float}  $b  where it ends
     */
    private static function crosses(Bounds $box, array $a, array $b): bool
    {
        for ($k = 0; $k < 3; $k++) {
            if (($a[$k] < $box->min[$k] && $b[$k] < $box->min[$k]) || ($a[$k] > $box->max[$k] && $b[$k] > $box->max[$k])) {
                return false;
            }
        }

        return true;
    }
}
