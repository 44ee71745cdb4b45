<?php

declare(strict_types=1);

namespace Anvil\Cage;

use Anvil\Asset\Asset;
use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\SetClearance;
use Anvil\Rays\HeightSolver;
use Anvil\Rays\LowSurface;
use Anvil\Rays\RayField;
use Anvil\Rays\SetSurfaces;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\RaySettings;

/**
 * A cage by vertex (METHODS, "Cage"): each low vertex moved along its direction so far that the high poly around it is enclosed, with
 * 10 % and a smoothing over neighbours, and less than the first wrong hit there. Vertices that weld move as one.
 */
final readonly class CageFit
{
    private const MORE = 1.1;

    /** Never less than this share of d: rays must not start on the surface that they are to meet. */
    private const LEAST = 0.001;

    /** A cage stays so far under a wrong hit. */
    private const UNDER_WRONG = 0.95;

    /** Share of the low area that may come out wrong, or lie outside, for straight rays. */
    private const MAY_COST = 0.0005;

    /** Up to so many high vertices are looked at one by one; of more, every so many-th. */
    private const VERTICES = 200_000;

    /**
     * @param  list<float>  $positions  of the cage, side by side with the set's low parts one after the other
     * @param  int  $vertices  welded ones
     * @param  int  $more  vertices that needed more than the single distance
     * @param  int  $less  vertices that needed less
     * @param  CageRays  $rays  what is left when it is shot from
     * @param  array{turned: int, leanBefore: float, leanAfter: float, wrongBefore: float, outsideBefore: float}|null  $straight  of one whose rays were straightened: vertices that turned, how far details move sideways before and after (lengths), and what was left before
     */
    private function __construct(public string $set, public array $positions, public int $vertices, public int $more, public int $less, public CageRays $rays, public float $d, public ?array $straight = null)
    {
    }

    /**
     * Of every set whose rays were shot.
     *
     * @param  array<string, SetClearance>  $clearances
     * @param  bool  $straight  sets whose details lean get one whose rays go straight along the faces with details, where it costs nothing else
     * @return array<string, self> by set
     */
    public static function ofAll(Asset $asset, array $clearances, bool $straight = false): array
    {
        $surfaces = [];
        $assembled = null;
        $allSeen = [];
        if (! $asset->standard->rays->setsKeptApart) {
            foreach ($asset->sets as $set) {
                $surfaces[$set->name] = SetSurfaces::of($set, true);
            }
            [$assembled] = AssetClearance::assembled($asset, $surfaces);
            $allSeen = AssetClearance::allSeen($asset);
        }
        $fits = [];
        foreach ($asset->sets as $set) {
            $measured = $clearances[$set->name] ?? null;
            if ($measured === null) {
                continue;
            }
            $others = array_values(array_filter($surfaces, static fn (SetSurfaces $other): bool => $other->name !== $set->name));
            $fits[$set->name] = self::of($asset, $set, $measured, $others, isset($allSeen[$set->name]) ? null : $assembled, $straight && $measured->details->leans !== []);
        }

        return $fits;
    }

    /**
     * @param  list<SetSurfaces>  $others  that are baked together with it
     * @param  TriangleTree|null  $assembled  what hides places of it from sight; others count only where it is seen
     */
    private static function of(Asset $asset, BakeSet $set, SetClearance $measured, array $others, ?TriangleTree $assembled, bool $straight): self
    {
        $own = $asset->standard->rays;
        // A cage moves welded vertices as one, so its directions are the averaged ones whatever the standard shoots along.
        $standard = $asset->standard->withRays(new RaySettings(true, true, $own->backFaces, $own->count, $own->setsKeptApart));
        $field = ClearanceMeasure::field(SetSurfaces::of($set, true), $standard, $measured->samples, $others, $assembled);
        $low = $field->low;
        $vertices = intdiv(count($low->directions), 3);
        $need = array_fill(0, $vertices, 0.0);
        $cap = array_fill(0, $vertices, INF);
        self::fromSamples($field, $need, $cap);
        self::fromVertices($field, $need);
        $used = $neighbours = [];
        foreach ($low->corners as $k => $v) {
            $used[$v] = true;
            $t = $k - $k % 3;
            foreach ([$t, $t + 1, $t + 2] as $other) {
                if ($low->corners[$other] !== $v) {
                    $neighbours[$v][$low->corners[$other]] = true;
                }
            }
        }
        $least = self::LEAST * $field->d;
        $wanted = array_map(static fn (float $one): float => max($least, self::MORE * $one), $need);
        $distance = $wanted;
        foreach ($neighbours as $v => $around) {
            $sum = 0.0;
            foreach (array_keys($around) as $other) {
                $sum += $wanted[$other];
            }
            $distance[$v] = max($wanted[$v], $sum / count($around));
        }
        foreach ($distance as $v => $one) {
            // Under the wrong hit where it can be; where it cannot, what belongs is enclosed all the same, and the rest is told.
            $distance[$v] = max(min($one, self::UNDER_WRONG * $cap[$v]), max($least, min($one, $need[$v] * (1 + 1e-6))));
        }
        $positions = self::moved($low, $distance);
        $single = $measured->recommended->out;
        $more = $less = 0;
        foreach (array_keys($used) as $v) {
            $more += $distance[$v] > $single * (1 + 1e-6) ? 1 : 0;
            $less += $distance[$v] < $single * (1 - 1e-6) ? 1 : 0;
        }

        $fit = new self($set->name, $positions, count($used), $more, $less, CageRays::of($field, $positions, $measured->inUse()->in), $field->d);

        return $straight ? self::straightened($fit, $field, $distance, $measured) : $fit;
    }

    /**
     * The same with its rays straightened; as it was where that leaves more wrong or outside, or mends nothing.
     *
     * @param  array<int, float>  $distance
     */
    private static function straightened(self $fit, RayField $field, array $distance, SetClearance $measured): self
    {
        $low = $field->low;
        $leaning = array_merge(...array_column($measured->details->leans, 'where'));
        $turn = StraightCage::of($field, $distance, $leaning, self::LEAST * $field->d);
        if ($turn->directions === []) {
            return $fit;
        }
        $positions = $fit->positions;
        foreach ($low->corners as $k => $v) {
            $way = $turn->directions[$v] ?? null;
            if ($way === null) {
                continue;
            }
            $at = 3 * $low->triangles[$k];
            foreach ([0, 1, 2] as $axis) {
                $positions[$at + $axis] = $low->positions[$at + $axis] + $distance[$v] * $turn->longer[$v] * $way[$axis];
            }
        }
        $positions = array_values($positions);
        $rays = CageRays::of($field, $positions, $measured->inUse()->in);
        [$before, $after] = [StraightCage::lean($field, $fit->positions, $leaning), StraightCage::lean($field, $positions, $leaning)];
        $costs = $rays->wrongShare > max(self::MAY_COST, $fit->rays->wrongShare) || $rays->outsideShare > max(self::MAY_COST, $fit->rays->outsideShare);

        return $costs || $after >= $before ? $fit : new self(
            $fit->set, $positions, $fit->vertices, $fit->more, $fit->less, $rays, $fit->d,
            ['turned' => count($turn->directions), 'leanBefore' => $before, 'leanAfter' => $after, 'wrongBefore' => $fit->rays->wrongShare, 'outsideBefore' => $fit->rays->outsideShare],
        );
    }

    /**
     * The cage of a single distance: every vertex as far outward as the reach in use.
     *
     * @return list<float> side by side with the set's low parts one after the other
     */
    public static function single(BakeSet $set, float $out): array
    {
        $low = SetSurfaces::of($set, true)->low();

        return self::moved($low, array_fill(0, intdiv(count($low->directions), 3), $out));
    }

    /**
     * @param  array<int, float>  $distance  by direction
     * @return list<float>
     */
    private static function moved(LowSurface $low, array $distance): array
    {
        $along = [];
        foreach ($low->corners as $k => $v) {
            $along[$low->triangles[$k]] = $v;
        }
        $positions = [];
        foreach ($low->positions as $i => $value) {
            $v = $along[intdiv($i, 3)] ?? -1;
            $positions[] = $v < 0 ? $value : $value + $distance[$v] * $low->directions[3 * $v + $i % 3];
        }

        return $positions;
    }

    /** Whether no ray from it goes wrong and nothing lies outside, within the limits of the checks. */
    public function isClean(): bool
    {
        return $this->rays->wrongShare <= 0.0005 && $this->rays->outsideShare <= 0.0005 && $this->rays->outsideBy <= 0.001 * $this->d;
    }

    /**
     * @param  array<int, float>  $need
     * @param  array<int, float>  $cap
     */
    private static function fromSamples(RayField $field, array &$need, array &$cap): void
    {
        $low = $field->low;
        $s = $field->samples;
        $solver = new HeightSolver($low, true);
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $own = null;
            $wrong = INF;
            for ($h = $field->start[$i]; $h < $field->start[$i + 1]; $h++) {
                $t = $field->heights[$h];
                if ($field->kinds[$h] === 1) {
                    $own = $t;
                    break;
                }
                if ($t > 0.0 && ($field->kinds[$h] >= 0 || ($field->seen)($i))) {
                    $wrong = $t;
                }
            }
            $k = 3 * $s->triangle[$i];
            // What stands over another place of the low poly is that place's to enclose.
            if ($own !== null && $own > max(self::LEAST * $field->d, min($need[$low->corners[$k]], $need[$low->corners[$k + 1]], $need[$low->corners[$k + 2]]))) {
                $height = $solver->height($s->px[$i] + $own * $s->nx[$i], $s->py[$i] + $own * $s->ny[$i], $s->pz[$i] + $own * $s->nz[$i], $own, $s->triangle[$i]);
                $own = $height !== null && abs($height) < 0.99 * $own ? null : $own;
            }
            for ($end = $k + 3; $k < $end; $k++) {
                $v = $low->corners[$k];
                if ($own !== null && $own > $need[$v]) {
                    $need[$v] = $own;
                }
                if ($wrong < $cap[$v]) {
                    $cap[$v] = $wrong;
                }
            }
        }
    }

    /**
     * Peaks that no sample met.
     *
     * @param  array<int, float>  $need
     */
    private static function fromVertices(RayField $field, array &$need): void
    {
        $low = $field->low;
        $nearest = new NearestPoint($low->tree());
        $solver = new HeightSolver($low, true);
        $p = $field->high->positions;
        $count = intdiv(count($p), 3);
        $step = max(1, intdiv($count, self::VERTICES));
        for ($i = 0; $i < $count; $i += $step) {
            [$x, $y, $z] = [$p[3 * $i], $p[3 * $i + 1], $p[3 * $i + 2]];
            $face = $nearest->find($x, $y, $z, 0.5 * $field->d);
            if ($face < 0) {
                continue;
            }
            $n = 3 * $face;
            $height = ($x - $nearest->x) * $low->normals[$n] + ($y - $nearest->y) * $low->normals[$n + 1] + ($z - $nearest->z) * $low->normals[$n + 2];
            if ($height <= 0.0 || $height <= min($need[$low->corners[$n]], $need[$low->corners[$n + 1]], $need[$low->corners[$n + 2]]) * 0.5) {
                continue;
            }
            // Only what lies straight over a face: past an edge the solver says which face carries it.
            $t = $solver->height($x, $y, $z, $field->d, $face);
            if ($t === null || $t <= 0.0 || $t > 4 * $height + self::LEAST * $field->d) {
                continue;
            }
            for ($k = 3 * $solver->triangle, $end = $k + 3; $k < $end; $k++) {
                $v = $low->corners[$k];
                if ($t > $need[$v]) {
                    $need[$v] = $t;
                }
            }
        }
    }
}
