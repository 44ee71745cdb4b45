<?php

declare(strict_types=1);

namespace Anvil\Tests\Handoff;

use Anvil\Asset\GivenMap;
use Anvil\Checks\CheckResult;
use Anvil\Geometry\Part;
use Anvil\Handoff\Extra;
use Anvil\Handoff\MadeOf;
use Anvil\Handoff\Ticket;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Standard\Waiver;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySource;
use DOMDocument;
use DOMElement;
use DOMXPath;
use PHPUnit\Framework\TestCase;

/** The sheet that goes with a hand-off: all it says is measured, stands in a sound page, and whatever was typed stays text. */
final class TicketTest extends TestCase
{
    private const FILES = [['path' => 'files/x_low.obj', 'role' => 'low', 'sha256' => 'aa11', 'bytes' => 12345], ['path' => 'files/<x>.obj', 'role' => null, 'sha256' => 'bb22', 'bytes' => 7]];

    private const OUTPUTS = [['path' => 'outputs/cage/x_cage.obj', 'kind' => 'cage', 'sha256' => 'cc33', 'bytes' => 1000000, 'of' => 'dd']];

    /**
     * Two posts that shade each other, one of them with a hole in its high poly and each in a color of its own, a cap that is baked on itself, and a rope
     * that is left out.
     */
    private static function report(string $choices = '{"leftOut":["rope"],"bakedOnItself":["cap"]}', string $standard = '{"name":"harbor & pier","mapSize":512}', bool $isWhole = false): Report
    {
        $box = Shapes::roundedBox(1, 1, 1, 0.02, 3, 2);
        $holed = $isWhole ? $box : new Polygons($box->points, array_slice($box->faces, 0, count($box->faces) - 12));
        $off = static fn (Polygons $shape, int $place): Polygons => $shape->moved(1.4 * $place, 0, 0)->placed(0.25 * $place + 0.01, 0.01, 0.22);
        $colored = static fn (string $name, Polygons $shape, string $hex): Part => new Part($name, $shape->mesh(30, [[0, "m_$hex"]]), ["m_$hex" => $hex]);

        return Assets::report(
            ['post_a_low' => $off(Shapes::box(1, 1, 1), 0), 'post_b_low' => $off(Shapes::box(1, 1, 1), 1), 'cap_low' => $off(Shapes::box(0.5, 0.5, 0.5), 2), 'rope_low' => $off(Shapes::box(1, 1, 1), 3)],
            ['post_a_high' => $colored('post_a_high', $off($holed, 0), '#E8112D'), 'post_b_high' => $colored('post_b_high', $off($box, 1), '#0000FF'), 'rope_high' => $off($box, 3)], $standard, $choices,
            [new Waiver('ray-miss', ['set' => 'post_a'], null, 'Ines <Falk>', 'seen from afar', '2999-12-31'), new Waiver('texel-density', ['part' => 'cap_low'], null, 'Tomas Reed', 'a "spare"')],
        );
    }

    /**
     * @return array<string, array{list<string>, list<list<string>>}> headline → heads of the columns, cells a row
     */
    private static function tables(string $html): array
    {
        $page = new DOMDocument;
        $before = libxml_use_internal_errors(true);
        libxml_clear_errors();
        self::assertTrue($page->loadHTML($html));
        // "<!doctype html>" is newer than the parser, which says nothing else of a sound page.
        self::assertSame([], array_map(static fn (\LibXMLError $error): string => trim($error->message)." in line $error->line", libxml_get_errors()));
        libxml_use_internal_errors($before);
        $path = new DOMXPath($page);
        self::assertSame(0, $path->query('//script | //img | //link | //*[@src]')->length ?? -1, 'it stands alone');
        $out = [];
        foreach ($page->getElementsByTagName('table') as $table) {
            $cells = static fn (string $query): array => array_map(static fn (\DOMNode $node): string => trim($node->textContent), iterator_to_array($path->query($query, $table) ?: [], false));
            $title = $path->query('preceding-sibling::h2[1]', $table);
            $rows = [];
            foreach ($table->getElementsByTagName('tr') as $row) {
                assert($row instanceof DOMElement);
                $row = array_map(static fn (DOMElement $cell): string => trim($cell->textContent), iterator_to_array($row->getElementsByTagName('td'), false));
                if ($row !== []) {
                    $rows[] = $row;
                }
            }
            $out[trim($title->item(0)->textContent ?? '')] = [$cells('.//th'), $rows];
        }

        return $out;
    }

