<?php

declare(strict_types=1);

namespace Anvil\Cage;

use Anvil\Rays\Belonging;
use Anvil\Rays\HighSurface;
use Anvil\Rays\RayField;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;

/**
 * The rays of a set shot from a cage: from each sample's place on it through the sample inward. What is outside, what is met wrongly.
 */
final readonly class CageRays
{
    private const WHERE = 8;

    /** Up to so many high vertices are looked at one by one; of more, every so many-th. */
    private const VERTICES = 200_000;

    /**
     * @param  float  $outsideShare  share of low area over which the set's own high poly lies outside the cage
     * @param  int  $outsideCount  high vertices outside, of those looked at
     * @param  float  $outsideBy  the greatest distance from such a vertex to the cage
     * @param  float  $wrongShare  share of low area whose ray from the cage takes a wrong hit
     * @param  list<array{float, float, float}>  $where  places outside, the furthest first
     */
    private function __construct(public float $outsideShare, public int $outsideCount, public float $outsideBy, public float $wrongShare, public array $where)
    {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['outsideShare' => $this->outsideShare, 'outsideCount' => $this->outsideCount, 'outsideBy' => $this->outsideBy, 'wrongShare' => $this->wrongShare, 'where' => $this->where];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{outsideShare: float, outsideCount: int, outsideBy: float, wrongShare: float, where: list<array{float, float, float}>} $stored */
        return new self($stored['outsideShare'], $stored['outsideCount'], $stored['outsideBy'], $stored['wrongShare'], $stored['where']);
    }

    /**
     * @param  list<float>  $cage  positions side by side with those of the field's low surface
     * @param  float  $in  how far inward the rays go on
     */
    public static function of(RayField $field, array $cage, float $in): self
    {
        $low = $field->low;
        $s = $field->samples;
        $cast = new SegmentCast($field->high->tree());
        $others = array_map(static fn (HighSurface $other): SegmentCast => new SegmentCast($other->tree()), $field->others);
        $belonging = new Belonging($low, $field->d);
        $nearest = new NearestPoint($low->tree());
        $outside = $wrong = 0.0;
        $places = [];
        $slack = 1e-6 * $field->d;
        for ($i = 0, $count = $s->count(); $i < $count; $i++) {
            $t = 3 * $s->triangle[$i];
            [$u, $v, $w] = $field->corners($i);
            $a = 3 * $low->triangles[$t];
            $b = 3 * $low->triangles[$t + 1];
            $c = 3 * $low->triangles[$t + 2];
            $dx = $u * $cage[$a] + $v * $cage[$b] + $w * $cage[$c] - $s->px[$i];
            $dy = $u * $cage[$a + 1] + $v * $cage[$b + 1] + $w * $cage[$c + 1] - $s->py[$i];
            $dz = $u * $cage[$a + 2] + $v * $cage[$b + 2] + $w * $cage[$c + 2] - $s->pz[$i];
            $length = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            if ($length <= $slack) {
                [$dx, $dy, $dz] = [$s->nx[$i], $s->ny[$i], $s->nz[$i]];
                $length = max(1e-30, sqrt($dx * $dx + $dy * $dy + $dz * $dz));
                $at = 0.0;
            } else {
                $at = 1.0;
            }
            $far = $field->d / $length;
            $hits = $cast->all($s->px[$i], $s->py[$i], $s->pz[$i], $dx, $dy, $dz, -max($in, $slack) / $length, $far, 1);
            // What the ray takes of the set's own: its height, and whether it goes wrong by that already.
            $taken = -max($in, $slack) / $length;
            $order = $cast->t;
            $numbers = $cast->triangle;
            if ($hits > 1) {
                array_multisort($order, SORT_DESC, $numbers);
            }
            foreach ($order as $h => $height) {
                [$mx, $my, $mz] = $field->high->normal($numbers[$h]);
                $holds = $belonging->holds($s->triangle[$i], $s->px[$i], $s->py[$i], $s->pz[$i], $s->px[$i] + $height * $dx, $s->py[$i] + $height * $dy, $s->pz[$i] + $height * $dz, $mx, $my, $mz, true);
                if ($height > $at + $slack / $length) {
                    if ($holds && self::standsOver($field, $nearest, $s->triangle[$i], $s->px[$i], $s->py[$i], $s->pz[$i], $height * $dx, $height * $dy, $height * $dz)) {
                        $outside += $s->weight[$i];
                        break;
                    }

                    continue;
                }
                $wrong += $holds ? 0.0 : $s->weight[$i];
                $taken = $holds ? $height : $at;
                break;
            }
            foreach ($others as $other) {
                if ($taken < $at && $other->all($s->px[$i], $s->py[$i], $s->pz[$i], $dx, $dy, $dz, $taken, $at, 1) > 0) {
                    $wrong += ($field->seen)($i) ? $s->weight[$i] : 0.0;
                    break;
                }
            }
        }
        [$number, $by, $places] = self::vertices($field, $cage);

        return new self(min(1.0, $outside), $number, $by, min(1.0, $wrong), $places);
    }

    /** Whether a place over a sample stands over no other place of the low poly more closely: then it is this one's to enclose. */
    private static function standsOver(RayField $field, NearestPoint $nearest, int $triangle, float $px, float $py, float $pz, float $ox, float $oy, float $oz): bool
    {
        $n = $field->low->normals;
        $over = $ox * $n[3 * $triangle] + $oy * $n[3 * $triangle + 1] + $oz * $n[3 * $triangle + 2];
        if ($over <= 0.0) {
            return false;
        }
        $nearest->find($px + $ox, $py + $oy, $pz + $oz);

        return sqrt($nearest->squared) > 0.9 * $over;
    }

    /**
     * High vertices outside the cage: how many, how far at most, where.
     *
     * @param  list<float>  $cage
     * @return array{int, float, list<array{float, float, float}>}
     */
    private static function vertices(RayField $field, array $cage): array
    {
        $low = $field->low;
        $nearest = new NearestPoint($low->tree());
        $toCage = new NearestPoint(TriangleTree::of($cage, $low->triangles));
        $p = $field->high->positions;
        $count = intdiv(count($p), 3);
        $step = max(1, intdiv($count, self::VERTICES));
        $outside = [];
        $slack = 1e-6 * $field->d;
        for ($i = 0; $i < $count; $i += $step) {
            [$x, $y, $z] = [$p[3 * $i], $p[3 * $i + 1], $p[3 * $i + 2]];
            $face = $nearest->find($x, $y, $z, 0.5 * $field->d);
            if ($face < 0) {
                continue;
            }
            [$v, $w] = [$nearest->v, $nearest->w];
            $u = 1.0 - $v - $w;
            $n = 3 * $face;
            $height = ($x - $nearest->x) * $low->normals[$n] + ($y - $nearest->y) * $low->normals[$n + 1] + ($z - $nearest->z) * $low->normals[$n + 2];
            if ($height <= 0.0) {
                continue;
            }
            $a = 3 * $low->triangles[$n];
            $b = 3 * $low->triangles[$n + 1];
            $c = 3 * $low->triangles[$n + 2];
            $reach = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $reach += ($u * $cage[$a + $k] + $v * $cage[$b + $k] + $w * $cage[$c + $k] - [$nearest->x, $nearest->y, $nearest->z][$k]) * $low->normals[$n + $k];
            }
            if ($height > $reach + $slack) {
                $toCage->find($x, $y, $z);
                $outside[] = [sqrt($toCage->squared), $x, $y, $z];
            }
        }
        usort($outside, static fn (array $a, array $b): int => $b[0] <=> $a[0]);

        return [count($outside), $outside[0][0] ?? 0.0, array_map(static fn (array $one): array => [$one[1], $one[2], $one[3]], array_slice($outside, 0, self::WHERE))];
    }
}
