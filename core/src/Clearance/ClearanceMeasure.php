<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Place\Facing;
use Anvil\Place\FacingMask;
use Anvil\Rays\HighShells;
use Anvil\Rays\HighSurface;
use Anvil\Rays\Hits;
use Anvil\Rays\LowSurface;
use Anvil\Rays\RayField;
use Anvil\Rays\Samples;
use Anvil\Rays\SeenSamples;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Shooting;
use Anvil\Rays\Spread;
use Anvil\Rays\Visibility;
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

    private const EVIDENCE = 160;

    private Samples $samples;

    private Hits $hits;

    private float $d;

    private SeenSamples $seen;

    private float $seenShare = 1.0;

    /** The share that fewer samples told already. */
    private ?float $knownShare = null;

    private LowSurface $low;

    /** @var array<int, true> numbers of low parts that are cards */
    private array $cards = [];

    /** Shares of the samples that were shot: on low triangles that face the wrong way, and at high ones that do. */
    private float $lowMasked = 0.0;

    private float $highMasked = 0.0;

    /** @var list<array{part: int, share: float, samples: float, where: list<array{float, float, float}>}> low parts on which rays run along the surface */
    private array $grazing = [];

    /**
     * @param  Visibility|null  $visibility  null: all of the set is seen
     */
    private function __construct(private readonly RaySettings $rays, private readonly ?Visibility $visibility)
    {
    }

    /**
     * @param  SetSurfaces  $own  low and high, neither empty
     * @param  list<SetSurfaces>  $others  the other sets that hold a high poly
     * @param  TriangleTree  $assembled  all low parts of the asset
     * @param  int  $count  samples of this set; more are taken where they leave a share in doubt
     * @param  bool  $allSeen  all its low area counts as seen: what covers it comes off in use
     * @param  array<int, true>  $cards  numbers of its low parts that are cards
     */
    public static function of(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, int $count, bool $allSeen = false, array $cards = []): SetClearance
    {
        $facing = Facing::of($own);
        $most = max($count, min(self::MOST_SAMPLES, self::MOST_TIMES * $count));
        while ($count < self::CLEAR && 2 * $count <= $most) {
            $count *= 2;
        }
        $seenShare = null;
        for (; ;) {
            $measure = new self($standard->rays, $allSeen ? null : new Visibility($assembled));
            $measure->knownShare = $seenShare;
            $measure->cards = $cards;
            [$clearance, $times] = $measure->run($own, $others, $standard, $count, $facing, intdiv($most, $count));
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
        $measure = new self($standard->rays, $assembled === null ? null : new Visibility($assembled));
        $measure->shoot($own, $count, $others);
        $near = $own->lowBounds()?->grown($measure->d);
        $high = [];
        foreach ($others as $other) {
            if ($near !== null && $other->hasHigh() && $other->highBounds()?->meets($near) === true) {
                $high[] = $other->high();
            }
        }

        return new RayField($measure->low, $own->high(), $measure->samples, $measure->d, $measure->hits->start, $measure->hits->heights, array_values($measure->hits->kinds), $high, $measure->seen->has(...));
    }

    /**
     * Only the bleed, at the reach of an earlier measure: for sets that have moved. What is seen is seen on the assembled low poly.
     *
     * @param  list<SetSurfaces>  $others
     * @return list<Bleed>
     */
    public static function bleedOnly(SetSurfaces $own, array $others, TriangleTree $assembled, Standard $standard, SetClearance $before): array
    {
        $measure = new self($standard->rays, new Visibility($assembled));
        $reach = $before->inUse();
        $near = $own->lowBounds()?->grown(max($reach->out, $reach->in));
        $others = array_values(array_filter($others, static fn (SetSurfaces $other): bool => $near !== null && $other->highBounds()?->meets($near) === true));
        if ($others === []) {
            return [];
        }
        $measure->shoot($own, $before->samples);

        return Bleeds::of($own, $others, $reach, $measure->samples, $measure->hits, $standard->rays, $measure->seen, $measure->seenShare);
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
        if ($facing !== null) {
            [$samples, $this->lowMasked, $this->highMasked] = $this->unmasked($samples, $own->high(), $facing);
        }
        $samples = $this->steep($samples, $facing !== null);
        $this->samples = $samples;
        $this->seen = new SeenSamples($this->low, $samples, $this->visibility);
        $this->hits = Shooting::own($this->low, $own->high(), $samples, $this->rays, $this->d);
        if ($others !== []) {
            $this->hits = Shooting::withOthers($this->hits, $this->low, $samples, $others, $this->rays, $this->d);
        }
    }

    /** The samples whose rays do not run along their own face; what the others meet is chance. */
    private function steep(Samples $samples, bool $isTold): Samples
    {
        $grazing = GrazingRays::of($this->low, $samples);
        if ($grazing === []) {
            return $samples;
        }
        if ($isTold) {
            $this->grazing = GrazingRays::byPart($this->low, $samples, $grazing, (new SeenSamples($this->low, $samples, $this->visibility))->has(...));
        }
        $grazes = array_fill_keys($grazing, true);

        return $samples->only(array_values(array_filter(range(0, $samples->count() - 1), static fn (int $i): bool => ! isset($grazes[$i]))));
    }

    /**
     * @return array{Samples, float, float} those that nothing makes meaningless; shares left out for low and for high triangles that face the wrong way
     */
    private function unmasked(Samples $samples, HighSurface $high, Facing $facing): array
    {
        $ofLow = $ofHigh = 0.0;
        if ($facing->isClear()) {
            return [$samples, $ofLow, $ofHigh];
        }
        $kept = [];
        $mask = new FacingMask($facing, $high, $this->d);
        for ($i = 0, $count = $samples->count(); $i < $count; $i++) {
            $by = $mask->of($samples->triangle[$i], $samples->px[$i], $samples->py[$i], $samples->pz[$i], $samples->nx[$i], $samples->ny[$i], $samples->nz[$i]);
            if ($by === FacingMask::BY_LOW) {
                $ofLow += $samples->weight[$i];
            } elseif ($by === FacingMask::BY_HIGH) {
                $ofHigh += $samples->weight[$i];
            } else {
                $kept[] = $i;
            }
        }

        return [$samples->only($kept), $ofLow, $ofHigh];
    }

    /**
     * @param  list<SetSurfaces>  $others
     * @param  int  $most  times as many samples may be asked for
     * @return array{SetClearance|null, int} null where shares are in doubt, and how many times as many samples will end that
     */
    private function run(SetSurfaces $own, array $others, Standard $standard, int $count, Facing $facing, int $most): array
    {
        $this->shoot($own, $count, $this->rays->setsKeptApart ? [] : $others, $facing);
        $high = $own->high();
        if ($this->samples->count() === 0) {
            return [$this->nothing($own->name, $high, $facing), 1];
        }
        $this->seenShare = $this->knownShare ?? $this->seen->share();
        $depths = new SampledDepths($this->samples, $this->hits, $this->d, $this->seen, $this->seenShare);
        $points = new NeededReach($this->low, $high, $this->d, $this->rays->cageLength);
        [$sampledIn, $deepest, $from, $highest] = $depths->deepest($points);
        $neededIn = $points->in($sampledIn, $from);
        $needed = new Reach($depths->enclosing($points->out($from), $neededIn), $neededIn);
        $seen = $this->seen->has(...);
        $out = WrongReach::outward($this->hits, $this->samples, $needed, $this->d, $seen, $this->seenShare);
        $in = WrongReach::inward($this->hits, $this->samples, $needed, $this->d, $seen, $this->seenShare);
        $recommended = new Reach($this->recommend($needed->out, $out->first), $this->recommend($needed->in, $in->first));
        $shells = HighShells::of($high);
        $free = Floaters::free($this->low, $high, $shells, $this->samples, $this->hits, $this->d, $this->cards);
        $best = null;
        if (($out->first !== null && $out->first <= $needed->out) || ($in->first !== null && $in->first <= $needed->in)) {
            $best = BestReach::of($this->low, $this->samples, $this->hits, $this->d, $seen, $this->seenShare, $free);
            // Of sets that are baked together, a reach that goes wrong on others is told of them (sets-bleed), and mended by moving these.
            $recommended = $this->rays->setsKeptApart ? $best->reach : $recommended;
        }
        $set = $standard->reachOf($own->name, $this->d, $recommended);
        $reach = $set ?? $recommended;
        $details = new DetailsMeasure($this->low, $high, $this->samples, $this->hits, $seen, $this->seenShare, $reach, $this->d);
        $misses = Misses::of($this->low, $this->samples, $this->hits, $reach, $seen, $this->seenShare, $free);
        [$shortShare, $short] = $depths->short($reach);
        $bleeds = $this->rays->setsKeptApart ? null : Bleeds::of($own, $others, $reach, $this->samples, $this->hits, $this->rays, $this->seen, $this->seenShare);
        $gaps = $details->gaps();
        $effective = $this->samples->effective() * $this->seenShare;
        $ofMisses = [$standard->limitInForce('ray-miss'), $standard->cautionInForce('ray-miss')];
        $ofMargin = $standard->limitInForce('low-margin');
        $ofWrong = [$standard->limitInForce('span-closed'), $standard->cautionInForce('span-closed')];
        $doubts = [[array_sum($gaps['gap']), [$standard->limitInForce('surface-gap')]]];
        // What others stand in the way of has to be shot again with them.
        $alone = $this->rays->setsKeptApart;
        if (! $alone) {
            array_push($doubts, [$misses->share, $ofMisses], [array_sum($misses->marginShares), [$ofMargin]]);
        }
        $isByItself = $best !== null && $alone && Resampling::times([[$best->share, [$ofWrong[1]]]], $effective, $most) === 1;
        if ($best !== null && ! $isByItself) {
            $doubts[] = [$best->share, $ofWrong];
        }
        if ($set !== null) {
            $doubts[] = [$shortShare, [WrongReach::SHARE]];
        }
        foreach ($bleeds ?? [] as $bleed) {
            $doubts[] = [$bleed->share, [$standard->limitInForce('sets-bleed')]];
        }
        $times = Resampling::times($doubts, $effective, $most);
        if ($times > 1) {
            return [null, $times];
        }
        $more = new Resampling($this->low, $high, $this->rays, $this->d, $this->visibility, fn (Samples $samples): Samples => $this->steep($this->unmasked($samples, $high, $facing)[0], false), $this->seenShare, $count, $effective, $most, $free);
        [$told, $tellingMisses] = $alone ? $more->misses($misses, $reach, $ofMisses, $ofMargin) : [$misses, $effective];
        [$bestShare, $tellingBest] = $isByItself ? $more->bad($best->share, $best->clipped, $best->reach, $ofWrong[0]) : [$best->share ?? 0.0, $effective];
        $bleeds ??= Bleeds::of($own, $others, $reach, $this->samples, $this->hits, $this->rays, $this->seen, $this->seenShare);
        [$wrongShare, $wrongRays] = $details->wrong();
        $texels = $this->samples->byUv ? $this->samples->uvArea * $standard->mapSize ** 2 : 0.0;
        $lowArea = array_sum($this->low->areas);
        $density = $lowArea > 0.0 ? sqrt($texels / $lowArea) : 0.0;
        $top = min($this->d, max(2 * $needed->out, 1.6 * $reach->out, 1.3 * ($out->first ?? 0.0), 0.02 * $this->d));
        $wrong = array_map(static fn (array $ray): array => [$ray[0], 0.0, $ray[1]], [...$wrongRays, ...$out->rays]);

        return [new SetClearance(
            $own->name, $this->d, $this->samples->count(), $needed, ['out' => $out->first, 'in' => $in->first], $recommended, $set,
            $told->share, $this->where($misses->rays), $shortShare, $points->at ?? $highest, $points->deepest ?? $deepest, $bleeds, $points->overhang,
            $texels,
            SameSurface::holds($this->low, $high, $this->samples, $this->d),
            ['miss' => $this->segments(array_map(static fn (int $i): array => [$i, $reach->out, -$reach->in], $misses->rays)), 'wrong' => $this->segments($wrong), 'short' => $this->segments($short)],
            new SetDetails(
                $wrongShare, Spread::of(array_map(fn (array $ray): array => $this->samples->at($ray[0], $ray[1]), $wrongRays)), $gaps, $details->buried(), $details->unmet($shells, $needed),
                Floaters::of($this->low, $high, $shells, $this->samples, $this->hits, $reach, $this->d, $density, $misses->rays, $misses->scale / max(1e-12, $this->seenShare), $this->cards),
                Leans::of($this->low, $high, $shells, $this->samples, $this->hits, $reach, $this->d, $density), $lowArea, $details->curve($top),
                effective: $effective, bestShare: $best === null ? null : $bestShare, best: $best?->reach,
                unseenMisses: $told->unseenShare, missesByPart: $told->byPart, ending: $told->ending, margins: $told->margins, tellingMisses: $tellingMisses, tellingBest: $tellingBest,
                faced: ['low' => $facing->low, 'high' => $facing->high, 'lowShare' => $this->lowMasked, 'highShare' => $this->highMasked],
                grazing: $this->grazing,
            ),
        ), 1];
    }

    /** No area, or all of it in faces that are turned the wrong way. */
    private function nothing(string $name, HighSurface $high, Facing $facing): SetClearance
    {
        $none = new Reach(0.0, 0.0);

        return new SetClearance(
            $name, $this->d, 0, $none, ['out' => null, 'in' => null], $none, null, 0.0, [], 0.0, null, null, [], 0.0, 0.0, SameSurface::holds($this->low, $high, $this->samples, $this->d), [],
            new SetDetails(faced: ['low' => $facing->low, 'high' => $facing->high, 'lowShare' => $this->lowMasked, 'highShare' => $this->highMasked], grazing: $this->grazing),
        );
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