    /** @param  array{list<string>, list<list<string>>}|null  $table
     * @return list<string> */
    private static function column(?array $table, int $number): array
    {
        return array_column($table[1] ?? [], $number);
    }

    public function test_the_page_says_what_the_data_says(): void
    {
        $report = self::report();
        $ticket = Ticket::of('Pier & <b>posts</b>', $report, 'f00d', 3);
        $html = $ticket->html(self::FILES, self::OUTPUTS);
        self::assertStringContainsString('<h1>Pier &amp; &lt;b&gt;posts&lt;/b&gt; <small>delivery 3</small></h1><p class="verdict">Ready to bake</p>', $html);
        self::assertStringContainsString('>f00d<', $html);
        self::assertStringContainsString('<h2>Left out of the bake</h2><p><code>rope_low</code>, <code>rope_high</code></p>', $html);
        self::assertStringContainsString('<span class="swatch" style="background:#E8112D"></span>', $html);
        $passed = count(array_filter($report->results, static fn (CheckResult $result): bool => $result->state === 'passed'));
        self::assertGreaterThan(40, $passed);
        self::assertStringContainsString("<p>$passed of ".count($report->results).' checks passed;', $html);
        $tables = self::tables($html);
        self::assertSame(['Files', 'What goes along', 'Bake settings', 'Reach a set', 'Who shades whom', 'Color IDs', 'Left to paint after the bake', 'Waived', 'Findings'], array_keys($tables));
        self::assertSame([['file', 'role', 'size', 'SHA-256'], [['files/x_low.obj', 'low', '12,345 bytes', 'aa11'], ['files/<x>.obj', '–', '7 bytes', 'bb22']]], $tables['Files']);
        self::assertSame([['file', 'what', 'size', 'SHA-256'], [['outputs/cage/x_cage.obj', Extra::KINDS['cage'], '1,000,000 bytes', 'cc33']]], $tables['What goes along']);
        self::assertSame([['setting', 'value', 'why'], array_map(array_values(...), $ticket->settings())], $tables['Bake settings']);
        self::assertSame(['set', 'out', 'in', 'why'], $tables['Reach a set'][0]);
        self::assertSame(['cap', 'post_a', 'post_b'], self::column($tables['Reach a set'], 0));
        self::assertSame(array_column($ticket->sets(), 'reason'), self::column($tables['Reach a set'], 3));
        self::assertSame('0.0183 units (1.06 % of the size of the set)', self::column($tables['Reach a set'], 2)[1]);
        self::assertSame([['set', 'bake occlusion together with', 'keep apart from'], [['cap', '–', 'post_b 7.71 %'], ['post_a', '–', 'post_b 8.01 %'], ['post_b', '–', 'post_a 8.27 %, cap 1.89 %']]], $tables['Who shades whom']);
        self::assertSame([['color', 'ID', 'parts'], [['#E8112D', 'm_#E8112D', 'post_a_high'], ['#0000FF', 'm_#0000FF', 'post_b_high']]], $tables['Color IDs']);
        self::assertSame([['page', 'retouch mask', 'share'], [['plain', '190 texels', '0.591 % of those inside islands']]], $tables['Left to paint after the bake']);
        $of = static fn (string $code): string => Assets::finding($report, $code)->message ?? '';
        self::assertSame([['check', 'what', 'by', 'reason'], [['ray-miss', $of('ray-miss'), 'Ines <Falk>', 'seen from afar (until 2999-12-31)'], ['texel-density', $of('texel-density'), 'Tomas Reed', 'a "spare"']]], $tables['Waived']);
        self::assertCount(count($report->causes()), $tables['Findings'][1]);
        self::assertContains('▲ caution (waived)', self::column($tables['Findings'], 0));
        self::assertContains('● note', self::column($tables['Findings'], 0));
        // What is mended is not said of an asset that is ready.
        self::assertSame($report->causes()[0]->message, $tables['Findings'][1][0][2]);
    }

