<?php

declare(strict_types=1);

namespace Anvil\Place;

use Anvil\Asset\Asset;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\SurfacePoints;
use Anvil\Pairing\RoledPart;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\Role;

/**
 * Which of the 23 turns by quarters, about the origin or the high poly's own middle, brings the high poly onto the low one.
 */
final readonly class QuarterTurn
{
    private const POINTS = 480;

    /** Surfaces this close already, as a share of D, are not turned against each other. */
    private const CLOSE = 0.01;

    /** A turn counts when it leaves the surfaces this close. */
    private const FITS = 0.02;

    /**
     * @param  Matrix  $matrix  for the high poly, about the origin or its middle
     * @param  float  $before  mean distance of high to low, as a share of D
     */
    private function __construct(public Matrix $matrix, public string $words, public float $degrees, public float $before, public float $after)
    {
    }

    /**
     * @param  list<Mesh>  $low
     * @param  list<Mesh>  $high
     * @param  float  $scale  size of the high poly over that of the low one, where they differ; it is taken out first
     */
    public static function of(array $low, array $high, float $scale = 1.0): ?self
    {
        $bounds = Bounds::union(array_map(static fn (Mesh $mesh): ?Bounds => $mesh->bounds(), $low));
        $highBounds = Bounds::union(array_map(static fn (Mesh $mesh): ?Bounds => $mesh->bounds(), $high));
        $d = $bounds?->diagonal() ?? 0.0;
        if ($bounds === null || $highBounds === null || $d <= 0.0 || $scale <= 0.0) {
            return null;
        }
        $positions = $triangles = [];
        foreach ($low as $mesh) {
            $base = intdiv(count($positions), 3);
            foreach ($mesh->positions as $value) {
                $positions[] = $value;
            }
            foreach ($mesh->triangles as $v) {
                $triangles[] = $base + $v;
            }
        }
        $nearest = new NearestPoint(TriangleTree::of($positions, $triangles));
        $points = Matrix::scaling(1.0 / $scale)->points(SurfacePoints::of($high, self::POINTS)->at);
        $centre = Matrix::scaling(1.0 / $scale)->points($highBounds->centre());
        if ($points === []) {
            return null;
        }
        $before = self::mean($nearest, $points, $d, INF);
        if ($before < self::CLOSE) {
            return null;
        }
        $best = null;
        foreach (self::turns() as [$turn, $words, $degrees]) {
            foreach ([[0.0, 0.0, 0.0], [$centre[0], $centre[1], $centre[2]]] as $about) {
                $there = $turn->points($about);
                $matrix = Matrix::of([...array_slice($turn->m, 0, 12), $about[0] - $there[0], $about[1] - $there[1], $about[2] - $there[2], 1.0]);
                // Earlier turns are the simpler ones: a later one must be clearly better.
                $limit = $best === null ? 0.5 * $before : 0.9 * $best->after - 1e-4;
                $after = self::mean($nearest, $matrix->points($points), $d, $limit);
                if ($after < $limit && $after < self::FITS) {
                    $best = new self($matrix, $words.($about === [0.0, 0.0, 0.0] ? '' : ', about its own middle'), $degrees, $before, $after);
                }
            }
        }

        return $best;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['matrix' => $this->matrix->m, 'words' => $this->words, 'degrees' => $this->degrees, 'before' => $this->before, 'after' => $this->after];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{matrix: list<float>, words: string, degrees: float, before: float, after: float} $stored */
        return new self(Matrix::of($stored['matrix']), $stored['words'], $stored['degrees'], $stored['before'], $stored['after']);
    }

    /** The turn that would bring the high poly of an asset onto its low one, sizes made equal first; null where there is none, or the check for it is off. */
    public static function ofAsset(Asset $asset): ?self
    {
        $ratio = $asset->sizeRatio();
        $mesh = static fn (RoledPart $part): Mesh => $part->part->mesh;

        return $ratio === null || $asset->standard->isOff('axis-mismatch') ? null : self::of(
            array_map($mesh, $asset->judged(Role::Low)), array_map($mesh, $asset->judged(Role::High)), $asset->differsInSize() ? 1 / SizeFactor::mending($ratio) : 1.0,
        );
    }

    /**
     * Mean distance as a share of d, each counted up to a quarter of it; given up, as infinity, once it cannot come under the limit.
     *
     * @param  list<float>  $points
     */
    private static function mean(NearestPoint $nearest, array $points, float $d, float $limit): float
    {
        $sum = 0.0;
        $count = intdiv(count($points), 3);
        for ($i = 0, $n = count($points); $i < $n; $i += 3) {
            $sum += $nearest->find($points[$i], $points[$i + 1], $points[$i + 2], 0.25 * $d) < 0 ? 0.25 : sqrt($nearest->squared) / $d;
            if ($sum > $limit * $count) {
                return INF;
            }
        }

        return $sum / $count;
    }

    /**
     * The turns that map the axes onto each other, simple ones first.
     *
     * @return list<array{Matrix, string, float}>
     */
    private static function turns(): array
    {
        $quarter = static function (int $axis, int $times): Matrix {
            $sine = sin($times * M_PI / 4);
            $q = [$axis === 0 ? $sine : 0.0, $axis === 1 ? $sine : 0.0, $axis === 2 ? $sine : 0.0, cos($times * M_PI / 4)];

            return Matrix::of(array_map(static fn (float $v): float => round($v) + 0.0, Matrix::ofTrs([0.0, 0.0, 0.0], $q, [1.0, 1.0, 1.0])->m));
        };
        $out = [];
        $seen = [implode(' ', Matrix::identity()->m) => true];
        $add = static function (Matrix $matrix, string $words) use (&$out, &$seen): void {
            $key = implode(' ', $matrix->m);
            if (! isset($seen[$key])) {
                $seen[$key] = true;
                $trace = $matrix->m[0] + $matrix->m[5] + $matrix->m[10];
                $out[] = [$matrix, $words, rad2deg(acos(max(-1.0, min(1.0, ($trace - 1) / 2))))];
            }
        };
        foreach ([-1, 1, 2] as $times) {
            foreach ([0, 1, 2] as $axis) {
                $add($quarter($axis, $times), self::quarters($times).' about '.'XYZ'[$axis]);
            }
        }
        foreach ([0, 1, 2] as $first) {
            foreach ([0, 1, 2] as $second) {
                foreach ([-1, 1, 2] as $a) {
                    foreach ([-1, 1, 2] as $b) {
                        $add($quarter($second, $b)->times($quarter($first, $a)), self::quarters($a).' about '.'XYZ'[$first].', then '.self::quarters($b).' about '.'XYZ'[$second]);
                    }
                }
            }
        }

        return $out;
    }

    private static function quarters(int $times): string
    {
        return ($times < 0 ? '−' : '').(90 * abs($times)).'°';
    }
}
