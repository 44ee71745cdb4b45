<?php

declare(strict_types=1);

namespace Anvil\Rays;

/**
 * The shells of a set's high poly: which triangle is in which, and their areas.
 */
final readonly class HighShells
{
    /**
     * @param  list<int>  $of  shell of each high triangle
     * @param  array<int, float>  $areas  of each shell
     * @param  int  $main  the one of most area; −1 for none
     */
    private function __construct(public array $of, public array $areas, public int $main)
    {
    }

    public static function of(HighSurface $high): self
    {
        $shells = $high->shells();
        $p = $high->positions;
        $tri = $high->triangles;
        $areas = [];
        foreach ($shells as $t => $shell) {
            $a = 3 * $tri[3 * $t];
            $b = 3 * $tri[3 * $t + 1];
            $c = 3 * $tri[3 * $t + 2];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
            $areas[$shell] = ($areas[$shell] ?? 0.0) + sqrt($x * $x + $y * $y + $z * $z) / 2;
        }
        $main = -1;
        $most = -1.0;
        foreach ($areas as $shell => $area) {
            if ($area > $most) {
                $most = $area;
                $main = $shell;
            }
        }

        return new self($shells, $areas, $main);
    }

    public function count(): int
    {
        return count($this->areas);
    }
}