    public function test_the_data_is_whole(): void
    {
        $report = self::report();
        $data = Ticket::of('Pier', $report, null, 3)->toArray(self::FILES, self::OUTPUTS);
        self::assertSame(['yellow-anvil', 1, 'Pier', 3, MadeOf::of($report->measures->asset), 'ready', self::FILES, self::OUTPUTS], array_values(array_slice($data, 0, 8)));
        self::assertSame(['settings', 'sets', 'shades', 'leftOut', 'pages', 'ids', 'maps', 'waivers', 'findings', 'checks', 'standard', 'choices'], array_keys(array_slice($data, 8)));
        self::assertSame([['part' => 'rope_low', 'file' => 'x_low.obj'], ['part' => 'rope_high', 'file' => 'x_high.obj']], $data['leftOut']);
        self::assertSame([], $data['maps']);
        [$cap, $post] = Ticket::of('Pier', $report)->sets();
        self::assertSame([['cap_low'], ['cap_low']], [$cap['low'], $cap['high']]);
        self::assertSame([['post_a_low'], ['post_a_high']], [$post['low'], $post['high']]);
        // Needs nothing outward; a reach is never 0, but 0.001 of the size more than is needed (METHODS), and the diagonal of a box of 1 is √3.
        self::assertEqualsWithDelta(0.001 * M_SQRT3, $post['out'], 1e-12);
        self::assertEqualsWithDelta(0.001, $post['outShare'], 1e-12);
        self::assertEqualsWithDelta(($post['in'] ?? 0.0) / M_SQRT3, $post['inShare'], 1e-12);
        self::assertArrayNotHasKey('delivery', Ticket::of('Pier', $report)->toArray([]));
    }

    public function test_settings_say_the_value_and_its_reason(): void
    {
        $rows = static function (Report $report): array {
            $out = [];
            foreach (Ticket::of('Pier', $report)->settings() as ['setting' => $setting, 'value' => $value, 'reason' => $reason]) {
                self::assertNotSame('', $reason);
                $out[$setting] = [$value, $reason];
            }

            return $out;
        };
        $usual = $rows(self::report());
        self::assertSame(['by name, letter for letter', 'bakers compare exactly (common practice)'], $usual['match parts']);
        self::assertSame(['low _low, high _high, id _id, cage _cage, pose _pose', 'as typed, from the standard "harbor & pier"'], $usual['suffixes']);
        self::assertSame([['512 px', 'from the standard'], ['2 px', 'map size / 256 (common practice)']], [$usual['map size'], $usual['padding']]);
        self::assertSame(['kept apart: each meets its own high poly only', 'from the standard; no set can print on another'], $usual['sets']);
        self::assertSame('each set shades only itself', $usual['occlusion'][0]);
        self::assertSame(['do not stop rays', 'averaged at vertices, length as interpolated', '+Y'], [$usual['back faces'][0], $usual['ray directions'][0], $usual['normal map green'][0]]);
        self::assertSame([['rope', 'by choice'], ['cap', 'by choice']], [$usual['left out'], $usual['baked on itself']]);
        $other = $rows(self::report('{"occlusion":"all"}', '{"pairing":"whole","mapSize":512,"checks":{"uv-padding":{"limit":7.5}},"greenChannel":"-Y","rays":{"direction":"split","length":"unit","backFaces":true,"setsKeptApart":false}}'));
        self::assertSame(['all parts as one set', 'the standard says whole: no name matters'], $other['match parts']);
        self::assertSame(['7.5 px', 'from the standard'], $other['padding']);
        self::assertSame(['all high parts stand in each other\'s way', 'from the standard; the check sets-bleed guards it'], $other['sets']);
        self::assertSame('all sets shade each other', $other['occlusion'][0]);
        self::assertSame(['stop rays too', 'the file\'s own normals, unit length', '-Y'], [$other['back faces'][0], $other['ray directions'][0], $other['normal map green'][0]]);
        self::assertArrayNotHasKey('left out', $other);
        self::assertArrayNotHasKey('baked on itself', $other);
        self::assertSame('as listed in the choices', $rows(self::report('{"occlusion":{"post_a":["post_b"]}}'))['occlusion'][0]);
    }

