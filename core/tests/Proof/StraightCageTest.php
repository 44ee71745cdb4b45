<?php

declare(strict_types=1);

namespace Anvil\Tests\Proof;

use Anvil\Cage\CageFit;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\TestCase;

/**
 * A plain box whose top carries bolts off its middle: rays lean there, since the corners' directions do.
 */
final class StraightCageTest extends TestCase
{
    private static function bolts(): Polygons
    {
        $high = Shapes::roundedBox(4, 1, 4, 0.02, 2);
        foreach ([[1.5, 1.5], [-1.5, 1.2], [1.4, -1.5]] as [$x, $z]) {
            $high = $high->with(Shapes::roundedCylinder(0.18, 0.16, 0.03, 20, 2)->moved($x, 0.54, $z));
        }

        return $high;
    }

    public function test_a_cage_is_straightened_where_details_lean_and_keeps_its_topology(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(4, 1, 4)], ['a_high' => self::bolts()], rays: 16384);
        $measures = $report->measures;
        self::assertNotSame([], $measures->clearances()['a']->details->leans);
        $plain = CageFit::ofAll($measures->asset, $measures->clearances())['a'];
        $straight = CageFit::ofAll($measures->asset, $measures->clearances(), true)['a'];
        self::assertNull($plain->straight);
        self::assertNotNull($straight->straight);
        self::assertSame(4, $straight->straight['turned'], 'the four corners of the top');
        self::assertLessThan(0.5 * $straight->straight['leanBefore'], $straight->straight['leanAfter']);
        self::assertSame(count($plain->positions), count($straight->positions));
        self::assertLessThanOrEqual(0.0005, $straight->rays->wrongShare);
        self::assertLessThanOrEqual(0.0005, $straight->rays->outsideShare);
        // Vertices that weld are moved as one.
        $low = $measures->asset->sets[0]->low[0]->part->mesh;
        $at = [];
        for ($i = 0; $i < count($low->positions); $i += 3) {
            $at[implode(' ', array_slice($low->positions, $i, 3))][implode(' ', array_slice($straight->positions, $i, 3))] = true;
        }
        self::assertSame([1], array_values(array_unique(array_map(count(...), $at))));
    }

    /** Where nothing leans, nothing is turned. */
    public function test_a_box_without_details_is_left_as_it_is(): void
    {
        $report = Assets::report(['a_low' => Shapes::box(4, 1, 4)], ['a_high' => Shapes::roundedBox(4, 1, 4, 0.02, 2)]);
        $measures = $report->measures;
        self::assertEquals(CageFit::ofAll($measures->asset, $measures->clearances()), CageFit::ofAll($measures->asset, $measures->clearances(), true));
    }
}
