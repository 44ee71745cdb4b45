<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Geometry\Bounds;
use Anvil\Place\Facing;
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
 * Samples are doubled until the shares that the checks hold against limits are clear of them (METHODS, "Samples").
 */
final class ClearanceMeasure
{
    /** From so many samples on, no miss at all clears the least limit that there is: fewer would be doubled at once. */
    private const CLEAR = 7680;

    /** Times the samples that a set is given. */
    private const MOST_TIMES = 16;

    private const MOST_SAMPLES = 262_144;

    /** The share of seen area is estimated on about so many samples a set; what goes wrong is looked at sample by sample. */
    private const SEEN_SAMPLES = 768;

    private const LEAST_SEEN_SAMPLES = 96;

    /** Of so many low triangles the tree that hides them is built with care: many lines cross all of it. */
    private const FINE = 200_000;

    private const EVIDENCE = 160;

    private const SEEN_PLACES = 512;

    private Samples $samples;

    private Hits $hits;

    private float $d;

    /** @var array<int, bool> */
    private array $seen = [];

    private float $seenShare = 1.0;

    /** The share that fewer samples told already. */
    private ?float $knownShare = null;

    private bool $allSeen = false;

    private Visibility $visibility;

    private LowSurface $low;

    /** Shares of the samples that were shot: on low triangles that face the wrong way, and at high ones that do. */
    private float $lowMasked = 0.0;

    private float $highMasked = 0.0;

    private function __construct(private readonly RaySettings $rays)
    {
    }

    /**
     * @param  SetSurfaces  $own  low and high, neither empty
     * @param  list<SetSurfaces>  $others  the other sets that hold a high poly
     * @param  TriangleTree  $assembled  all low parts of the asset
     * @param  int  $count  samples of this set; more are taken where they leave a share in doubt
     * @param  bool  $allSeen  all its low area counts as seen: what covers it comes off in use
     */
    public static function of(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, int $count, bool $allSeen = false): SetClearance
    {
        $facing = Facing::of($own);
        $most = max($count, min(self::MOST_SAMPLES, self::MOST_TIMES * $count));
        while ($count < self::CLEAR && 2 * $count <= $most) {
            $count *= 2;
        }
        $seenShare = null;
        for (; ;) {
            $measure = new self($standard->rays);
            $measure->allSeen = $allSeen;
            $measure->knownShare = $seenShare;
            [$clearance, $times] = $measure->run($own, $others, $assembled, $standard, $count, $facing, intdiv($most, $count));
            if ($clearance !== null) {
                return $clearance;
            }
            $count *= $times;
            $seenShare = $measure->seenShare;
        }
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
        $measure->shoot($own, $count, $others);
        $near = $own->lowBounds()?->grown($measure->d);
        $high = [];
        foreach ($others as $other) {
            if ($near !== null && $other->hasHigh() && $other->highBounds()?->meets($near) === true) {
                $high[] = $other->high();
            }
        }

        return new RayField($measure->low, $own->high(), $measure->samples, $measure->d, $measure->hits->start, $measure->hits->heights, array_values($measure->hits->kinds), $high, $measure->seen(...));
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
        $measure->visibility = new Visibility($assembled);
        $reach = $before->inUse();
        $near = $own->lowBounds()?->grown(max($reach->out, $reach->in));
        $others = array_values(array_filter($others, static fn (SetSurfaces $other): bool => $near !== null && $other->highBounds()?->meets($near) === true));
        if ($others === []) {
            return [];
        }
        $measure->shoot($own, $before->samples);

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

        return count($triangles) <= 3 * self::FINE ? TriangleTree::fine($positions, $triangles) : TriangleTree::of($positions, $triangles);
    }

    /**
     * @param  list<SetSurfaces>  $others  that stand in the way
     * @param  Facing|null  $facing  what faces the wrong way: samples that it would make meaningless are left out
     */
    private function shoot(SetSurfaces $own, int $count, array $others = [], ?Facing $facing = null): void
    {
        $this->low = $own->low();
        $this->d = max(1e-30, $own->lowBounds()?->diagonal() ?? 0.0);
        $samples = Samples::of($this->low, $count, $this->rays->cageLength);
        if ($facing !== null && ! $facing->isClear()) {
            $samples = $this->masked($samples, $own->high(), $facing);
        }
        $this->samples = $samples;
        $this->hits = Shooting::own($this->low, $own->high(), $samples, $this->rays, $this->d);
        if ($others !== []) {
            $this->hits = Shooting::withOthers($this->hits, $this->low, $samples, $others, $this->rays, $this->d);
        }
    }

