<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Geometry\CornerShares;
use Anvil\Geometry\FaceNormal;
use Anvil\Rays\Belonging;
use Anvil\Rays\SetSurfaces;
use Anvil\Spatial\SegmentCast;
use Anvil\Standard\RaySettings;
use Anvil\Standard\Reach;

/**
 * The rays of a trial bake, one by one (METHODS, "A ray"): from a place of a set's low poly, through its reach or its cage. What the last one met stands in the
 * fields.
 */
final class TexelRays
{
    public const FINE = 0;

    public const WRONG = 128;

    public const MISS = 255;

    /** Height of the hit: in multiples of the direction; through a cage 1 is the cage. */
    public float $t = 0.0;

    /** The high triangle that was met, of the surface that `other` says; −1 for none. */
    public int $triangle = -1;

    /** Which of the other sets was met; −1 for the set's own. */
    public int $other = -1;

    public float $px = 0.0;

    public float $py = 0.0;

    public float $pz = 0.0;

    public float $nx = 0.0;

    public float $ny = 0.0;

    public float $nz = 0.0;

    private readonly SegmentCast $cast;

    private readonly Belonging $belonging;

    /** @var list<SegmentCast> */
    private readonly array $casts;

    private readonly bool $unit;

    private readonly int $facing;

    /**
     * @param  SetSurfaces  $set  of averaged directions where it is shot from a cage
     * @param  list<SetSurfaces>  $others  whose high poly stands in the way
     * @param  list<float>|null  $cage  positions side by side with the low surface's; null: through the reach
     * @param  float  $d  diagonal of the set's low-poly bounds
     * @param  int  $count  rays that are to be shot, about
     */
    public function __construct(public readonly SetSurfaces $set, public readonly array $others, RaySettings $rays, public readonly Reach $reach, private readonly ?array $cage, public readonly float $d, int $count)
    {
        $this->cast = new SegmentCast($set->high()->treeFor($count));
        $this->casts = array_map(static fn (SetSurfaces $other): SegmentCast => new SegmentCast($other->high()->tree()), $others);
        $this->belonging = new Belonging($set->low(), $d);
        $this->unit = ! $rays->cageLength;
        $this->facing = $rays->backFaces ? 0 : 1;
    }

    /** By what heights are divided: the greater of the reach out and in, or the cage. */
    public function full(): float
    {
        return $this->cage !== null ? 1.0 : max($this->reach->out, $this->reach->in, 1e-30);
    }

    /**
     * Shoots from a place of a low triangle.
     *
     * @param  int  $triangle  of the set's low surface
     * @return int FINE, WRONG or MISS
     */
    public function shoot(int $triangle, float $u, float $v, float $w): int
    {
        $low = $this->set->low();
        $p = $low->positions;
        $i = 3 * $triangle;
        $a = 3 * $low->triangles[$i];
        $b = 3 * $low->triangles[$i + 1];
        $c = 3 * $low->triangles[$i + 2];
        $px = $this->px = $u * $p[$a] + $v * $p[$b] + $w * $p[$c];
        $py = $this->py = $u * $p[$a + 1] + $v * $p[$b + 1] + $w * $p[$c + 1];
        $pz = $this->pz = $u * $p[$a + 2] + $v * $p[$b + 2] + $w * $p[$c + 2];
        if ($this->cage !== null) {
            $q = $this->cage;
            $nx = $u * $q[$a] + $v * $q[$b] + $w * $q[$c] - $px;
            $ny = $u * $q[$a + 1] + $v * $q[$b + 1] + $w * $q[$c + 1] - $py;
            $nz = $u * $q[$a + 2] + $v * $q[$b + 2] + $w * $q[$c + 2] - $pz;
            // As far again inward, and at least as far as the reach goes: a cage lies close where edges are rounded off.
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            [$from, $to] = [$length > 0.0 ? -max(1.0, $this->reach->in / $length) : -1.0, 1.0];
        } else {
            [$nx, $ny, $nz] = $low->direction($triangle, $v, $w);
            if ($this->unit) {
                $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $scale = $length > 0.0 ? 1.0 / $length : 0.0;
                $nx *= $scale;
                $ny *= $scale;
                $nz *= $scale;
            }
            [$from, $to] = [-$this->reach->in, $this->reach->out];
        }
        $this->nx = $nx;
        $this->ny = $ny;
        $this->nz = $nz;
        $this->other = -1;
        $this->triangle = -1;
        $this->t = 0.0;
        if ($nx === 0.0 && $ny === 0.0 && $nz === 0.0) {
            return self::MISS;
        }
        $met = $this->cast->first($px, $py, $pz, $nx, $ny, $nz, $from, $to, $this->facing);
        $t = $met >= 0 ? $this->cast->t[0] : 0.0;
        foreach ($this->casts as $number => $cast) {
            // At equal height the set's own counts first.
            $more = $cast->first($px, $py, $pz, $nx, $ny, $nz, $met >= 0 ? $t : $from, $to, $this->facing);
            if ($more >= 0 && ($met < 0 || $cast->t[0] > $t)) {
                $met = $more;
                $t = $cast->t[0];
                $this->other = $number;
            }
        }
        if ($met < 0) {
            return self::MISS;
        }
        $this->triangle = $met;
        $this->t = $t;
        if ($this->other >= 0) {
            return self::WRONG;
        }
        $high = $this->set->high();
        [$mx, $my, $mz] = FaceNormal::unit($high->positions, $high->triangles, $met);
        $holds = $this->belonging->holds($triangle, $px, $py, $pz, $px + $t * $nx, $py + $t * $ny, $pz + $t * $nz, $mx, $my, $mz, $mx * $nx + $my * $ny + $mz * $nz > 0.0);

        return $holds ? self::FINE : self::WRONG;
    }

    /**
     * Where in its triangle the last hit lies: shares of its three corners.
     *
     * @return array{float, float, float}
     */
    public function corners(): array
    {
        $high = $this->other < 0 ? $this->set->high() : $this->others[$this->other]->high();
        [, $s, $r] = CornerShares::of($high->positions, $high->triangles, $this->triangle, $this->px + $this->t * $this->nx, $this->py + $this->t * $this->ny, $this->pz + $this->t * $this->nz);
        // A hit on an edge may lie a hair beyond it.
        $s = max(0.0, min(1.0, $s));
        $r = max(0.0, min(1.0 - $s, $r));

        return [1.0 - $s - $r, $s, $r];
    }
}
