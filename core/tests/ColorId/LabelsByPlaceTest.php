<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\ColorId\LabelsByPlace;
use Anvil\Geometry\Mesh;
use Anvil\Modelling\Shapes;
use PHPUnit\Framework\TestCase;

/**
 * An ID copy lies where its high mesh lies, whatever the order of its faces: exporters group them by material.
 */
final class LabelsByPlaceTest extends TestCase
{
    public function test_faces_in_another_order_or_in_several_meshes_give_their_own_labels(): void
    {
        $mesh = Shapes::roundedBox(2, 1, 1, 0.1, 3, 4)->triangulated()->mesh();
        $labels = array_map(static fn (int $t): int => $mesh->positions[3 * $mesh->triangles[3 * $t]] > 0.2 ? 1 : 0, range(0, $mesh->triangleCount() - 1));
        self::assertSame($labels, LabelsByPlace::of($mesh, [[$mesh, $labels]]));
        $pick = static fn (callable $which): array => array_keys(array_filter($labels, $which, ARRAY_FILTER_USE_BOTH));
        $some = static fn (array $faces): array => [
            new Mesh($mesh->positions, array_merge(...array_map(static fn (int $t): array => array_slice($mesh->triangles, 3 * $t, 3), $faces))),
            array_map(static fn (int $t): int => $labels[$t], $faces),
        ];
        $byColor = [...$pick(static fn (int $label): bool => $label === 1), ...$pick(static fn (int $label): bool => $label === 0)];
        self::assertNotSame($labels, $some($byColor)[1]);
        self::assertSame($labels, LabelsByPlace::of($mesh, [$some($byColor)]));
        // A part a color.
        self::assertSame($labels, LabelsByPlace::of($mesh, [$some($pick(static fn (int $label): bool => $label === 1)), $some($pick(static fn (int $label): bool => $label === 0))]));
    }

    public function test_where_no_copy_lies_there_is_no_label(): void
    {
        $mesh = Shapes::box(1, 1, 1)->triangulated()->mesh();
        self::assertSame(array_fill(0, 12, -1), LabelsByPlace::of($mesh, []));
        self::assertSame(array_fill(0, 12, -1), LabelsByPlace::of($mesh, [[Shapes::box(1, 1, 1)->moved(5, 0, 0)->triangulated()->mesh(), array_fill(0, 12, 3)]]));
        $half = LabelsByPlace::of($mesh, [[Shapes::sheet(1, 1)->moved(0, 0.5, 0)->triangulated()->mesh(), [7, 7]]]);
        self::assertSame([-1 => 10, 7 => 2], array_count_values($half));
    }
}
