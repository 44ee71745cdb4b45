<?php

declare(strict_types=1);

namespace Anvil\Tests\Figures;

use Anvil\Asset\RenamePlan;
use Anvil\ColorId\By;
use Anvil\ColorId\IdColor;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\ColorId\Legend;
use Anvil\Explode\ExplodePlan;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Measures\Kind\Crossing;
use Anvil\Measures\Kind\TouchingColors;
use Anvil\Modelling\Polygons;
use Anvil\Occlusion\Shading;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Place\PlaceMend;
use Anvil\Place\TiePlace;
use Anvil\Rays\SetSurfaces;
use Anvil\Rays\Visibility;
use Anvil\Report\Report;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Every measure of a varied row of assets against the figures that were looked at and kept in `kept/`, so that no figure moves unnoticed.
 * The figures are the product's own; what is right is held by the tests of closed forms, references and real pairs beside this one.
 */
#[Group('matrix')]
final class KeptFiguresTest extends TestCase
{
    /**
     * @return iterable<string, array{0: array<string, Polygons|Mesh>, 1: array<string, Polygons|Mesh>, 2?: string, 3?: string, 4?: array<string, Polygons|Mesh|Part>}>
     */
    public static function assets(): iterable
    {
        yield from FigureAssets::all();
        yield from FigureAssets::slanting();
    }

    /**
     * Nothing that is measured knows of the axes: what does not say where is the same for an asset that stands askew.
     */
    #[DataProvider('turned')]
    public function test_an_asset_that_stands_askew_measures_the_same(string $name): void
    {
        $measured = static function (iterable $assets, string $name): array {
            foreach ($assets as $key => [$low, $high, $standard, $choices]) {
                if ($key === $name) {
                    return array_map(static fn ($one): array => [$one->d, $one->samples, $one->needed->out, $one->needed->in, $one->firstWrong['out'], $one->firstWrong['in'], $one->recommended->out, $one->recommended->in, $one->overhang, $one->details->lowArea],
                        Assets::report($low, $high, $standard, $choices, [], 2048)->measures->clearances());
                }
            }

            return ['none'];
        };
        $all = static function (callable $of): \Generator {
            foreach ($of() as $name => $asset) {
                yield $name => [$asset[0], $asset[1], $asset[2] ?? '{}', $asset[3] ?? '{}'];
            }
        };
        $upright = $measured($all(FigureAssets::all(...)), $name);
        $askew = $measured($all(FigureAssets::slanting(...)), "$name, askew");
        self::assertSame(array_keys($upright), array_keys($askew));
        foreach ($upright as $set => $values) {
            foreach ($values as $i => $value) {
                // The diagonal of upright bounds is not that of bounds askew, and what hangs on it is not compared.
                if (in_array($i, [2, 3, 9], true)) {
                    self::assertEqualsWithDelta($value, $askew[$set][$i], 4e-4 * $values[0], "$set $i");
                }
            }
        }
    }

    /**
     * @return iterable<string, array{string}>
     */
    public static function turned(): iterable
    {
        foreach (['bolted plate', 'slats that lean', 'a corner and its fillet', 'organic', 'cup', 'a hole, a gap and a pipe within', 'a copy that hides a groove, and a doubled high', 'cards past their leaves', 'neighbours in each other\'s rays'] as $name) {
            yield $name => [$name];
        }
    }

