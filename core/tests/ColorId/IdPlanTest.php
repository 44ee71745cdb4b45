<?php

declare(strict_types=1);

namespace Anvil\Tests\ColorId;

use Anvil\Asset\Asset;
use Anvil\ColorId\By;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\IdPlan;
use Anvil\ColorId\IdSheet;
use Anvil\ColorId\Legend;
use Anvil\ColorId\Palette;
use Anvil\ColorId\PlannedId;
use Anvil\ColorId\SheetId;
use Anvil\Geometry\Color;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/**
 * Which piece wears which ID: cut by part, material, shell, region, set or color; kept over deliveries; pinned; told in a legend.
 */
#[Group('matrix')]
final class IdPlanTest extends TestCase
{
    public function test_each_cut_has_its_pieces(): void
    {
        $asset = self::asset(['b_high' => self::two('steel', 'brass', 3.0), 'a_high' => Shapes::cylinder(1, 1, 24)->mesh(40, [[0, 'steel']])], '{"sets":{"all":["a","b"]}}');
        $names = static fn (By $by): array => array_map(static fn (PlannedId $id): string => $id->name, IdPlan::of($asset, new IdSheet($by))->ids);
        self::assertSame(['a', 'b'], $names(By::Part));
        self::assertSame(['brass', 'steel'], $names(By::Material));
        self::assertSame(['all'], $names(By::Set));
        self::assertSame(['a', 'b 1', 'b 2'], $names(By::Shell));
        self::assertSame(['a 1', 'a 2', 'a 3', ...array_map(static fn (int $k): string => "b $k", range(1, 12))], $names(By::Region));
        $plan = IdPlan::of($asset, new IdSheet(By::Material));
        self::assertSame([['b_high'], ['b_high', 'a_high']], [$plan->ids[0]->parts(), $plan->ids[1]->parts()]);
        self::assertSame([12, 12 + 96], array_map(static fn (PlannedId $id): int => $id->pieces[0]->triangles, $plan->ids));
        // The order of parts in a file changes nothing.
        $other = self::asset(['a_high' => Shapes::cylinder(1, 1, 24)->mesh(40, [[0, 'steel']]), 'b_high' => self::two('steel', 'brass', 3.0)]);
        self::assertEquals($plan->colors(), IdPlan::of($other, new IdSheet(By::Material))->colors());
    }

    public function test_colors_that_are_there_give_the_pieces(): void
    {
        $half = Shapes::box(1, 1, 1)->mesh();
        $colors = [];
        for ($v = 0; $v < $half->vertexCount(); $v++) {
            array_push($colors, ...($half->positions[3 * $v] > 0 ? [1.0, 0.0, 0.0] : [0.0, 0.0, 1.0]));
        }
        $painted = new Mesh($half->positions, $half->triangles, colors: $colors);
        $plan = IdPlan::of(self::asset(['a_high' => $painted]), new IdSheet(By::Colors));
        self::assertSame(['#0000FF', '#FF0000'], array_map(static fn (PlannedId $id): string => $id->name, $plan->ids));
        self::assertSame(12, array_sum(array_map(static fn (PlannedId $id): int => $id->pieces[0]->triangles, $plan->ids)));
        $dyed = static fn (string $name, string $hex): Part => new Part($name, Shapes::box(1, 1, 1)->mesh(40, [[0, $name]]), [$name => $hex]);
        $byMaterial = IdPlan::of(self::asset(['a' => $dyed('a_high', '#112233'), 'b' => $dyed('b_high', '#112233'), 'c' => Shapes::box(2, 2, 2)]), new IdSheet(By::Colors));
        self::assertSame(['a_high', 'no color'], array_map(static fn (PlannedId $id): string => $id->name, $byMaterial->ids));
    }

