<?php

declare(strict_types=1);

namespace Anvil\Surface;

use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;

/**
 * Share of a mesh's area whose corner normals point to the inner side of their faces, a third of a triangle for each corner.
 */
final readonly class InvertedNormals
{
    private const WHERE = 40;

    /**
     * @param  float|null  $share  null where it has no normals
     * @param  list<array{float, float, float}>  $where
     */
    private function __construct(public ?float $share, public array $where)
    {
    }

    public static function none(): self
    {
        return new self(null, []);
    }

    /**
     * @param  array<mixed>  $stored
     */
    public static function kept(array $stored): self
    {
        /** @var array{share: float|null, where: list<array{float, float, float}>} $stored */
        return new self($stored['share'], $stored['where']);
    }

    /**
     * @param  array<int, true>  $without  triangles that are turned themselves
     */
    public static function of(Mesh $mesh, array $without): self
    {
        $p = $mesh->positions;
        $n = $mesh->normals;
        $all = $inverted = 0.0;
        $where = [];
        for ($i = 0, $count = count($mesh->triangles); $i < $count; $i += 3) {
            [$a, $b, $c] = [3 * $mesh->triangles[$i], 3 * $mesh->triangles[$i + 1], 3 * $mesh->triangles[$i + 2]];
            [$x, $y, $z] = FaceNormal::long($p, $mesh->triangles, intdiv($i, 3));
            $area = sqrt($x * $x + $y * $y + $z * $z);
            $all += $area;
            for ($k = 0; $k < 3 && ! isset($without[intdiv($i, 3)]); $k++) {
                $at = 3 * ($mesh->triNormals[$i + $k] ?? -1);
                if ($at >= 0 && $n[$at] * $x + $n[$at + 1] * $y + $n[$at + 2] * $z < 0.0) {
                    $inverted += $area / 3;
                    if ($k === 0 && count($where) < self::WHERE) {
                        $where[] = [($p[$a] + $p[$b] + $p[$c]) / 3, ($p[$a + 1] + $p[$b + 1] + $p[$c + 1]) / 3, ($p[$a + 2] + $p[$b + 2] + $p[$c + 2]) / 3];
                    }
                }
            }
        }

        return new self($all > 0.0 ? $inverted / $all : 0.0, $where);
    }
}
