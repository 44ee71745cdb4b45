<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Explode\ExplodePlan;
use Anvil\Modelling\Shapes;
use Anvil\Occlusion\Shading;
use Anvil\Rays\SampleShares;
use Anvil\Standard\Choices;
use Anvil\Standard\Reach;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Who shades whom, and what follows from the choices of it.
 */
#[Group('matrix')]
final class ShadingTest extends TestCase
{
    /**
     * @return iterable<string, array{float, float}>
     */
    public static function discs(): iterable
    {
        yield 'near' => [1.0, 0.5];
        yield 'as far as it is wide' => [1.0, 1.0];
        yield 'far' => [1.0, 3.0];
    }

    /**
     * A small sheet under a parallel disc, middle under middle: r²/(r² + h²) of its cosine-weighted directions end in the disc (the configuration
     * factor of a plane element and a coaxial disc, J. R. Howell, "A Catalog of Radiation Heat Transfer Configuration Factors").
     */
    #[DataProvider('discs')]
    public function test_a_sheet_under_a_disc_is_shaded_by_its_configuration_factor(float $r, float $h): void
    {
        $sheet = Shapes::sheet(0.01, 0.01);
        $disc = Shapes::cylinder($r, 0.01, 96)->moved(0, $h + 0.005, 0);
        $measures = Assets::report(['a_low' => $sheet, 'b_low' => $disc], ['a_high' => $sheet, 'b_high' => $disc])->measures;
        $shades = Shading::ofAll($measures->asset);
        self::assertSame(['b'], array_column($shades['a'], 'other'));
        // Round about the normal, 16 directions tell elevations apart to half of one of them.
        self::assertEqualsWithDelta($r ** 2 / ($r ** 2 + $h ** 2), $shades['a'][0]['share'], 0.5 / 16);
        // The disc sees hardly any of the sheet.
        self::assertSame([], $shades['b']);
    }

    public function test_a_set_behind_another_does_not_shade(): void
    {
        $sheet = Shapes::sheet(0.01, 0.01);
        $parts = static fn (string $suffix): array => ["a$suffix" => $sheet, "b$suffix" => Shapes::box(4, 0.1, 4)->moved(0, 1, 0), "c$suffix" => Shapes::box(1, 0.1, 1)->moved(0, 2, 0), "d$suffix" => Shapes::box(4, 0.1, 4)->moved(0, -1, 0)];
        $shades = Shading::ofAll(Assets::report($parts('_low'), $parts('_high'))->measures->asset);
        self::assertSame(['b'], array_column($shades['a'], 'other'));
    }

    public function test_lost_occlusion_counts_only_who_is_named(): void
    {
        // A plate close over a block, in its way; a wall beside it that is not.
        $low = ['block_low' => Shapes::box(1, 1, 1), 'plate_low' => Shapes::box(1, 0.1, 1)->moved(0, 0.552, 0), 'wall_low' => Shapes::box(0.1, 3, 3)->moved(-1.5, 0, 0)];
        $high = ['block_high' => Shapes::roundedBox(1, 1, 1, 0.03, 2), 'plate_high' => Shapes::roundedBox(1, 0.1, 1, 0.01, 2)->moved(0, 0.552, 0), 'wall_high' => Shapes::roundedBox(0.1, 3, 3, 0.01, 2)->moved(-1.5, 0, 0)];
        $before = [];
        foreach (['all' => '{"occlusion":"all"}', 'plate' => '{"occlusion":{"block":["plate"]}}', 'wall' => '{"occlusion":{"block":["wall"]}}', 'none' => '{"occlusion":{"plate":["wall"]}}'] as $name => $choices) {
            $measures = Assets::report($low, $high, '{"rays":{"setsKeptApart":false}}', $choices)->measures;
            $plan = ExplodePlan::of($measures->asset, $measures->clearances());
            $before[$name] = $plan->occlusionBefore['block'];
        }
        self::assertGreaterThan(0.1, $before['plate']);
        self::assertGreaterThan(0.02, $before['wall']);
        self::assertSame(0.0, $before['none']);
        // The plate hides some of the wall, so together they shade less than one and the other.
        self::assertGreaterThan($before['plate'], $before['all']);
        self::assertLessThan($before['plate'] + $before['wall'], $before['all']);
    }

    public function test_choices_say_who_may_shade(): void
    {
        $named = Choices::ofJson('{"occlusion":{"a":["b"]}}');
        self::assertTrue($named->mayShade('a', 'b'));
        self::assertFalse($named->mayShade('b', 'a'));
        self::assertTrue(Choices::ofJson('{"occlusion":"all"}')->mayShade('b', 'a'));
        self::assertTrue((new Choices)->mayShade('b', 'a'));
    }

    public function test_a_reach_set_on_one_side_takes_the_recommended_other_side(): void
    {
        $standard = Standard::builtIn()->withReaches(['a' => ['out' => 0.25, 'in' => null], 'b' => ['out' => null, 'in' => '2%']]);
        $recommended = new Reach(0.1, 0.05);
        self::assertEquals(new Reach(0.25, 0.05), $standard->reachOf('a', 10, $recommended));
        self::assertEquals(new Reach(0.1, 0.2), $standard->reachOf('b', 10, $recommended));
        self::assertNull($standard->reachOf('c', 10, $recommended));
    }

    public function test_sample_counts_hold_still_when_another_set_changes_a_little(): void
    {
        $counts = static fn (float $size): array => SampleShares::of(['a' => [Shapes::box(1, 1, 1)->mesh()], 'b' => [Shapes::box(2, 2, 2)->mesh()], 'c' => [Shapes::sheet($size, $size)->mesh()]], 65536);
        $one = $counts(0.5);
        $two = $counts(0.6);
        self::assertSame([$one['a'], $one['b']], [$two['a'], $two['b']]);
        foreach ($one as $count) {
            // One of 16 steps an octave: never more than that below the share.
            self::assertSame(0, $count % (2 ** max(0, (int) floor(log($count, 2)) - 4)));
        }
        self::assertGreaterThan(65536 * 15 / 16, array_sum($one));
        self::assertLessThanOrEqual(65536 + 64, array_sum($one));
    }
}