    /**
     * @param  array<string, Polygons|Mesh>  $low
     * @param  array<string, Polygons|Mesh>  $high
     * @param  array<string, Polygons|Mesh|Part>  $id
     */
    #[DataProvider('assets')]
    public function test_no_figure_moves(array $low, array $high, string $standard = '{}', string $choices = '{}', array $id = []): void
    {
        $files = [Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high), ...($id === [] ? [] : [Assets::file('x_id.obj', $id)])];
        $figures = self::figures(Assets::reportOf($files, $standard, $choices, [], 2048));
        self::assertSame([], Kept::moved((string) $this->dataName(), $figures));
    }

    public function test_a_figure_that_moves_is_seen(): void
    {
        self::assertSame(['/a/1: 2.000001 for 2', '/b: "y" for "x"', '/c is gone', '/d is new'], Kept::differences(['a' => [1.0, 2.0], 'b' => 'x', 'c' => null], ['a' => [1.0, 2.000001], 'b' => 'y', 'd' => 1]));
    }

    /**
     * @return array<string, mixed>
     */
    private static function figures(Report $report): array
    {
        $measures = $report->measures;
        $sets = [];
        foreach ($measures->clearances() as $name => $clearance) {
            $sets[$name] = self::short([...$clearance->toArray(), 'places' => array_map(static fn (TiePlace $place): array => $place->toArray(), $measures->placesOf((string) $name))]);
        }
        $plan = ExplodePlan::of($measures->asset, $measures->clearances());
        $ids = IdColors::of($measures->asset);
        $mend = PlaceMend::of($measures->asset, $measures->quarterTurn());
        $surfaces = array_map(static fn (BakeSet $set): SetSurfaces => SetSurfaces::of($set, true), $measures->asset->sets);
        $assembled = Visibility::assembled($surfaces);

        return [
            'findings' => array_map(static fn ($finding): array => self::short($finding->toArray()), $report->findings()),
            'checks' => array_map(static fn ($result): string => "{$result->about->code} $result->state", $report->results),
            'ties' => array_map(static fn (Tie $tie): array => [$tie->base, $tie->kind->value, RoledPart::names($tie->low), RoledPart::names($tie->high), $tie->troubles, $tie->cost, RoledPart::names($tie->better), $tie->betterCost], $measures->asset->pairing->ties),
            'suggestions' => array_map(static fn ($one): array => [$one->part->part->name, $one->rename, $one->reason, $one->confidence], $measures->asset->pairing->suggestions),
            'renames' => [RenamePlan::suggested($measures->asset)->toArray(), RenamePlan::following($measures->asset, Role::Low)->toArray(), RenamePlan::following($measures->asset, Role::High)->toArray(), RenamePlan::addingSuffixes($measures->asset)->toArray()],
            'mend' => $mend === null ? null : [$mend->words(), $mend->matrix->m, $mend->stuck],
            'sets' => $sets,
            'explode' => $plan->toArray($measures->asset),
            'explode all' => array_values(array_filter(ExplodePlan::of($measures->asset, $measures->clearances(), 0.1, true)->vectors)),
            'crossings' => self::short($measures->ofAsset(Crossing::class)),
            'seen' => array_map(static fn (SetSurfaces $set): string => hash('crc32b', Visibility::seenFrom($set, $assembled, false)), $surfaces),
            'shading' => Shading::ofAll($measures->asset),
            'ids' => [$ids->source, array_map(static fn (IdColor $color): array => [$color->names, RoledPart::names($color->parts)], $ids->colors), count($ids->missing), $measures->ofAsset(TouchingColors::class)->toArray()],
            'plans' => array_map(static fn (By $by): array => Legend::ofPlan(IdPlan::of($measures->asset, new IdSheet($by)), $measures->asset)->toArray(), [By::Part, By::Material, By::Region]),
        ];
    }

    /** Long rows of numbers as how many, their sum, and their sum weighted by place. */
    private static function short(mixed $value): mixed
    {
        if (! is_array($value)) {
            return $value;
        }
        if (count($value) > 9 && array_is_list($value) && array_filter($value, static fn (mixed $one): bool => ! is_array($one) && ! is_float($one) && ! is_int($one)) === []) {
            $flat = [];
            array_walk_recursive($value, static function (mixed $one) use (&$flat): void {
                $flat[] = (float) $one;
            });
            $weighted = 0.0;
            foreach ($flat as $i => $one) {
                $weighted += ($i % 17 + 1) * $one;
            }

            return ['count' => count($value), 'sum' => array_sum($flat), 'weighted' => $weighted];
        }

        return array_map(self::short(...), $value);
    }
}
