<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Reach;
use Anvil\Standard\Standard;

/**
 * Shoots the rays of one set and says what they meet: needed reach, first wrong hit, misses, bleed (METHODS, "Rays").
 *
 * Each sample's line is met once with all triangles of the set's own high poly within ±d; every later answer is read from these hits.
 */
final class ClearanceMeasure
{
    /** Share of seen low area that may go wrong before a reach counts as wrong. */
    private const WRONG_SHARE = 0.0005;

    /** The share of seen area is estimated on about so many samples a set; what goes wrong is looked at sample by sample. */
    private const SEEN_SAMPLES = 768;

    private const EVIDENCE = 160;

    private const SEEN_PLACES = 512;

    private Samples $samples;

    private float $d;

    /** @var list<int> first hit of each sample in the lists below, and one more for the end */
    private array $start = [];

    /** @var list<float> heights, from the outside inward within a sample */
    private array $heights = [];

    /** @var list<int> 1 belongs, 0 wrong, −1 another set's */
    private array $kinds = [];

    /** @var list<int> high triangle of each hit, −1 for another set's */
    private array $faces = [];

    /** @var array<int, bool> */
    private array $seen = [];

    private float $seenShare = 1.0;

    private bool $allSeen = false;

    private Visibility $visibility;

    private LowSurface $low;

    private function __construct(private readonly RaySettings $rays)
    {
    }

    /**
     * @param  SetSurfaces  $own  low and high, neither empty
     * @param  list<SetSurfaces>  $others  the other sets that hold a high poly
     * @param  TriangleTree  $assembled  all low parts of the asset
     * @param  int  $count  samples of this set
     * @param  bool  $allSeen  all its low area counts as seen: what covers it comes off in use
     */
    public static function of(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, int $count, bool $allSeen = false): SetClearance
    {
        $measure = new self($standard->rays);
        $measure->allSeen = $allSeen;

        return $measure->run($own, $others, $assembled, $standard, $count);
    }

    /**
     * The hits of a set's samples, for what else is read from them.
     *
     * @param  list<SetSurfaces>  $others  that are baked together with it
     * @param  TriangleTree|null  $assembled  all low parts of the asset; null: all of the set is seen
     */
    public static function field(SetSurfaces $own, Standard $standard, int $count, array $others = [], ?TriangleTree $assembled = null): RayField
    {
        $measure = new self($standard->rays);
        $measure->allSeen = $assembled === null;
        if ($assembled !== null) {
            $measure->visibility = new Visibility($assembled);
        }
        $measure->low = $own->low();
        $measure->d = max(1e-30, $own->lowBounds()?->diagonal() ?? 0.0);
        $measure->samples = Samples::of($measure->low, $count, $standard->rays->cageLength);
        $measure->shoot($own->high());
        $measure->shootOthers($others);
        $near = $own->lowBounds()?->grown($measure->d);
        $high = [];
        foreach ($others as $other) {
            if ($near !== null && $other->hasHigh() && $other->highBounds()?->meets($near) === true) {
                $high[] = $other->high();
            }
        }

        return new RayField($measure->low, $own->high(), $measure->samples, $measure->d, $measure->start, $measure->heights, $measure->kinds, $high, $measure->seen(...));
    }

    /**
     * Only the bleed, at the reach of an earlier measure: for sets that have moved. What is seen is seen on the assembled low poly.
     *
     * @param  list<SetSurfaces>  $others
     * @return list<Bleed>
     */
    public static function bleedOnly(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, SetClearance $before): array
    {
        $measure = new self($standard->rays);
        $measure->low = $own->low();
        $measure->d = $before->d;
        $measure->samples = Samples::of($measure->low, $before->samples, $standard->rays->cageLength);
        $measure->visibility = new Visibility($assembled);
        $reach = $before->inUse();
        $near = $own->lowBounds()?->grown(max($reach->out, $reach->in));
        $others = array_values(array_filter($others, static fn (SetSurfaces $other): bool => $near !== null && $other->highBounds()?->meets($near) === true));
        if ($others === []) {
            return [];
        }
        $measure->shoot($own->high());

        return $measure->bleeds($own, $others, $reach);
    }

