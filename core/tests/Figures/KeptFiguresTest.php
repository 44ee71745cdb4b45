<?php

declare(strict_types=1);

namespace Anvil\Tests\Figures;

use Anvil\Clearance\ExplodePlan;
use Anvil\Clearance\Shading;
use Anvil\ColorId\IdColor;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\Touching;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Inspection\Report;
use Anvil\Modelling\Polygons;
use Anvil\Pairing\RenamePlan;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Place\PlaceMend;
use Anvil\Standard\Role;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Every measure of a varied row of assets against the figures that were looked at and kept in `kept/`, so that no figure moves unnoticed.
 * The figures are the product's own; what is right is held by the tests of closed forms, references and real pairs beside this one.
 *
 * `ANVIL_KEEP_FIGURES=1` writes them anew; look through what changed before it is committed.
 */
final class KeptFiguresTest extends TestCase
{
    /** Figures agree to this share of their size, and to this much near 0. */
    private const AGREES = 1e-7;

    /**
     * @return iterable<string, array{0: array<string, Polygons|Mesh>, 1: array<string, Polygons|Mesh>, 2?: string, 3?: string, 4?: array<string, Polygons|Mesh|Part>}>
     */
    public static function assets(): iterable
    {
        return FigureAssets::all();
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
        $path = __DIR__.'/kept/'.preg_replace('/[^a-z]+/', '-', strtolower((string) $this->dataName())).'.json';
        if (getenv('ANVIL_KEEP_FIGURES') === '1') {
            file_put_contents($path, json_encode($figures, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES)."\n");
        }
        self::assertFileExists($path);
        $moved = [];
        self::compare(json_decode((string) file_get_contents($path), true, 64, JSON_THROW_ON_ERROR), json_decode(json_encode($figures, JSON_THROW_ON_ERROR), true, 64, JSON_THROW_ON_ERROR), '', $moved);
        self::assertSame([], array_slice($moved, 0, 20));
    }

    public function test_a_figure_that_moves_is_seen(): void
    {
        $moved = [];
        self::compare(['a' => [1.0, 2.0], 'b' => 'x', 'c' => null], ['a' => [1.0, 2.000001], 'b' => 'y', 'd' => 1], '', $moved);
        self::assertSame(['/a/1: 2.000001 for 2', '/b: "y" for "x"', '/c is gone', '/d is new'], $moved);
    }

    /**
     * @return array<string, mixed>
     */
    private static function figures(Report $report): array
    {
        $inspection = $report->inspection;
        $sets = [];
        foreach ($inspection->clearances as $name => $clearance) {
            $sets[$name] = self::short($clearance->toArray());
        }
        $plan = ExplodePlan::of($inspection);
        $ids = IdColors::of($inspection);
        $mend = PlaceMend::of($inspection);
        $touching = [];
        $colors = array_values($ids->colors);
        foreach ($colors as $i => $one) {
            foreach (array_slice($colors, 0, $i) as $two) {
                $touching[] = Touching::of($one, $two, 0.05);
            }
        }

        return [
            'findings' => array_map(static fn ($finding): array => self::short($finding->toArray()), $report->findings()),
            'checks' => array_map(static fn ($result): string => "{$result->about->code} $result->state", $report->results),
            'ties' => array_map(static fn (Tie $tie): array => [$tie->base, $tie->kind->value, RoledPart::names($tie->low), RoledPart::names($tie->high), $tie->troubles, $tie->cost, RoledPart::names($tie->better), $tie->betterCost], $inspection->pairing->ties),
            'suggestions' => array_map(static fn ($one): array => [$one->part->part->name, $one->rename, $one->reason, $one->confidence], $inspection->pairing->suggestions),
            'renames' => [RenamePlan::suggested($inspection)->toArray(), RenamePlan::following($inspection, Role::Low)->toArray(), RenamePlan::following($inspection, Role::High)->toArray(), RenamePlan::addingSuffixes($inspection)->toArray()],
            'mend' => $mend === null ? null : [$mend->words(), $mend->matrix->m, $mend->stuck],
            'sets' => $sets,
            'explode' => $plan->toArray($inspection),
            'explode all' => array_values(array_filter(ExplodePlan::of($inspection, 0.1, true)->vectors)),
            'shading' => Shading::ofAll($inspection),
            'ids' => [$ids->source, array_map(static fn (IdColor $color): array => [$color->names, RoledPart::names($color->parts)], $ids->colors), count($ids->missing), $touching],
            'plans' => [IdPlan::byPart($inspection)->legend(), IdPlan::byMaterial($inspection)->legend()],
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

    /**
     * @param  list<string>  $moved
     */
    private static function compare(mixed $kept, mixed $now, string $at, array &$moved): void
    {
        if (is_array($kept) && is_array($now)) {
            foreach ($kept as $key => $value) {
                if (array_key_exists($key, $now)) {
                    self::compare($value, $now[$key], "$at/$key", $moved);
                } else {
                    $moved[] = "$at/$key is gone";
                }
            }
            foreach (array_diff_key($now, $kept) as $key => $value) {
                $moved[] = "$at/$key is new";
            }
        } elseif ((is_int($kept) || is_float($kept)) && (is_int($now) || is_float($now))) {
            if (abs($kept - $now) > self::AGREES * max(1.0, abs($kept))) {
                $moved[] = "$at: $now for $kept";
            }
        } elseif ($kept !== $now) {
            $moved[] = $at.': '.json_encode($now, JSON_UNESCAPED_UNICODE).' for '.json_encode($kept, JSON_UNESCAPED_UNICODE);
        }
    }
}
