<?php

declare(strict_types=1);

namespace Anvil\Rays;

/**
 * Points spread over a set's low poly by UV area (by 3D area where it has no UVs), from a fixed low-discrepancy sequence: M. Roberts'
 * R2, "The Unreasonable Effectiveness of Quasirandom Sequences", 2018. All lists run side by side.
 */
final readonly class Samples
{
    /**
     * @param  list<int>  $triangle
     * @param  list<float>  $px
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $nx  direction, not unit unless the standard says so
     * @param  list<float>  $ny
     * @param  list<float>  $nz
     * @param  list<float>  $weight  shares of the low area, 1 in all
     * @param  bool  $byUv  whether they are spread by UV area
     * @param  float  $uvArea  share of the page that the set covers
     * @param  float  $kept  share of the low area that they stand for
     */
    private function __construct(
        public array $triangle,
        public array $px,
        public array $py,
        public array $pz,
        public array $nx,
        public array $ny,
        public array $nz,
        public array $weight,
        public bool $byUv,
        public float $uvArea,
        public float $kept = 1.0,
    ) {
    }

    /**
     * @param  int  $count  wanted; at least one a triangle and 64 a part are taken
     * @param  bool  $cageLength  keep the length that interpolation gives
     */
    public static function of(LowSurface $low, int $count, bool $cageLength): self
    {
        $triangles = $low->triangleCount();
        $uvArea = array_sum($low->uvAreas);
        $byUv = $uvArea > 1e-12;
        $areas = $byUv ? $low->uvAreas : $low->areas;
        $total = array_sum($areas);
        $count = max($count, 64 * count($low->parts));
        $triangle = $px = $py = $pz = $nx = $ny = $nz = $weight = [];
        $before = 0;
        $sum = 0.0;
        $k = 0;
        for ($t = 0; $t < $triangles; $t++) {
            if ($low->areas[$t] <= 0.0) {
                continue;
            }
            $sum += $areas[$t];
            $until = $total > 0.0 ? (int) floor($sum / $total * $count + 0.5) : 0;
            $here = max(1, $until - $before);
            $before = $until;
            $share = $total > 0.0 ? $areas[$t] / $total / $here : 0.0;
            $i = 3 * $t;
            $a = 3 * $low->triangles[$i];
            $b = 3 * $low->triangles[$i + 1];
            $c = 3 * $low->triangles[$i + 2];
            $da = 3 * $low->corners[$i];
            $db = 3 * $low->corners[$i + 1];
            $dc = 3 * $low->corners[$i + 2];
            for ($s = 0; $s < $here; $s++) {
                $k++;
                $v = 0.5 + $k * 0.7548776662466927;
                $v -= floor($v);
                $w = 0.5 + $k * 0.5698402909980532;
                $w -= floor($w);
                if ($v + $w > 1.0) {
                    $v = 1.0 - $v;
                    $w = 1.0 - $w;
                }
                $u = 1.0 - $v - $w;
                $triangle[] = $t;
                $px[] = $u * $low->positions[$a] + $v * $low->positions[$b] + $w * $low->positions[$c];
                $py[] = $u * $low->positions[$a + 1] + $v * $low->positions[$b + 1] + $w * $low->positions[$c + 1];
                $pz[] = $u * $low->positions[$a + 2] + $v * $low->positions[$b + 2] + $w * $low->positions[$c + 2];
                $x = $u * $low->directions[$da] + $v * $low->directions[$db] + $w * $low->directions[$dc];
                $y = $u * $low->directions[$da + 1] + $v * $low->directions[$db + 1] + $w * $low->directions[$dc + 1];
                $z = $u * $low->directions[$da + 2] + $v * $low->directions[$db + 2] + $w * $low->directions[$dc + 2];
                if (! $cageLength) {
                    $length = sqrt($x * $x + $y * $y + $z * $z);
                    $scale = $length > 0.0 ? 1.0 / $length : 0.0;
                    $x *= $scale;
                    $y *= $scale;
                    $z *= $scale;
                }
                $nx[] = $x;
                $ny[] = $y;
                $nz[] = $z;
                $weight[] = $share;
            }
        }

        return new self($triangle, $px, $py, $pz, $nx, $ny, $nz, $weight, $byUv, $uvArea);
    }

    public function count(): int
    {
        return count($this->triangle);
    }

    /**
     * The same without some of them; what is left stands for all.
     *
     * @param  list<int>  $kept  numbers of samples, ascending
     */
    public function only(array $kept): self
    {
        if (count($kept) === $this->count()) {
            return $this;
        }
        $pick = static fn (array $list): array => array_map(static fn (int $i): mixed => $list[$i], $kept);
        /** @var list<float> $weight */
        $weight = $pick($this->weight);
        /** @var list<int> $triangle */
        $triangle = $pick($this->triangle);
        /** @var array{list<float>, list<float>, list<float>, list<float>, list<float>, list<float>} $places */
        $places = array_map($pick, [$this->px, $this->py, $this->pz, $this->nx, $this->ny, $this->nz]);
        $sum = array_sum($weight);
        $scale = $sum > 0.0 ? 1.0 / $sum : 0.0;

        return new self(
            $triangle, ...[...$places,
                array_map(static fn (float $one): float => $one * $scale, $weight), $this->byUv, $this->uvArea, $this->kept * $sum],
        );
    }

    /**
     * The place at a height over a sample.
     *
     * @return array{float, float, float}
     */
    public function at(int $i, float $t): array
    {
        return [$this->px[$i] + $t * $this->nx[$i], $this->py[$i] + $t * $this->ny[$i], $this->pz[$i] + $t * $this->nz[$i]];
    }

    /**
     * The share of the low area that some stand for.
     *
     * @param  list<int>  $some  numbers of samples
     */
    public function weightOf(array $some): float
    {
        $sum = 0.0;
        foreach ($some as $i) {
            $sum += $this->weight[$i];
        }

        return $sum;
    }

    /** How many samples of one weight would say as much: those that stand for little count little. */
    public function effective(): float
    {
        $squares = 0.0;
        foreach ($this->weight as $weight) {
            $squares += $weight * $weight;
        }

        return $squares > 0.0 ? 1.0 / $squares : 0.0;
    }
}