    /**
     * Which of some fixed places on a set's low poly are seen: where two asset's answers are the same, what hides the set is.
     *
     * @return string one character a place
     */
    public static function seenFrom(SetSurfaces $own, TriangleTree $assembled, bool $allSeen): string
    {
        if ($allSeen) {
            return 'all';
        }
        $low = $own->low();
        $samples = Samples::of($low, self::SEEN_PLACES, true);
        $visibility = new Visibility($assembled);
        $step = max(1, intdiv($samples->count(), self::SEEN_PLACES));
        $out = '';
        for ($i = 0, $count = $samples->count(); $i < $count; $i += $step) {
            $f = 3 * $samples->triangle[$i];
            $out .= $visibility->seen($samples->px[$i], $samples->py[$i], $samples->pz[$i], $low->normals[$f], $low->normals[$f + 1], $low->normals[$f + 2]) ? '1' : '0';
        }

        return $out;
    }

    /**
     * All low parts of an asset as one tree, for what is seen.
     *
     * @param  list<SetSurfaces>  $sets
     */
    public static function assembled(array $sets): TriangleTree
    {
        $positions = $triangles = [];
        foreach ($sets as $set) {
            foreach ($set->lowMeshes() as $mesh) {
                $base = intdiv(count($positions), 3);
                $positions = [...$positions, ...$mesh->positions];
                foreach ($mesh->triangles as $v) {
                    $triangles[] = $base + $v;
                }
            }
        }

        return TriangleTree::of($positions, $triangles);
    }

    /**
     * @param  list<SetSurfaces>  $others
     */
    private function run(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, int $count): SetClearance
    {
        $this->low = $own->low();
        $this->d = max(1e-30, $own->lowBounds()?->diagonal() ?? 0.0);
        $this->samples = Samples::of($this->low, $count, $this->rays->cageLength);
        $this->visibility = new Visibility($assembled);
        $this->shoot($own->high());
        $this->seenShare = $this->estimateSeen();
        $points = new NeededReach($this->low, $own->high(), $this->d, $this->rays->cageLength);
        [$neededIn, $deepest, $from, $highest] = $this->depths($points);
        $needed = new Reach($points->out($from), $neededIn);
        if (! $this->rays->setsKeptApart) {
            $this->shootOthers($others);
        }
        $wrongSamples = [];
        $firstWrong = ['out' => $this->firstWrongOut($needed->in, $wrongSamples), 'in' => $this->firstWrongIn($needed->out)];
        $recommended = new Reach($this->recommend($needed->out, $firstWrong['out']), $this->recommend($needed->in, $firstWrong['in']));
        $set = $standard->reachOf($own->name, $this->d, $recommended);
        $reach = $set ?? $recommended;
        $wrong = [];
        foreach ($wrongSamples as [$from, $i, $t]) {
            if ($firstWrong['out'] !== null && $from <= max(1.02 * $firstWrong['out'], $reach->out)) {
                $wrong[] = [$i, 0.0, $t];
            }
        }
        [$missShare, $misses] = $this->misses($reach);
        [$shortShare, $short] = $this->short($reach);
        $bleeds = $this->bleeds($own, $others, $reach);
        $texels = $this->samples->byUv ? $this->samples->uvArea * $standard->mapSize ** 2 : 0.0;
        $top = min($this->d, max(2 * $needed->out, 1.6 * $reach->out, 1.3 * ($firstWrong['out'] ?? 0.0), 0.02 * $this->d));
        $details = (new DetailsMeasure($this->low, $own->high(), $this->samples, $this->start, $this->heights, $this->kinds, $this->faces, $this->seen(...), $this->seenShare, $reach, $this->d, $texels, $top))->details();

        return new SetClearance(
            $own->name, $this->d, $this->samples->count(), $needed, $firstWrong, $recommended, $set,
            $missShare, $this->where($misses), $shortShare, $points->at ?? $highest, $deepest, $bleeds, $points->overhang,
            $texels,
            $this->coincides($own->high()),
            ['miss' => $this->segments($misses), 'wrong' => $this->segments($wrong), 'short' => $this->segments($short)], [], $details,
        );
    }

