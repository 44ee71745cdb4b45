<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Bounds;

/**
 * A surface in one piece with a label on each face, or one for all.
 *
 * @internal
 */
final class TouchBody
{
    public readonly Bounds $bounds;

    /** The label, where there is one for all. */
    public readonly ?int $only;

    /** @var array<int, int>|null */
    private ?array $vertices = null;

    /**
     * @param  list<float>  $positions  xyz, n×3; some may belong to other bodies
     * @param  list<int>  $triangles  at least one
     * @param  int|list<int>  $labels
     */
    public function __construct(public readonly array $positions, private readonly array $triangles, private readonly int|array $labels)
    {
        $unique = is_int($labels) ? [$labels] : array_unique($labels);
        $this->only = count($unique) === 1 ? array_values($unique)[0] : null;
        $min = [INF, INF, INF];
        $max = [-INF, -INF, -INF];
        foreach ($triangles as $v) {
            for ($k = 0; $k < 3; $k++) {
                $x = $positions[3 * $v + $k];
                if ($x < $min[$k]) {
                    $min[$k] = $x;
                }
                if ($x > $max[$k]) {
                    $max[$k] = $x;
                }
            }
        }
        $this->bounds = Bounds::of($min, $max);
    }

    /**
     * @return array<int, int> vertex → the label of a face at it
     */
    public function vertices(): array
    {
        if ($this->vertices === null) {
            $this->vertices = [];
            foreach ($this->triangles as $corner => $v) {
                $this->vertices[$v] = $this->only ?? $this->label(intdiv($corner, 3));
            }
        }

        return $this->vertices;
    }

    /**
     * The triangles that meet a box, and their labels.
     *
     * @return array{list<int>, list<int>}
     */
    public function inside(Bounds $box): array
    {
        [$x0, $y0, $z0] = $box->min;
        [$x1, $y1, $z1] = $box->max;
        $p = $this->positions;
        $t = $this->triangles;
        $triangles = $labels = [];
        for ($i = 0, $n = count($t); $i < $n; $i += 3) {
            $a = 3 * $t[$i];
            $b = 3 * $t[$i + 1];
            $c = 3 * $t[$i + 2];
            if (max($p[$a], $p[$b], $p[$c]) >= $x0 && min($p[$a], $p[$b], $p[$c]) <= $x1
                && max($p[$a + 1], $p[$b + 1], $p[$c + 1]) >= $y0 && min($p[$a + 1], $p[$b + 1], $p[$c + 1]) <= $y1
                && max($p[$a + 2], $p[$b + 2], $p[$c + 2]) >= $z0 && min($p[$a + 2], $p[$b + 2], $p[$c + 2]) <= $z1) {
                $triangles[] = $t[$i];
                $triangles[] = $t[$i + 1];
                $triangles[] = $t[$i + 2];
                $labels[] = $this->label(intdiv($i, 3));
            }
        }

        return [$triangles, $labels];
    }

    private function label(int $triangle): int
    {
        return is_int($this->labels) ? $this->labels : $this->labels[$triangle];
    }
}