    public function test_ids_stay_as_long_as_their_part_stays(): void
    {
        $first = IdPlan::of(self::asset(['a_high' => Shapes::box(1, 1, 1), 'b_high' => Shapes::box(2, 1, 1)->moved(5, 0, 0), 'c_high' => Shapes::box(3, 1, 1)->moved(15, 0, 0)]), new IdSheet);
        $hex = self::byName($first);
        // Another order, one renamed, one more.
        $second = IdPlan::of(self::asset(['d_high' => Shapes::box(1, 4, 1)->moved(30, 0, 0), 'c_high' => Shapes::box(3, 1, 1)->moved(15, 0, 0), 'bolt_high' => Shapes::box(2, 1, 1)->moved(5, 0, 0), 'a_high' => Shapes::box(1, 1, 1)]), $first->kept());
        $now = self::byName($second);
        self::assertSame([$hex['a'], $hex['b'], $hex['c']], [$now['a'], $now['b'], $now['c']], 'b is found again as bolt, by its shape');
        self::assertArrayHasKey('d', $now);
        self::assertNotContains($now['d'], $hex);
        self::assertSame(['bolt_high'], $second->ids[array_search('b', array_keys($now), true)]->parts());
        // Two of one shape, none of which is known by name: which is which cannot be told.
        $twins = IdPlan::of(self::asset(['a_high' => Shapes::box(1, 1, 1), 'x_high' => Shapes::box(2, 1, 1)->moved(5, 0, 0), 'y_high' => Shapes::box(2, 1, 1)->moved(5, 0, 0)]), $first->kept());
        self::assertSame(['a', 'x', 'y'], array_keys(self::byName($twins)));
        // A file of a sheet is the same again.
        $text = json_encode([...$second->kept()->toArray(), 'pins' => (object) []], JSON_THROW_ON_ERROR);
        self::assertEquals($second->kept(), IdSheet::ofJson($text));
    }

    public function test_pieces_share_ids_and_new_ones_keep_away_from_what_stays(): void
    {
        $asset = self::asset(['a_high' => Shapes::box(1, 1, 1), 'b_high' => Shapes::box(1, 1, 1)->moved(3, 0, 0), 'c_high' => Shapes::box(1, 1, 1)->moved(6, 0, 0)]);
        $red = Color::of(255, 0, 0);
        $plan = IdPlan::of($asset, new IdSheet(ids: [new SheetId('hull', $red, false, ['a', 'c', 'gone'])]));
        self::assertSame(['hull', 'b'], array_map(static fn (PlannedId $id): string => $id->name, $plan->ids));
        self::assertSame([0, 1, 0], $plan->idOf);
        self::assertEquals($red, $plan->ids[0]->color);
        self::assertGreaterThan(60.0, $plan->ids[1]->color->deltaE($red));
        self::assertSame(['a', 'c'], $plan->kept()->ids[0]->pieces, 'what is gone is forgotten');
        // Spread anew: only what is pinned keeps its color.
        $sheet = new IdSheet(ids: [new SheetId('hull', $red, true, ['a']), new SheetId('b', Color::of(250, 5, 5), false, ['b'])]);
        $spread = IdPlan::of($asset, $sheet->spread());
        self::assertEquals($red, $spread->ids[0]->color);
        self::assertGreaterThan(40.0, $spread->leastDistance());
        // A name that is taken already gets a number.
        self::assertSame(['b', 'b-2', 'c'], array_map(static fn (PlannedId $id): string => $id->name, IdPlan::of($asset, new IdSheet(ids: [new SheetId('b', null, false, ['a'])]))->ids));
    }