    /** Meets every sample's line with the set's own high poly and says of each hit whether it belongs. */
    private function shoot(HighSurface $high): void
    {
        $s = $this->samples;
        $cast = new SegmentCast($high->tree());
        $belonging = new Belonging($this->low, $this->d);
        $facing = $this->rays->backFaces ? 0 : 1;
        $d = $this->d;
        $p = $high->positions;
        $triangles = $high->triangles;
        $start = [];
        $heights = [];
        $kinds = [];
        $faces = [];
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $start[] = count($heights);
            $px = $s->px[$i];
            $py = $s->py[$i];
            $pz = $s->pz[$i];
            $nx = $s->nx[$i];
            $ny = $s->ny[$i];
            $nz = $s->nz[$i];
            $hits = $cast->all($px, $py, $pz, $nx, $ny, $nz, -$d, $d, $facing);
            if ($hits === 0) {
                continue;
            }
            $order = $cast->t;
            $numbers = $cast->triangle;
            if ($hits > 1) {
                array_multisort($order, SORT_DESC, $numbers);
            }
            for ($h = 0; $h < $hits; $h++) {
                $t = $order[$h];
                $k = 3 * $numbers[$h];
                $a = 3 * $triangles[$k];
                $b = 3 * $triangles[$k + 1];
                $c = 3 * $triangles[$k + 2];
                $ux = $p[$b] - $p[$a];
                $uy = $p[$b + 1] - $p[$a + 1];
                $uz = $p[$b + 2] - $p[$a + 2];
                $vx = $p[$c] - $p[$a];
                $vy = $p[$c + 1] - $p[$a + 1];
                $vz = $p[$c + 2] - $p[$a + 2];
                $mx = $uy * $vz - $uz * $vy;
                $my = $uz * $vx - $ux * $vz;
                $mz = $ux * $vy - $uy * $vx;
                $m = sqrt($mx * $mx + $my * $my + $mz * $mz);
                $m = $m > 0.0 ? 1.0 / $m : 0.0;
                $heights[] = $t;
                $faces[] = $numbers[$h];
                $kinds[] = $belonging->holds($s->triangle[$i], $px, $py, $pz, $px + $t * $nx, $py + $t * $ny, $pz + $t * $nz, $mx * $m, $my * $m, $mz * $m, $mx * $nx + $my * $ny + $mz * $nz > 0.0) ? 1 : 0;
            }
        }
        $start[] = count($heights);
        $this->start = $start;
        $this->heights = $heights;
        $this->kinds = $kinds;
        $this->faces = $faces;
    }

    /**
     * Where sets are not kept apart, the others' high poly stands in the way at any reach: its hits join the lists.
     *
     * @param  list<SetSurfaces>  $others
     */
    private function shootOthers(array $others): void
    {
        $s = $this->samples;
        $near = $this->low->tree()->bounds()?->grown($this->d);
        $casts = [];
        foreach ($others as $other) {
            if ($near !== null && $other->hasHigh() && $other->highBounds()?->meets($near) === true) {
                $casts[] = new SegmentCast($other->high()->tree());
            }
        }
        if ($casts === []) {
            return;
        }
        $facing = $this->rays->backFaces ? 0 : 1;
        $start = $heights = $kinds = $faces = [];
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $start[] = count($heights);
            $foreign = [];
            foreach ($casts as $cast) {
                if ($cast->all($s->px[$i], $s->py[$i], $s->pz[$i], $s->nx[$i], $s->ny[$i], $s->nz[$i], -$this->d, $this->d, $facing) > 0) {
                    foreach ($cast->t as $t) {
                        $foreign[] = [$t, -1, -1];
                    }
                }
            }
            if ($foreign === []) {
                for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                    $heights[] = $this->heights[$h];
                    $kinds[] = $this->kinds[$h];
                    $faces[] = $this->faces[$h];
                }

                continue;
            }
            $all = $foreign;
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                $all[] = [$this->heights[$h], $this->kinds[$h], $this->faces[$h]];
            }
            // At equal height the set's own counts first.
            usort($all, static fn (array $a, array $b): int => [$b[0], $b[1]] <=> [$a[0], $a[1]]);
            foreach ($all as [$t, $kind, $face]) {
                $heights[] = $t;
                $kinds[] = $kind;
                $faces[] = $face;
            }
        }
        $start[] = count($heights);
        $this->start = $start;
        $this->heights = $heights;
        $this->kinds = $kinds;
        $this->faces = $faces;
    }

    private function seen(int $i): bool
    {
        if ($this->allSeen) {
            return true;
        }
        if (! isset($this->seen[$i])) {
            $f = 3 * $this->samples->triangle[$i];
            $n = $this->low->normals;
            $this->seen[$i] = $this->visibility->seen($this->samples->px[$i], $this->samples->py[$i], $this->samples->pz[$i], $n[$f], $n[$f + 1], $n[$f + 2]);
        }

        return $this->seen[$i];
    }

    private function estimateSeen(): float
    {
        $count = $this->samples->count();
        $stride = max(1, intdiv($count, self::SEEN_SAMPLES));
        $all = $seen = 0.0;
        for ($i = 0; $i < $count; $i += $stride) {
            $weight = $this->samples->weight[$i];
            $all += $weight;
            if ($this->seen($i)) {
                $seen += $weight;
            }
        }

        return $all > 0.0 ? $seen / $all : 0.0;
    }

    /**
     * @return array{float, array{float, float, float}|null, float, array{float, float, float}|null} deepest own surface, where; highest own surface met, where
     */
    private function depths(NeededReach $points): array
    {
        $in = $out = 0.0;
        $deepest = $highest = null;
        // Less is rounding: where high and low are the same, every sample would have such a height.
        $least = 1e-9 * $this->d;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                if ($this->kinds[$h] !== 1) {
                    continue;
                }
                $t = $this->heights[$h];
                if (-$t > $in) {
                    $in = -$t;
                    $deepest = $this->place($i, $t);
                }
                if ($t > $out + $least && $this->standsFree($i, $h)) {
                    // What stands over another place of the low poly is needed from there, not from here.
                    $height = $points->heightOf($this->place($i, $t), $t, $this->samples->triangle[$i]);
                    if ($height > $out) {
                        $out = $height;
                        $highest = $this->place($i, $t);
                    }
                }
                break;
            }
        }

        return [$in, $deepest, $out, $highest];
    }

    /** Whether nothing of the set's own stands over a hit up to twice its height. */
    private function standsFree(int $i, int $hit): bool
    {
        return $hit === $this->start[$i] || $this->heights[$hit - 1] > 2 * $this->heights[$hit];
    }

    /**
     * @param  list<array{float, int, float}>  $wrongSamples  filled with what goes wrong: from which reach, sample, height
     */
    private function firstWrongOut(float $neededIn, array &$wrongSamples): ?float
    {
        $events = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $above = $this->d;
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                $t = $this->heights[$h];
                if ($t < -$neededIn) {
                    break;
                }
                if ($this->kinds[$h] < 1 && $above > 0.0 && $this->seen($i)) {
                    $events[] = [max(0.0, $t), $this->samples->weight[$i]];
                    $events[] = [$above, -$this->samples->weight[$i]];
                    $wrongSamples[] = [max(0.0, $t), $i, $t];
                }
                $above = $t;
            }
        }

        return $this->firstOver($events);
    }

    private function firstWrongIn(float $neededOut): ?float
    {
        $events = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                $t = $this->heights[$h];
                if ($t > $neededOut) {
                    continue;
                }
                if ($this->kinds[$h] < 1 && $this->seen($i)) {
                    $events[] = [max(0.0, -$t), $this->samples->weight[$i]];
                }
                break;
            }
        }

        return $this->firstOver($events);
    }

    /**
     * The least reach at which the summed weight is over the share that may go wrong.
     *
     * @param  list<array{float, float}>  $events  [reach, change]
     */
    private function firstOver(array $events): ?float
    {
        $limit = self::WRONG_SHARE * $this->seenShare;
        // At one reach what begins counts before what ends.
        usort($events, static fn (array $a, array $b): int => [$a[0], -$a[1]] <=> [$b[0], -$b[1]]);
        $sum = 0.0;
        foreach ($events as [$reach, $change]) {
            $sum += $change;
            if ($sum > $limit) {
                return $reach;
            }
        }

        return null;
    }

    private function recommend(float $needed, ?float $wrong): float
    {
        $least = $needed + 0.001 * $this->d;
        if ($wrong === null) {
            return max($least, 1.25 * $needed);
        }
        $reach = max($least, min(1.25 * $needed, ($needed + $wrong) / 2));

        return $needed < $wrong ? min($reach, max($needed, 0.999 * $wrong)) : $reach;
    }

    /**
     * @return array{float, list<array{int, float, float}>} share; sample, where its ray begins and ends
     */
    private function misses(Reach $reach): array
    {
        $share = 0.0;
        $rays = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $met = false;
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                // Other sets' hits are in the list only where sets are not kept apart; then they are no miss, but bleed.
                if ($this->heights[$h] <= $reach->out && $this->heights[$h] >= -$reach->in) {
                    $met = true;
                    break;
                }
            }
            if (! $met) {
                $share += $this->samples->weight[$i];
                $rays[] = [$i, $reach->out, -$reach->in];
            }
        }

        return [min(1.0, $share), $rays];
    }

    /**
     * @return array{float, list<array{int, float, float}>} share; sample, the low surface, what lies beyond the reach
     */
    private function short(Reach $reach): array
    {
        $share = 0.0;
        $rays = [];
        $slack = 1e-9 * $this->d;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                if ($this->kinds[$h] === 1) {
                    $t = $this->heights[$h];
                    if ($t > $reach->out + $slack || $t < -$reach->in - $slack) {
                        $share += $this->samples->weight[$i];
                        $rays[] = [$i, 0.0, $t];
                    }
                    break;
                }
            }
        }

        return [$share, $rays];
    }

    /**
     * @param  list<SetSurfaces>  $others
     * @return list<Bleed>
     */
    private function bleeds(SetSurfaces $own, array $others, Reach $reach): array
    {
        $s = $this->samples;
        $near = $own->lowBounds()?->grown(max($reach->out, $reach->in));
        $casts = [];
        foreach ($others as $other) {
            if ($near !== null && $other->hasHigh() && $other->highBounds()?->meets($near) === true) {
                $casts[] = [$other, new SegmentCast($other->high()->tree())];
            }
        }
        if ($casts === []) {
            return [];
        }
        $facing = $this->rays->backFaces ? 0 : 1;
        $shares = $unseen = array_fill(0, count($casts), 0.0);
        $where = array_fill(0, count($casts), []);
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $first = -$reach->in;
            $any = false;
            for ($h = $this->start[$i]; $h < $this->start[$i + 1]; $h++) {
                if ($this->kinds[$h] >= 0 && $this->heights[$h] <= $reach->out) {
                    $any = $this->heights[$h] >= $first;
                    $first = max($first, $this->heights[$h]);
                    break;
                }
            }
            $taker = -1;
            foreach ($casts as $c => [$other, $cast]) {
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
            if ($this->seen($i)) {
                $shares[$taker] += $s->weight[$i];
                if (count($where[$taker]) < 8) {
                    $where[$taker][] = $this->place($i, $first);
                }
            } else {
                $unseen[$taker] += $s->weight[$i];
            }
        }
        $out = [];
        foreach ($casts as $c => [$other, $cast]) {
            if ($shares[$c] > 0.0 || $unseen[$c] > 0.0) {
                $out[] = new Bleed($other->name, $this->seenShare > 0.0 ? min(1.0, $shares[$c] / $this->seenShare) : 0.0, min(1.0, $unseen[$c]), $where[$c]);
            }
        }
        usort($out, static fn (Bleed $a, Bleed $b): int => [$b->share, $b->unseenShare, $a->other] <=> [$a->share, $a->unseenShare, $b->other]);

        return $out;
    }

    /** Whether both surfaces lie within 1e-4 d of each other, both ways. */
    private function coincides(HighSurface $high): bool
    {
        $within = 1e-4 * $this->d;
        $a = $this->low->tree()->bounds();
        $b = $high->tree()->bounds();
        if ($a === null || $b === null) {
            return false;
        }
        for ($k = 0; $k < 3; $k++) {
            if (abs($a->min[$k] - $b->min[$k]) > $within || abs($a->max[$k] - $b->max[$k]) > $within) {
                return false;
            }
        }
        $toHigh = new NearestPoint($high->tree());
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            if (! $toHigh->anyWithin($this->samples->px[$i], $this->samples->py[$i], $this->samples->pz[$i], $within)) {
                return false;
            }
        }
        $toLow = new NearestPoint($this->low->tree());
        $p = $high->positions;
        foreach (array_chunk($high->triangles, 3) as [$a, $b, $c]) {
            foreach ([[$p[3 * $a], $p[3 * $a + 1], $p[3 * $a + 2]], [
                ($p[3 * $a] + $p[3 * $b] + $p[3 * $c]) / 3,
                ($p[3 * $a + 1] + $p[3 * $b + 1] + $p[3 * $c + 1]) / 3,
                ($p[3 * $a + 2] + $p[3 * $b + 2] + $p[3 * $c + 2]) / 3,
            ]] as [$x, $y, $z]) {
                if (! $toLow->anyWithin($x, $y, $z, $within)) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * @return array{float, float, float}
     */
    private function place(int $i, float $t): array
    {
        $s = $this->samples;

        return [$s->px[$i] + $t * $s->nx[$i], $s->py[$i] + $t * $s->ny[$i], $s->pz[$i] + $t * $s->nz[$i]];
    }

    /**
     * @param  list<array{int, float, float}>  $rays
     * @return list<array{float, float, float}> up to eight places on the low surface, spread over all
     */
    private function where(array $rays): array
    {
        return array_map(fn (array $ray): array => $this->place($ray[0], 0.0), self::spread($rays, 8));
    }

    /**
     * @param  list<array{int, float, float}>  $rays  sample, where it begins and ends
     * @return list<float> two points a ray, for the stand
     */
    private function segments(array $rays): array
    {
        $out = [];
        foreach (self::spread($rays, self::EVIDENCE) as [$i, $from, $to]) {
            foreach ([...$this->place($i, $from), ...$this->place($i, $to)] as $value) {
                $out[] = (float) sprintf('%.7g', $value);
            }
        }

        return $out;
    }

    /**
     * @param  list<array{int, float, float}>  $rays
     * @return list<array{int, float, float}> so many at most, spread over all
     */
    private static function spread(array $rays, int $most): array
    {
        $count = count($rays);
        if ($count <= $most) {
            return $rays;
        }
        $out = [];
        for ($k = 0; $k < $most; $k++) {
            $out[] = $rays[intdiv($k * $count, $most)];
        }

        return $out;
    }
}
