<?php

declare(strict_types=1);

namespace Anvil\Tests\Clearance;

use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\TestCase;

/**
 * Foliage: leaves over a card are its own, however many and however small; what the card shows beside them is margin. Common practice, no published source.
 */
final class CardsTest extends TestCase
{
    /** Leaves side by side over a card of 1 × 1, with gaps between them that do not reach its border. */
    private static function leaves(float $height, float $thick = 0.004): Polygons
    {
        $out = new Polygons;
        foreach ([-0.36, -0.12, 0.12, 0.36] as $x) {
            foreach ([-0.36, -0.12, 0.12, 0.36] as $z) {
                $out = $out->with(Shapes::roundedBox(0.2, $thick, 0.2, 0.3 * $thick, 2, 4)->moved($x, $height, $z));
            }
        }

        return $out;
    }

    /** Bent a little, so that its bounds and those of the leaves meet. */
    private static function card(): Polygons
    {
        return Shapes::sheet(1, 1, 8, 8)->mapped(static fn (array $p): array => [$p[0], 0.08 * $p[0] ** 2, $p[2]]);
    }

    private static function asset(Polygons $card, Polygons $leaves, string $choices = '{}', bool $isCutOut = false): Report
    {
        return Assets::reportOf([
            Assets::file('fern_low.obj', ['fern_low' => new Part('fern_low', Assets::worn($card->mesh()), facts: new PartFacts(cutOut: $isCutOut))]),
            Assets::file('fern_high.obj', ['fern_high' => $leaves]),
        ], '{"checks":{"off-alignment":{"severity":"off"},"axis-mismatch":{"severity":"off"}}}', $choices);
    }

    public function test_leaves_over_a_card_are_its_own_and_what_it_shows_beside_them_is_margin(): void
    {
        foreach (['by its material' => ['{}', true], 'by choice' => ['{"cards":["fern_*"]}', false]] as $words => [$choices, $isCutOut]) {
            $report = self::asset(self::card(), self::leaves(0.021), $choices, $isCutOut);
            self::assertSame(['low-margin note'], Assets::codesBesideSurface($report), $words);
            // 16 leaves of 0.2 × 0.2 leave 36 % of it.
            self::assertEqualsWithDelta(0.36, Assets::finding($report, 'low-margin')->measure->value ?? 0.0, 0.02);
            self::assertNull(Assets::finding($report, 'proof-retouch'), 'a margin that is masked out is not painted');
            $loss = Assets::finding($report, 'silhouette-loss');
            // Beside the leaves it reaches 0.04 past them, which its mask hides; they lie by up to 0.023 over it.
            self::assertEqualsWithDelta(0.023, $loss->measure->value ?? 0.0, 0.001);
            self::assertSame('bend the card to its high poly, or widen it', $loss?->remedy);
        }
    }

    /** Leaves out to 0.46 over a card that ends at 0.4: what has no card under it is lost whatever a mask hides. */
    public function test_leaves_past_their_card_are_lost_at_its_outline(): void
    {
        $report = self::asset(self::card()->scaled(0.8, 1, 0.8), self::leaves(0.021), '{"cards":["fern_*"]}');
        self::assertEqualsWithDelta(0.06, Assets::finding($report, 'silhouette-loss')->measure->value ?? 0.0, 0.03);
        self::assertGreaterThan(0.4, abs(Assets::finding($report, 'silhouette-loss')->where[0][0] ?? 0.0) + abs(Assets::finding($report, 'silhouette-loss')->where[0][2] ?? 0.0));
    }

    public function test_loose_leaves_over_a_card_that_nobody_named_leave_a_margin_too(): void
    {
        $report = self::asset(self::card(), self::leaves(0.021));
        self::assertSame(['low-margin caution'], Assets::codesBesideSurface($report));
        self::assertSame('passed', Assets::state($report, 'floater-unbacked'));
    }

    public function test_leaves_over_a_surface_of_their_own_float(): void
    {
        // With the sheet itself on the high side, the leaves hover over it.
        $report = self::asset(Shapes::sheet(1, 1), self::leaves(0.1, 0.02)->with(Shapes::sheet(1, 1, 12, 12)));
        self::assertContains('floater-rim caution', Assets::codesBesideSurface($report));
        // Over a hole in it they hover over nothing: a share with the limits of misses, one finding for all of the part.
        $holed = new Polygons(Shapes::sheet(1, 1, 20, 20)->points, array_values(array_filter(Shapes::sheet(1, 1, 20, 20)->faces, static function (array $face): bool {
            $points = Shapes::sheet(1, 1, 20, 20)->points;

            return abs($points[$face[0]][0] + $points[$face[2]][0]) > 0.85 || abs($points[$face[0]][2] + $points[$face[2]][2]) > 0.85;
        })));
        $report = self::asset(Shapes::sheet(1, 1), self::leaves(0.03)->with($holed));
        $found = array_values(array_filter($report->findings(), static fn ($one): bool => $one->code === 'floater-unbacked'));
        self::assertCount(1, $found);
        self::assertSame('fern_high', $found[0]->subject['part'] ?? '');
        self::assertGreaterThan(0.005, $found[0]->measure->value ?? 0.0);
        self::assertStringContainsString('floating shells', $found[0]->message);
    }

    /** A thin leaf has two sides: its outer one counts, not the one that lies nearer to the card. */
    public function test_a_card_under_thin_leaves_does_not_face_away(): void
    {
        $report = self::asset(self::card(), self::leaves(0.021), '{"cards":["fern_*"]}');
        self::assertSame('passed', Assets::state($report, 'mesh-flipped'));
        // Of one side, it does where it is turned.
        $turned = self::asset(Shapes::sheet(1, 1)->flipped(), Shapes::sheet(1, 1, 9, 9)->moved(0, 0.01, 0), '{"cards":["fern_*"]}');
        self::assertSame('found', Assets::state($turned, 'mesh-flipped'));
    }

    /** A thin leaf whose border is rounded is not faceted; a cube shaded all smooth is. */
    public function test_the_rim_of_a_leaf_makes_no_facets(): void
    {
        $leaf = Shapes::box(0.4, 0.01, 0.4, 4)->mesh(180);
        self::assertSame('passed', Assets::state(Assets::report(['a_low' => Shapes::sheet(0.4, 0.4)], ['a_high' => $leaf]), 'high-faceted'));
        $cube = Assets::report(['a_low' => Shapes::box(1, 1, 1)], ['a_high' => Shapes::box(1.02, 1.02, 1.02)->mesh(180)], '{"checks":{"pair-self":{"severity":"off"}}}');
        self::assertSame('found', Assets::state($cube, 'high-faceted'));
    }

    /** Six like details hover alike, wherever rays lean over them. */
    public function test_like_floating_details_are_told_alike(): void
    {
        $hex = Shapes::roundedCylinder(0.4, 0.36, 0.06, 6, 1);
        $high = Shapes::box(20, 2, 12, 12);
        foreach ([-5.0, -3.0, -1.0, 1.0, 3.0, 5.0] as $x) {
            $high = $high->with($hex->moved($x, 1.21, 4.6));
        }
        $report = Assets::report(['slab_low' => Shapes::box(20, 2, 12)], ['slab_high' => $high], rays: 32768);
        self::assertCount(6, array_filter($report->findings(), static fn ($one): bool => $one->code === 'floater-rim'));
        self::assertCount(1, array_filter($report->causes(), static fn ($one): bool => $one->code === 'floater-rim'), 'one cause');
    }
}