    public function test_a_studios_colors_are_pinned_by_name(): void
    {
        $asset = self::asset(['b_high' => self::two('steel_01', 'brass', 3.0), 'a_high' => Shapes::box(1, 1, 1)->mesh(40, [[0, 'steel_02']])]);
        $plan = IdPlan::of($asset, (new IdSheet(By::Material))->withPins(['brass' => Color::of(232, 17, 45), 'steel*' => Color::of(0, 0, 255), 'wood' => Color::of(0, 9, 0)]));
        self::assertSame(['brass' => '#E8112D', 'steel_01' => '#0000FF', 'steel_02' => '#0000FF'], self::byName($plan));
        self::assertSame([true, true, true], array_map(static fn (PlannedId $id): bool => $id->pinned, $plan->ids));
        self::assertSame(['no ID is named wood, which a color is fixed for'], $plan->remarks());
        $some = IdPlan::of($asset, (new IdSheet(By::Material))->withPins(['brass' => Color::of(232, 17, 45)]));
        self::assertGreaterThan(45.0, $some->leastDistance());
    }

    public function test_ids_that_touch_are_further_apart_than_they_need_be(): void
    {
        $parts = [];
        for ($k = 0; $k < 12; $k++) {
            $parts["p{$k}_high"] = Shapes::box(1, 1, 1)->moved((float) $k, 0, 0);
        }
        $plan = IdPlan::of(self::asset($parts), new IdSheet);
        self::assertCount(11, $plan->touching);
        self::assertGreaterThan($plan->leastBefore, $plan->leastTouching());
        self::assertGreaterThan(50.0, $plan->leastTouching());
        self::assertEqualsWithDelta(Palette::leastDistance(Palette::spread(12)), $plan->leastDistance(), 1e-9, 'the palette stays');
        $eyes = IdPlan::of(self::asset($parts), new IdSheet(allEyes: true));
        self::assertGreaterThan(2 * Palette::leastToAll($plan->colors()), Palette::leastToAll($eyes->colors()));
    }

    public function test_more_ids_than_can_be_told_apart_are_refused_with_what_to_do(): void
    {
        $many = Polygons::join(array_map(static fn (int $k): Polygons => Shapes::box(1, 1, 1)->moved(2.0 * $k, 0, 0), range(0, 500)));
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage('by shell there are 501 IDs, and no more than 500 can be told apart; give IDs by part or by set');
        IdPlan::of(self::asset(['a_high' => $many]), new IdSheet(By::Shell));
    }

    public function test_what_should_be_known_is_said(): void
    {
        $ink = static fn (string $material, string $hex): Part => new Part('x_high', Shapes::box(1, 1, 1)->mesh(40, [[0, $material]]), [$material => $hex]);
        $files = [Assets::file('x_low.obj', ['x_low' => Shapes::box(1, 1, 1)]), Assets::file('one_high.obj', ['x' => $ink('Brass', '#112233')], Role::High), Assets::file('two_high.obj', ['x' => $ink('brass', '#112233')], Role::High), Assets::file('three_high.obj', ['x' => $ink('brass', '#332211')], Role::High)];
        $asset = Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'))->asset;
        self::assertSame(
            ['the materials Brass and brass differ in letter case only; each has an ID', 'the material brass is #112233 in two_high.obj and #332211 in three_high.obj'],
            IdPlan::of($asset, new IdSheet(By::Material))->remarks(),
        );
        self::assertSame([], IdPlan::of($asset, new IdSheet)->remarks());
    }

    /** Source: OWASP, CSV Injection: cells that begin with = + - @, a tab or a return. */
    public function test_no_name_is_a_formula_in_a_spreadsheet(): void
    {
        foreach (['=1+1' => "'=1+1", '+x' => "'+x", '-x' => "'-x", '@SUM(A1)' => "'@SUM(A1)", '=a,"b"' => "\"'=a,\"\"b\"\"\"", 'a=b' => 'a=b', 'x-1' => 'x-1'] as $name => $cell) {
            $asset = self::asset(["{$name}_high" => Shapes::box(1, 1, 1)->mesh(40, [[0, 'steel']])]);
            $plan = IdPlan::of($asset, new IdSheet);
            self::assertStringStartsWith("name,hex,parts\n$cell,{$plan->ids[0]->color->hex()},", Legend::ofPlan($plan, $asset)->csv(), $name);
        }
    }

