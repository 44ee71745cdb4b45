<?php

declare(strict_types=1);

namespace Anvil\Rays;

use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * Whether a place on a low poly is seen: one of 64 fixed directions over its face escapes the assembled low poly (METHODS, "Seen").
 */
final class Visibility
{
    /** Of so many low triangles the tree that hides them is built with care: many lines cross all of it. */
    private const FINE = 200_000;

    private const SEEN_PLACES = 512;

    /** @var list<array{float, float, float}> a Fibonacci hemisphere about +Z, the steepest first */
    private array $hemisphere = [];

    /** @var array<int, int> direction => leaf of the tree that was in the way last; -1 at first */
    private array $blocked;

    /** The direction that was open last. */
    private int $open = 0;

    private readonly SegmentCast $cast;

    private readonly float $far;

    private readonly float $near;

    /**
     * @param  float|null  $diagonal  of all that is looked over, where that is more than this hides
     */
    public function __construct(TriangleTree $assembled, ?float $diagonal = null)
    {
        $this->cast = new SegmentCast($assembled);
        $this->blocked = array_fill(0, 64, -1);
        $this->far = 2 * ($diagonal ?? $assembled->bounds()?->diagonal() ?? 0.0);
        $this->near = $this->far / 16;
        for ($k = 63; $k >= 0; $k--) {
            $z = ($k + 0.5) / 64;
            $r = sqrt(1 - $z * $z);
            $angle = deg2rad($k * 137.508);
            $this->hemisphere[] = [$r * cos($angle), $r * sin($angle), $z];
        }
    }

    /**
     * @param  float  $fx  unit face normal
     */
    public function seen(float $px, float $py, float $pz, float $fx, float $fy, float $fz): bool
    {
        return $this->seenWith(null, $px, $py, $pz, $fx, $fy, $fz);
    }

    /**
     * The same where something else hides, too.
     *
     * @param  float  $fx  unit face normal
     */
    public function seenWith(?self $other, float $px, float $py, float $pz, float $fx, float $fy, float $fz): bool
    {
        // A frame on the normal without a branch at the pole (J. Frisvad; T. Duff et al., "Building an Orthonormal Basis, Revisited", 2017).
        $sign = $fz >= 0.0 ? 1.0 : -1.0;
        $a = -1.0 / ($sign + $fz);
        $b = $fx * $fy * $a;
        $tx = 1.0 + $sign * $fx * $fx * $a;
        $ty = $sign * $b;
        $tz = -$sign * $fx;
        $bx = $b;
        $by = $sign + $fy * $fy * $a;
        $bz = -$fy;
        $lift = 5e-6 * $this->far;
        $px += $lift * $fx;
        $py += $lift * $fy;
        $pz += $lift * $fz;
        for ($j = -1; $j < 64; $j++) {
            // The way out of the place asked for last comes first: it is often one of this place, too.
            $k = $j < 0 ? $this->open : $j;
            if ($j === $this->open) {
                continue;
            }
            [$x, $y, $z] = $this->hemisphere[$k];
            $dx = $x * $tx + $y * $bx + $z * $fx;
            $dy = $x * $ty + $y * $by + $z * $fy;
            $dz = $x * $tz + $y * $bz + $z * $fz;
            // What stands in the way mostly stands near: a short line meets fewer boxes.
            if (! $this->cast->any($px, $py, $pz, $dx, $dy, $dz, 0.0, $this->near, $this->blocked[$k]) && ! $this->cast->any($px, $py, $pz, $dx, $dy, $dz, $this->near, $this->far)) {
                if ($other !== null && $other->cast->any($px, $py, $pz, $dx, $dy, $dz, 0.0, $other->far)) {
                    continue;
                }
                $this->open = $k;

                return true;
            }
            $this->blocked[$k] = $this->cast->leaf;
        }

        return false;
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
        $visibility = new self($assembled);
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
}
