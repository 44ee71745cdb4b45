<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Asset\ReadFile;
use Anvil\Cage\CageFiles;
use Anvil\Cage\CageFit;
use Anvil\Formats\FormatCatalogue;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Standard\Role;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Cages fitted by vertex, closed forms; each is handed in again and held against its low poly by the checks.
 */
#[Group('matrix')]
final class CageTest extends TestCase
{
    public function test_a_cage_opens_a_span_that_no_single_distance_does(): void
    {
        // Two slats at a gap of 0.2, on one of them a post of 0.4: a reach for the post goes through the gap.
        $report = Assets::report(['a_low' => self::slats()], ['a_high' => self::slatsHigh()->with(Shapes::cylinder(0.1, 0.45, 24)->moved(0, 0.375, 0))]);
        self::assertNotNull(Assets::finding($report, 'span-closed'));
        self::assertEqualsWithDelta(0.4, $report->measures->clearances()['a']->needed->out, 0.001 * $report->measures->clearances()['a']->d);
        $fit = self::fit($report);
        self::assertTrue($fit->isClean());
        // The best single distance clips the post: only vertices around it stand further out.
        self::assertGreaterThan(0, $fit->more);
        self::assertLessThan($fit->vertices / 2, $fit->more);
        self::assertSame([], Assets::codesBesideSurface(self::handedIn($report, $fit, 'obj')));
    }

    /**
     * @return iterable<string, array{string}>
     */
    public static function formats(): iterable
    {
        yield 'obj' => ['obj'];
        yield 'glb' => ['glb'];
    }

    #[DataProvider('formats')]
    public function test_a_written_cage_is_the_low_mesh_with_its_vertices_moved(string $format): void
    {
        $report = Assets::report(['a_low' => Shapes::cylinder(1, 2, 24)], ['a_high' => Shapes::roundedCylinder(1, 2, 0.06, 96, 6)]);
        $again = self::handedIn($report, self::fit($report), $format);
        self::assertSame('passed', Assets::state($again, 'cage-topology'));
        self::assertSame('passed', Assets::state($again, 'cage-inverted'));
        self::assertSame('passed', Assets::state($again, 'cage-pierced'));
        $cage = $again->measures->asset->judged(Role::Cage)[0];
        self::assertSame(['a_cage', $report->measures->asset->judged(Role::Low)[0]->part->mesh->triangleCount()], [$cage->part->name, $cage->part->mesh->triangleCount()]);
    }

    public function test_a_bump_is_enclosed_with_ten_percent_and_the_rest_stays_near(): void
    {
        // A boss of 0.2 over the middle of a sheet of cells of 0.25.
        $report = Assets::report(['a_low' => Shapes::sheet(2, 2, 8, 8)], ['a_high' => Shapes::sheet(2, 2, 16, 16)->with(Shapes::cylinder(0.05, 0.4, 24))]);
        $fit = self::fit($report);
        $heights = [];
        foreach (array_chunk($fit->positions, 3) as [$x, $y, $z]) {
            $heights[sprintf('%.2f %.2f', $x, $z)] = $y;
        }
        self::assertEqualsWithDelta(0.22, $heights['0.00 0.00'], 0.001);
        self::assertEqualsWithDelta(0.001 * $fit->d, $heights['-1.00 -1.00'], 1e-5);
        self::assertTrue($fit->isClean());
    }

    public function test_the_cage_of_a_single_distance_stands_off_by_it(): void
    {
        // At a corner of a box the averaged direction runs along the diagonal, at every vertex as far as said.
        $report = Assets::report(['a_low' => Shapes::box(2, 2, 2)], ['a_high' => Shapes::roundedBox(2, 2, 2, 0.1, 3)]);
        $positions = CageFit::single($report->measures->asset->sets[0], 0.3);
        foreach (array_chunk($positions, 3) as $p) {
            foreach ($p as $value) {
                self::assertEqualsWithDelta(1 + 0.3 / sqrt(3), abs($value), 1e-6);
            }
        }
        self::assertCount(count($report->measures->asset->judged(Role::Low)[0]->part->mesh->positions), $positions);
    }

    public function test_other_sets_are_in_the_way_of_a_cage_where_they_are_baked_together(): void
    {
        // A boss of 0.4 on a slab, under a plate at 0.2 with a hole that the boss goes through: enclosing the boss, the cage goes through the plate.
        $slab = Shapes::box(2, 0.1, 2, 2);
        $high = Shapes::box(2, 0.1, 2, 16)->with(Shapes::cylinder(0.1, 0.45, 24)->moved(0, 0.225, 0));
        $plates = static fn (float $grown): Polygons => Polygons::join([Shapes::box(0.5 - $grown, 0.02, 1.4)->moved(0.6, 0.26, 0), Shapes::box(0.5 - $grown, 0.02, 1.4)->moved(-0.6, 0.26, 0)]);
        $report = static fn (string $standard): Report => Assets::report(['a_low' => $slab, 'b_low' => $plates(0.0)], ['a_high' => $high, 'b_high' => $plates(0.001)], $standard);
        $apart = CageFit::ofAll($report('{}')->measures->asset, $report('{}')->measures->clearances())['a'];
        self::assertTrue($apart->isClean());
        $together = CageFit::ofAll($report('{"rays":{"setsKeptApart":false}}')->measures->asset, $report('{"rays":{"setsKeptApart":false}}')->measures->clearances());
        self::assertFalse($together['a']->isClean());
        self::assertGreaterThan(0.02, $together['a']->rays->wrongShare);
        // The boss is enclosed all the same, and the plates have nothing in their way.
        self::assertLessThan(0.001 * $together['a']->d, $together['a']->rays->outsideBy);
        self::assertTrue($together['b']->isClean());
    }

    private static function fit(Report $report): CageFit
    {
        return CageFit::ofAll($report->measures->asset, $report->measures->clearances())[$report->measures->asset->sets[0]->name];
    }

    /** The same asset with its fitted cage, written and read. */
    private static function handedIn(Report $report, CageFit $fit, string $format): Report
    {
        $sink = new MemorySink;
        $files = $report->measures->asset->files;
        if ($format === 'glb') {
            $files[0] = new ReadFile('x_low.glb', null, $files[0]->sha256, $files[0]->scene, null);
            $report = Assets::reportOf($files);
        }
        [$name] = CageFiles::write($report->measures->asset, [$fit->set => $fit], $sink);
        self::assertSame("x_cage.$format", $name);

        return Assets::reportOf([...$files, new ReadFile($name, null, 'c', FormatCatalogue::read($sink->source($name)), null)]);
    }

    private static function slats(): Polygons
    {
        return Shapes::box(1, 0.1, 1, 4)->moved(0, 0.15, 0)->placed(0, 0, 0.4)->with(Shapes::box(1, 0.1, 1, 4)->moved(0, -0.15, 0)->placed(0.5, 0, 0.4));
    }

    private static function slatsHigh(): Polygons
    {
        $one = Shapes::roundedBox(1, 0.1, 1, 0.01, 2, 8);

        return $one->moved(0, 0.15, 0)->with($one->moved(0, -0.15, 0));
    }
}