    public function test_the_legend_tells_names_colors_and_parts(): void
    {
        $asset = self::asset(['b_high' => self::two('steel', 'brass', 3.0), 'a, "c"_high' => Shapes::box(1, 1, 1)->mesh(40, [[0, 'steel']])]);
        $byPart = IdPlan::of($asset, new IdSheet);
        $legend = Legend::ofPlan($byPart, $asset);
        $hex = self::byName($byPart);
        self::assertSame(['leastDeltaE00' => round($byPart->leastDistance(), 4), 'ids' => [['name' => 'a, "c"', 'hex' => $hex['a, "c"'], 'parts' => ['a, "c"_id']], ['name' => 'b', 'hex' => $hex['b'], 'parts' => ['b_id']]]], $legend->toArray());
        self::assertSame("name,hex,parts\n\"a, \"\"c\"\"\",{$hex['a, "c"']},\"a, \"\"c\"\"_id\"\nb,{$hex['b']},b_id\n", $legend->csv());
        $b = $byPart->ids[1]->color;
        self::assertStringEndsWith(sprintf("%3d %3d %3d\tb\n", $b->red, $b->green, $b->blue), $legend->gpl());
        self::assertStringStartsWith("GIMP Palette\nName: Color IDs\nColumns: 8\n#\n", $legend->gpl());
        self::assertSame(['b_high'], Legend::ofPlan($byPart, $asset, true)->toArray()['ids'][1]['parts']);
        $byMaterial = Legend::ofPlan(IdPlan::of($asset, new IdSheet(By::Material)), $asset);
        self::assertSame('brass', $byMaterial->toArray()['ids'][0]['material'] ?? null);
        $sink = new MemorySink;
        $legend->write($sink);
        self::assertSame(['legend.json', 'legend.csv', 'palette.gpl', 'legend.png'], $sink->names());
        // A sheet of a legend gives the same colors again.
        $again = IdPlan::of($asset, IdSheet::ofLegend($sink->content('legend.json'), By::Part, 30.0));
        self::assertSame($hex, self::byName($again));
        self::assertNull(Legend::ofColors(IdColors::of(self::asset(['a_high' => Shapes::box(1, 1, 1)]))));
        self::assertNull(Legend::ofPlan(IdPlan::of(self::asset([]), new IdSheet), self::asset([]))->toArray()['leastDeltaE00']);
    }

    /** The picture is a PNG (ISO/IEC 15948) whose swatches are the colors themselves, read here from its bytes. */
    public function test_the_printed_sheet_can_be_picked_from(): void
    {
        foreach ([5, 120] as $count) {
            $parts = [];
            for ($k = 0; $k < $count; $k++) {
                $parts["p{$k}_high"] = Shapes::box(1, 1, 1)->moved(2.0 * $k, 0, 0);
            }
            $asset = self::asset($parts);
            $plan = IdPlan::of($asset, new IdSheet);
            $png = Legend::ofPlan($plan, $asset)->png();
            self::assertSame("\x89PNG\r\n\x1a\n", substr($png, 0, 8));
            $at = 8;
            $data = $types = '';
            $size = [];
            while ($at < strlen($png)) {
                /** @var array{n: int, t: string} $head */
                $head = unpack('Nn/a4t', $png, $at);
                $body = substr($png, $at + 8, $head['n']);
                self::assertSame(pack('N', crc32($head['t'].$body)), substr($png, $at + 8 + $head['n'], 4));
                $types .= "{$head['t']} ";
                if ($head['t'] === 'IHDR') {
                    $size = unpack('Nw/Nh/C5', $body);
                }
                $data .= $head['t'] === 'IDAT' ? $body : '';
                $at += 12 + $head['n'];
            }
            self::assertSame('IHDR sRGB IDAT IEND ', $types);
            self::assertIsArray($size);
            $rows = str_split((string) gzuncompress($data), 1 + 3 * $size['w']);
            self::assertCount($size['h'], $rows);
            // Second swatch of the first row, at its middle; large ones stand four in a row, small ones six.
            [$x, $y] = $count > 100 ? [24 + 198 + 50, 24 + 18] : [24 + 298 + 50, 24 + 32];
            self::assertSame($plan->ids[1]->color->hex(), sprintf('#%02X%02X%02X', ...array_values((array) unpack('C3', $rows[$y], 1 + 3 * $x))));
            self::assertStringContainsString("\x11\x11\x11", implode('', array_slice($rows, $count > 100 ? 60 : 88, 24)), 'letters under it');
        }
    }

