<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * Whether a place on a low poly is seen: one of 64 fixed directions over its face escapes the assembled low poly (METHODS, "Seen").
 */
final class Visibility
{
    /** @var list<array{float, float, float}> a Fibonacci hemisphere about +Z, the steepest first */
    private array $hemisphere = [];

    private readonly SegmentCast $cast;

    private readonly float $far;

    public function __construct(TriangleTree $assembled)
    {
        $this->cast = new SegmentCast($assembled);
        $this->far = 2 * ($assembled->bounds()?->diagonal() ?? 0.0);
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
        foreach ($this->hemisphere as [$x, $y, $z]) {
            if (! $this->cast->any($px, $py, $pz, $x * $tx + $y * $bx + $z * $fx, $x * $ty + $y * $by + $z * $fy, $x * $tz + $y * $bz + $z * $fz, 0.0, $this->far)) {
                return true;
            }
        }

        return false;
    }
}