    private function masked(Samples $samples, HighSurface $high, Facing $facing): Samples
    {
        $kept = [];
        $cast = $facing->highShells === [] ? null : new SegmentCast($high->tree());
        $shells = $cast === null ? [] : $high->shells();
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            if (isset($facing->lowTriangles[$samples->triangle[$i]])) {
                $this->lowMasked += $samples->weight[$i];

                continue;
            }
            $cast?->all($samples->px[$i], $samples->py[$i], $samples->pz[$i], $samples->nx[$i], $samples->ny[$i], $samples->nz[$i], -$this->d, $this->d, 0);
            foreach ($cast->triangle ?? [] as $triangle) {
                if (isset($facing->highShells[$shells[$triangle]])) {
                    $this->highMasked += $samples->weight[$i];

                    continue 2;
                }
            }
            $kept[] = $i;
        }

        return $samples->only($kept);
    }

    /**
     * @param  list<SetSurfaces>  $others
     * @param  int  $most  times as many samples may be asked for
     * @return array{SetClearance|null, int} null where shares are in doubt, and how many times as many samples will end that
     */
    private function run(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, int $count, Facing $facing, int $most): array
    {
        $this->visibility = new Visibility($assembled);
        $this->shoot($own, $count, $this->rays->setsKeptApart ? [] : $others, $facing);
        $high = $own->high();
        if ($this->samples->count() === 0) {
            return [$this->nothing($own->name, $high, $facing), 1];
        }
        $this->seenShare = $this->knownShare ?? $this->estimateSeen();
        $points = new NeededReach($this->low, $high, $this->d, $this->rays->cageLength);
        [$sampledIn, $deepest, $from, $highest] = $this->depths($points);
        $neededIn = $points->in($sampledIn, $from);
        $needed = new Reach($this->enclosing($points->out($from), $neededIn), $neededIn);
        $out = WrongReach::outward($this->hits, $this->samples, $needed, $this->d, $this->seen(...), $this->seenShare);
        $in = WrongReach::inward($this->hits, $this->samples, $needed, $this->d, $this->seen(...), $this->seenShare);
        $recommended = new Reach($this->recommend($needed->out, $out->first), $this->recommend($needed->in, $in->first));
        $set = $standard->reachOf($own->name, $this->d, $recommended);
        $reach = $set ?? $recommended;
        $details = new DetailsMeasure($this->low, $high, $this->samples, $this->hits, $this->seen(...), $this->seenShare, $reach, $this->d);
        $misses = Misses::of($this->low, $this->samples, $this->hits, $reach, $this->seen(...), $this->seenShare);
        [$shortShare, $short] = $this->short($reach);
        $bleeds = $this->rays->setsKeptApart ? null : $this->bleeds($own, $others, $reach);
        $gaps = $details->gaps();
        $effective = $this->samples->effective() * $this->seenShare;
        $limit = static fn (string $code, float $own): float => $standard->limit($code, $own);
        $doubts = [
            [$misses->share, [$limit('ray-miss', 0.005), $standard->cautionOf('ray-miss') ?? min(0.0005, $limit('ray-miss', 0.005))]],
            [$out->bestShare, [$limit('span-closed', 0.005), $standard->cautionOf('span-closed') ?? WrongReach::SHARE]], [$in->bestShare, [$limit('span-closed', 0.005), $standard->cautionOf('span-closed') ?? WrongReach::SHARE]],
            [array_sum($gaps['gap']), [$limit('surface-gap', 0.01)]], [array_sum($misses->marginShares), [$limit('low-margin', 0.01)]],
        ];
        if ($set !== null) {
            $doubts[] = [$shortShare, [WrongReach::SHARE]];
        }
        foreach ($bleeds ?? [] as $bleed) {
            $doubts[] = [$bleed->share, [$limit('sets-bleed', 0.001)]];
        }
        $times = 1;
        foreach ($doubts as [$share, $limits]) {
            // No ray at all of so many leaves no doubt that is worth as many again.
            $times = $share > 0.0 ? max($times, Estimate::timesUntilClear($share, $effective, $limits, $most)) : $times;
        }
        if ($times > 1) {
            return [null, $times];
        }
        $bleeds ??= $this->bleeds($own, $others, $reach);
        [$wrongShare, $wrongRays] = $details->wrong();
        $texels = $this->samples->byUv ? $this->samples->uvArea * $standard->mapSize ** 2 : 0.0;
        $lowArea = array_sum($this->low->areas);
        $density = $lowArea > 0.0 ? sqrt($texels / $lowArea) : 0.0;
        $shells = HighShells::of($high);
        $top = min($this->d, max(2 * $needed->out, 1.6 * $reach->out, 1.3 * ($out->first ?? 0.0), 0.02 * $this->d));
        $wrong = array_map(static fn (array $ray): array => [$ray[0], 0.0, $ray[1]], [...$wrongRays, ...$out->rays]);

        return [new SetClearance(
            $own->name, $this->d, $this->samples->count(), $needed, ['out' => $out->first, 'in' => $in->first], $recommended, $set,
            $misses->share, $this->where($misses->rays), $shortShare, $points->at ?? $highest, $points->deepest ?? $deepest, $bleeds, $points->overhang,
            $texels,
            $this->coincides($high),
            ['miss' => $this->segments(array_map(static fn (int $i): array => [$i, $reach->out, -$reach->in], $misses->rays)), 'wrong' => $this->segments($wrong), 'short' => $this->segments($short)],
            [],
            new SetDetails(
                $wrongShare, Spread::of(array_map(fn (array $ray): array => $this->samples->at($ray[0], $ray[1]), $wrongRays)), $gaps, $details->buried(), $details->unmet($shells),
                Floaters::of($this->low, $high, $shells, $this->samples, $this->hits, $reach, $this->d, $density, $misses->rays, $misses->scale / max(1e-12, $this->seenShare)),
                Leans::of($this->low, $high, $shells, $this->samples, $this->hits, $reach, $this->d, $density), $lowArea, $details->curve($top),
                effective: $effective, bestShare: ['out' => $out->bestShare, 'in' => $in->bestShare], best: ['out' => $out->best, 'in' => $in->best],
                unseenMisses: $misses->unseenShare, missesByPart: $misses->byPart, ending: $misses->ending, margins: $misses->margins,
                faced: ['low' => $facing->low, 'high' => $facing->high, 'lowShare' => $this->lowMasked, 'highShare' => $this->highMasked],
            ),
        ), 1];
    }

    /** No area, or all of it in faces that are turned the wrong way. */
    private function nothing(string $name, HighSurface $high, Facing $facing): SetClearance
    {
        $none = new Reach(0.0, 0.0);

        return new SetClearance(
            $name, $this->d, 0, $none, ['out' => null, 'in' => null], $none, null, 0.0, [], 0.0, null, null, [], 0.0, 0.0, $this->coincides($high), [], [],
            new SetDetails(faced: ['low' => $facing->low, 'high' => $facing->high, 'lowShare' => $this->lowMasked, 'highShare' => $this->highMasked]),
        );
    }

    private function seen(int $i): bool
    {
        if ($this->allSeen) {
            return true;
        }
        $i = $this->samples->beside[$i];
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
        $stride = max(1, intdiv($count, max(self::LEAST_SEEN_SAMPLES, min(self::SEEN_SAMPLES, intdiv($count, 64)))));
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
            $h = $this->hits->own($i);
            if ($h < 0) {
                continue;
            }
            $t = $this->hits->heights[$h];
            if (-$t > $in) {
                $in = -$t;
                $deepest = $this->samples->at($i, $t);
            }
            if ($t > $out + $least && $this->standsFree($i, $h)) {
                // What stands over another place of the low poly is needed from there, not from here.
                $height = $points->heightOf($this->samples->at($i, $t), $t, $this->samples->triangle[$i]);
                if ($height > $out) {
                    $out = $height;
                    $highest = $this->samples->at($i, $t);
                }
            }
        }

        return [$in, $deepest, $out, $highest];
    }

    /**
     * The reach outward at which all but 0.05 % of the seen low area whose lines meet something that belongs meets such within the reach: a
     * concave rounding under split directions needs more than enclosing.
     */
    private function enclosing(float $out, float $in): float
    {
        $all = 0.0;
        $later = [];
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $own = $this->hits->own($i);
            if ($own < 0 || $this->hits->heights[$own] < -$in) {
                continue;
            }
            $all += $this->samples->weight[$i];
            $least = $this->hits->heights[$own];
            for ($h = $own + 1; $least > $out && $h < $this->hits->start[$i + 1] && $this->hits->heights[$h] >= -$in; $h++) {
                if ($this->hits->kind($i, $h) === 1) {
                    $least = $this->hits->heights[$h];
                }
            }
            if ($least > $out) {
                $later[] = [$least, $i];
            }
        }
        rsort($later);
        $left = WrongReach::SHARE * $all * $this->seenShare;
        foreach ($later as [$reach, $i]) {
            if ($this->seen($i)) {
                $left -= $this->samples->weight[$i];
                if ($left < 0.0) {
                    return $reach;
                }
            }
        }

        return $out;
    }

    /** Whether nothing of the set's own stands over a hit up to twice its height. */
    private function standsFree(int $i, int $hit): bool
    {
        return $hit === $this->hits->start[$i] || $this->hits->heights[$hit - 1] > 2 * $this->hits->heights[$hit];
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
     * @return array{float, list<array{int, float, float}>} share; sample, the low surface, what lies beyond the reach
     */
    private function short(Reach $reach): array
    {
        $share = 0.0;
        $rays = [];
        $slack = 1e-9 * $this->d;
        for ($i = 0, $count = $this->samples->count(); $i < $count; $i++) {
            $h = $this->hits->own($i);
            $t = $h < 0 ? 0.0 : $this->hits->heights[$h];
            if ($t > $reach->out + $slack || $t < -$reach->in - $slack) {
                $share += $this->samples->weight[$i];
                $rays[] = [$i, 0.0, $t];
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
            $box = $other->highBounds();
            if ($near !== null && $other->hasHigh() && $box?->meets($near) === true) {
                $casts[] = [$other, new SegmentCast($other->high()->tree()), $box];
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
            for ($h = $this->hits->start[$i]; $h < $this->hits->start[$i + 1]; $h++) {
                if ($this->hits->kinds[$h] >= 0 && $this->hits->heights[$h] <= $reach->out) {
                    $any = $this->hits->heights[$h] >= $first;
                    $first = max($first, $this->hits->heights[$h]);
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
            if ($this->seen($i)) {
                $shares[$taker] += $s->weight[$i];
                if (count($where[$taker]) < 8) {
                    $where[$taker][] = $this->samples->at($i, $first);
                }
            } else {
                $unseen[$taker] += $s->weight[$i];
            }
        }
        $out = [];
        foreach ($casts as $c => [$other]) {
            if ($shares[$c] > 0.0 || $unseen[$c] > 0.0) {
                $out[] = new Bleed($other->name, $this->seenShare > 0.0 ? min(1.0, $shares[$c] / $this->seenShare) : 0.0, min(1.0, $unseen[$c]), $where[$c]);
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
     * @param  list<int>  $samples
     * @return list<array{float, float, float}> up to eight places on the low surface, spread over all
     */
    private function where(array $samples): array
    {
        return array_map(fn (int $i): array => $this->samples->at($i, 0.0), Spread::of($samples));
    }

    /**
     * @param  list<array{int, float, float}>  $rays  sample, where it begins and ends
     * @return list<float> two points a ray, for the stand
     */
    private function segments(array $rays): array
    {
        $out = [];
        foreach (Spread::of($rays, self::EVIDENCE) as [$i, $from, $to]) {
            foreach ([...$this->samples->at($i, $from), ...$this->samples->at($i, $to)] as $value) {
                $out[] = (float) sprintf('%.7g', $value);
            }
        }

        return $out;
    }
}