    /**
     * @return iterable<string, array{string, string}>
     */
    public static function wrongSheets(): iterable
    {
        yield 'no object' => ['[]', 'JSON'];
        yield 'unknown key' => ['{"colour":1}', 'colour is not a known key'];
        yield 'unknown cut' => ['{"by":"face"}', 'by is none of part, material, shell, region, set, colors'];
        yield 'angle' => ['{"angle":180}', 'angle is not a number of degrees between 0 and 180'];
        yield 'no name' => ['{"ids":[{"pieces":[]}]}', 'ids[0].name is missing'];
        yield 'two of one name' => ['{"ids":[{"name":"a","pieces":[]},{"name":"a","pieces":[]}]}', 'is the name of another ID, too'];
        yield 'a piece twice' => ['{"ids":[{"name":"a","pieces":["x"]},{"name":"b","pieces":["x"]}]}', 'holds "x", which wears another ID already'];
        yield 'no color' => ['{"ids":[{"name":"a","hex":"red","pieces":[]}]}', 'ids[0].hex is no color: it is written as #RRGGBB'];
        yield 'no pinned color' => ['{"pins":{"brass*":"#12345"}}', 'pins.brass* is no color: it is written as #RRGGBB'];
    }

    #[DataProvider('wrongSheets')]
    public function test_a_sheet_that_is_wrong_is_refused_by_its_key(string $text, string $words): void
    {
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage($words);
        IdSheet::ofJson($text);
    }

    public function test_a_standard_may_fix_colors(): void
    {
        $standard = Standard::ofJson('{"idColors":{"brass*":"#E8112D"}}');
        self::assertEquals(['brass*' => Color::of(0xE8, 0x11, 0x2D)], $standard->idColors);
        self::assertSame(['brass*' => '#E8112D'], $standard->toArray()['idColors'] ?? null);
        self::assertSame([], Standard::builtIn()->idColors);
        self::assertArrayNotHasKey('idColors', Standard::builtIn()->toArray());
        $this->expectExceptionMessage('idColors.brass is no color');
        Standard::ofJson('{"idColors":{"brass":"E8112D"}}');
    }

    /** Two boxes in one part, a material each. */
    private static function two(string $one, string $two, float $apart): Mesh
    {
        return Shapes::box(1, 1, 1)->with(Shapes::box(1, 1, 1)->moved($apart, 0, 0))->mesh(40, [[0, $one], [6, $two]]);
    }

    /**
     * @param  array<string, Polygons|Mesh|Part>  $high
     */
    private static function asset(array $high, string $choices = '{}'): Asset
    {
        $low = [];
        foreach (array_keys($high) as $name) {
            $low[str_replace('_high', '_low', $name)] = Shapes::box(1, 1, 1);
        }

        return Measures::of([Assets::file('x_low.obj', $low), Assets::file('x_high.obj', $high)], Standard::builtIn(), Choices::ofJson($choices))->asset;
    }

    /**
     * @return array<string, string>
     */
    private static function byName(IdPlan $plan): array
    {
        $out = [];
        foreach ($plan->ids as $id) {
            $out[$id->name] = $id->color->hex();
        }

        return $out;
    }
}