    /** What may shade a set by the choices is baked together with it. */
    public function test_who_shades_whom_goes_by_the_choices(): void
    {
        $shades = static fn (string $occlusion): array => array_map(static fn (array $one): string => "{$one['set']}<{$one['by']}".($one['wanted'] ? '!' : ''), Ticket::of('Pier', self::report('{"leftOut":["rope"],"bakedOnItself":["cap"],"occlusion":'.$occlusion.'}', '{"mapSize":256}', true))->shades());
        self::assertSame(['cap<post_b', 'post_a<post_b', 'post_b<post_a', 'post_b<cap'], $shades('"own"'));
        self::assertSame(['cap<post_b!', 'post_a<post_b!', 'post_b<post_a!', 'post_b<cap!'], $shades('"all"'));
        self::assertSame(['cap<post_b', 'post_a<post_b!', 'post_b<post_a', 'post_b<cap'], $shades('{"post_a":["post_b"]}'));
    }

    /** Maps of one name, in letters large or small, lie beside each other. */
    public function test_maps_have_places_of_their_own(): void
    {
        $maps = array_map(static fn (string $path): GivenMap => new GivenMap($path, 'normal', 'pier', false, 'aa', new MemorySource($path, '')), ['one/pier_normal.png', 'two/pier_normal.png', 'PIER_normal.png', 'pier_normal-2.png', 'pier_normal.tga']);
        self::assertSame(['maps/pier_normal.png', 'maps/pier_normal-2.png', 'maps/PIER_normal-3.png', 'maps/pier_normal-2-2.png', 'maps/pier_normal.tga'], Ticket::mapPaths($maps));
    }

    /** What stands in the way is read first, each with what mends it. */
    public function test_one_that_is_not_ready_begins_with_its_findings(): void
    {
        $report = Assets::report(['post_low' => Shapes::box(1, 1, 1), 'cap_low' => Shapes::box(1, 1, 1)->moved(3, 0, 0)], ['post_high' => Shapes::roundedBox(1, 1, 1, 0.02, 3, 2)]);
        $ticket = Ticket::of('Pier', $report);
        self::assertSame('blocked', $ticket->toArray([])['verdict']);
        $html = $ticket->html([]);
        self::assertStringContainsString('<h1>Pier</h1><p class="verdict">Not ready</p>', $html);
        $tables = self::tables($html);
        self::assertSame('Findings', array_key_first($tables));
        self::assertArrayNotHasKey('What goes along', $tables);
        self::assertArrayNotHasKey('Waived', $tables);
        self::assertSame(['severity', 'check', 'what'], $tables['Findings'][0]);
        $cause = $report->causes()[0];
        self::assertSame(['⬣ blocker', $cause->code, $cause->message.$cause->remedy], $tables['Findings'][1][0]);
        $unmeasured = array_values(array_filter($ticket->sets(), static fn (array $set): bool => $set['set'] === 'cap'))[0] ?? null;
        self::assertSame([null, null, 'not measured'], [$unmeasured['out'] ?? null, $unmeasured['outShare'] ?? null, $unmeasured['reason'] ?? null]);
        self::assertContains(['cap', '–', '–', 'not measured'], $tables['Reach a set'][1]);
        self::assertStringContainsString('<p>No findings.</p>', Ticket::of('Pier', new Report($report->measures, [], $report->seconds))->html([]));
    }
}
