<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Folder;
use Demo\SignalStation;
use Tests\TestCase;

/**
 * The headless contract: whole processes, without a database (CLI.md).
 */
final class HeadlessTest extends TestCase
{
    private static string $folder;

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir().'/anvil-headless-'.bin2hex(random_bytes(4));
        foreach (SignalStation::all() as $asset) {
            self::demoFiles($asset, self::$folder);
        }
        file_put_contents(self::$folder.'/empty.obj', "# nothing\nv 0 0 0\n");
        file_put_contents(self::$folder.'/broken.obj', "v 0 0 0\nf 1 2 3\n");
        file_put_contents(self::$folder.'/standard.json', '{"rays":{"setsKeptApart":false}}');
    }

    public static function tearDownAfterClass(): void
    {
        Folder::remove(self::$folder);
    }

    public function test_inspect_prints_one_document_and_exits_by_verdict(): void
    {
        [$code, $out, $err] = $this->anvil('inspect', 'winch_low.obj', 'winch_high.obj', '--json', '--rays=2048');
        self::assertSame([0, ''], [$code, $err]);
        $report = json_decode($out, true);
        self::assertIsArray($report);
        self::assertSame(['tool', 'schema', 'verdict', 'files', 'parts', 'sets', 'common', 'suggestions', 'findings', 'causes', 'checks', 'seconds', 'peakMemoryBytes'], array_keys($report));
        self::assertSame('ready', $report['verdict']);
        self::assertSame(['path', 'role', 'format', 'sha256', 'unit', 'upAxis', 'parts', 'triangles', 'vertices', 'materials', 'bounds'], array_keys($report['files'][0]));
        self::assertNull($report['files'][0]['unit']);
        // In text notes are one line, unless they are asked for.
        [, $text] = $this->anvil('inspect', 'winch_low.obj', 'winch_high.obj', '--rays=2048');
        [, $whole] = $this->anvil('inspect', 'winch_low.obj', 'winch_high.obj', '--rays=2048', '--notes');
        $notes = count(array_filter($report['causes'], static fn (array $cause): bool => $cause['severity'] === 'note'));
        self::assertGreaterThan(0, $notes);
        self::assertSame([0, 1], [preg_match_all('/^note /m', $text), preg_match_all("/^$notes notes?, shown with --notes: /m", $text)]);
        self::assertGreaterThan(0, preg_match_all('/^note /m', $whole));
        self::assertStringNotContainsString('--notes', $whole);
        $lantern = json_decode($this->anvil('inspect', 'lantern_low.glb', 'lantern_high.glb', '--format=json', '--standard=standard.json', '--rays=4096')[1], true);
        self::assertLessThan(0, array_column($lantern['sets'] ?? [], 'explode', 'name')['shutter_left'][0] ?? 0);
        self::assertSame(['name', 'low', 'high', 'id', 'cage', 'reach', 'needed', 'firstWrong', 'recommended', 'explode'], array_keys($report['sets'][0]));
        self::assertSame([1, 9], [$this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', '--rays=1024')[0], count(array_filter(json_decode($this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', '--json', '--rays=1024')[1], true)['findings'] ?? [], static fn (array $finding): bool => $finding['severity'] !== 'note'))]);
    }

    public function test_unusable_input_exits_with_2_says_so_and_prints_json_when_asked(): void
    {
        foreach ([['missing.obj'], ['broken.obj'], [], ['winch_low.obj', '--standard=nowhere.json'], ['winch_low.obj', '--only=smudge'], ['winch_low.obj', '--wrong-option']] as $arguments) {
            [$code, $out, $err] = $this->anvil('inspect', ...$arguments);
            self::assertSame([2, ''], [$code, $out], implode(' ', $arguments));
            self::assertNotSame('', $err);
            self::assertStringNotContainsString('#0', $err, 'no stack trace');
        }
        [$code, $out] = $this->anvil('inspect', 'broken.obj', '--json');
        $error = json_decode($out, true);
        self::assertSame([2, 'yellow-anvil', 'file-unreadable', 'broken.obj', 2], [$code, $error['tool'] ?? null, $error['error']['code'] ?? null, $error['error']['file'] ?? null, $error['error']['line'] ?? null]);
        self::assertSame(1, $this->anvil('inspect', 'empty.obj', 'winch_high.obj', '--rays=1024')[0], 'a file without triangles is a finding');
    }

    public function test_the_jit_gives_what_php_gives_without_it(): void
    {
        copy(__DIR__.'/nook/nook_low.obj', self::$folder.'/nook_low.obj');
        copy(__DIR__.'/nook/nook_low.mtl', self::$folder.'/nook_low.mtl');
        copy(__DIR__.'/nook/nook_high.obj', self::$folder.'/nook_high.obj');
        copy(__DIR__.'/nook/nook_high.mtl', self::$folder.'/nook_high.mtl');
        $needed = static function (string $flags): mixed {
            $files = array_map(static fn (string $name): string => escapeshellarg(self::$folder."/$name"), ['nook_low.mtl', 'nook_low.obj', 'nook_high.mtl', 'nook_high.obj']);
            $out = shell_exec('ANVIL_MEASURES= ANVIL_REEXEC=1 '.PHP_BINARY." $flags artisan anvil:inspect ".implode(' ', $files).' --json --standard='.escapeshellarg(__DIR__.'/nook/standard-1.json').' 2>/dev/null');
            $report = json_decode((string) $out, true);

            return is_array($report) ? [$report['verdict'], $report['sets']] : $out;
        };
        $flags = trim((string) file_get_contents('bin/jit.flags'));
        $with = $needed($flags);
        self::assertSame($needed('-d opcache.jit=off'), $with);
        self::assertEqualsWithDelta(0.0722, $with[1][0]['needed']['out'] ?? 0, 0.0001);
    }

    public function test_a_role_prefix_says_the_role_and_contradictions_are_found(): void
    {
        $report = json_decode($this->anvil('inspect', 'high:winch_low.obj', 'low:winch_high.obj', '--json', '--rays=1024')[1], true);
        self::assertSame(['role-mixed'], array_values(array_unique(array_column($report['findings'] ?? [], 'code'))));
    }

    public function test_rename_explode_color_id_and_package_write_what_they_say_and_nothing_half(): void
    {
        [$code, $out] = $this->anvil('rename', 'gauge_low.obj', 'gauge_high.obj', '--json');
        self::assertSame([0, ['gauge_high.obj', 'Dial_high', 'dial_high']], [$code, array_slice(array_values(json_decode($out, true)['plan'][0] ?? []), 0, 3)]);
        self::assertSame(0, $this->anvil('rename', 'gauge_low.obj', 'gauge_high.obj', '--apply', '--out=renamed')[0]);
        self::assertSame((string) str_replace(['o Dial_high', 'o needle_High'], ['o dial_high', 'o needle_high'], (string) file_get_contents(self::$folder.'/gauge_high.obj')), file_get_contents(self::$folder.'/renamed/gauge_high.obj'));
        self::assertFileExists(self::$folder.'/renamed/gauge_low.mtl');
        self::assertSame(2, $this->anvil('rename', 'gauge_low.obj', '--apply', '--out=renamed')[0], 'a folder that holds files is not written to');

        self::assertSame(0, $this->anvil('explode', 'lantern_low.glb', 'lantern_high.glb', '--standard=standard.json', '--rays=8192', '--out=exploded')[0]);
        $plan = json_decode((string) file_get_contents(self::$folder.'/exploded/explode.json'), true);
        self::assertSame(['clearance', 'sets', 'bleedBefore', 'bleedAfter'], array_keys($plan));
        self::assertEquals(0, $plan['bleedAfter']);
        self::assertSame(0, $this->anvil('inspect', 'exploded/lantern_low.glb', 'exploded/lantern_high.glb', '--standard=standard.json', '--rays=8192')[0]);

        self::assertSame(0, $this->anvil('color-id', 'gauge_low.obj', 'gauge_high.obj', '--out=ids')[0]);
        self::assertSame(['gauge_id.mtl', 'gauge_id.obj', 'legend.csv', 'legend.json', 'legend.png', 'palette.gpl'], array_values(array_diff(scandir(self::$folder.'/ids') ?: [], ['.', '..'])));
        self::assertSame([], array_values(array_filter(json_decode($this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', 'ids/gauge_id.obj', '--json', '--only=id-close,id-missing')[1], true)['findings'], static fn (array $f): bool => $f['severity'] === 'blocker')));

        self::assertSame(1, $this->anvil('package', 'gauge_low.obj', 'gauge_high.obj', '--rays=1024', '--out=gauge.zip')[0]);
        self::assertFileDoesNotExist(self::$folder.'/gauge.zip');
        self::assertSame(0, $this->anvil('package', 'winch_low.obj', 'winch_high.obj', '--rays=1024', '--out=winch.zip')[0]);
        self::assertFileExists(self::$folder.'/winch.zip');
        self::assertSame([], glob(self::$folder.'/*.part*') ?: [], 'nothing half written is left');
    }

    public function test_a_package_is_verified_by_who_receives_it(): void
    {
        $zip = self::$folder.'/received.zip';
        self::assertSame(0, $this->anvil('package', ...array_map(static fn (string $role): string => self::$folder."/winch_$role.obj", ['low', 'high']), ...['--rays=4096', "--out=$zip"])[0]);
        [$code, $json] = $this->anvil('verify', $zip, '--json');
        $said = json_decode($json, true);
        self::assertIsArray($said);
        self::assertSame([0, 'ready', hash_file('sha256', $zip), []], [$code, $said['verdict'] ?? null, $said['package']['sha256'] ?? null, $said['findings'] ?? null]);
        self::assertContains('files/winch_low.obj', array_column((array) $said['files'], 'path'));
        // Held against the files, the standard and the choices of today, and with what goes along.
        [$low, $high] = [self::$folder.'/winch_low.obj', self::$folder.'/winch_high.obj'];
        self::assertSame(0, $this->anvil('verify', $zip, "--with=$low", "--with=$high")[0]);
        $later = self::$folder.'/later';
        mkdir($later);
        file_put_contents("$later/winch_high.obj", file_get_contents($high)."# saved again\n");
        [$code, $json] = $this->anvil('verify', $zip, "--with=$low", "--with=$later/winch_high.obj", '--json');
        self::assertSame([1, 'package-stale', 'winch_high.obj'], [$code, json_decode($json, true)['findings'][0]['code'] ?? null, json_decode($json, true)['findings'][0]['subject']['file'] ?? null]);
        file_put_contents("$later/choices.json", '{"detachable":["crank"]}');
        self::assertStringContainsString('as it was sealed, and out of date', $this->anvil('verify', $zip, "--choices=$later/choices.json")[1]);
        self::assertSame(0, $this->anvil('proof', $low, $high, "--out=$later/proof", '--size=64', '--directions=16', '--rays=2048')[0]);
        self::assertSame(0, $this->anvil('package', $low, $high, '--rays=4096', "--out=$later/along.zip", '--with=retouch', "--proof=$later/proof")[0]);
        self::assertSame(0, $this->anvil('verify', "$later/along.zip")[0]);
        [$code, $json] = $this->anvil('package', $low, "$later/winch_high.obj", '--rays=4096', "--out=$later/mixed.zip", "--proof=$later/proof", '--json');
        self::assertSame([1, 'blocked', null, true], [$code, json_decode($json, true)['verdict'] ?? null, json_decode($json, true)['package'] ?? null, in_array('package-mixed', array_column(json_decode($json, true)['findings'] ?? [], 'code'), true)]);
        self::assertFileDoesNotExist("$later/mixed.zip");
        self::assertSame(2, $this->anvil('package', $low, $high, "--out=$later/x.zip", '--with=maps')[0]);
        self::assertSame(2, $this->anvil('package', $low, $high, "--out=$later/x.zip", "--proof=$later", '--rays=4096')[0]);
        $bytes = (string) file_get_contents($zip);
        $bytes[intdiv(strlen($bytes), 2)] = chr(ord($bytes[intdiv(strlen($bytes), 2)]) ^ 1);
        file_put_contents($zip, $bytes);
        [$code, $text] = $this->anvil('verify', $zip);
        self::assertSame(1, $code);
        self::assertStringContainsString('not as it was sealed: do not use it', $text);
        file_put_contents($zip, 'no zip');
        [$code, $json] = $this->anvil('verify', $zip, '--json');
        self::assertSame([1, 'package-readback'], [$code, json_decode($json, true)['findings'][0]['code'] ?? null]);
        self::assertSame(2, $this->anvil('verify', self::$folder.'/nowhere.zip')[0]);
    }

    public function test_a_watch_says_what_it_lacks(): void
    {
        foreach ([[self::$folder.'/nowhere'], [self::$folder]] as $arguments) {
            [$code, $out, $err] = $this->anvil('watch', ...$arguments);
            self::assertSame([2, ''], [$code, $out]);
            self::assertMatchesRegularExpression('/is no folder|set ANVIL_TOKEN/', $err);
        }
    }

    public function test_a_folder_of_assets_is_inspected_each_by_itself_and_goes_on_where_it_ended(): void
    {
        $folder = self::$folder.'/each';
        mkdir("$folder/cranes", 0o700, true);
        foreach (['winch_low.obj', 'winch_low.mtl', 'winch_high.obj', 'winch_high.mtl'] as $name) {
            copy(self::$folder."/$name", "$folder/cranes/$name");
        }
        file_put_contents("$folder/cleat_low.obj", "v 0 0 0\nv 1 0 0\nv 1 1 0\nvt 0 0\nvt 1 0\nvt 1 1\no cleat_low\nusemtl a\nf 1/1 2/2 3/3\n");
        file_put_contents("$folder/wreck_low.obj", "v 0 0 0\nf 1 2 3\n");
        file_put_contents("$folder/notes.txt", 'no mesh');
        $keep = self::$folder.'/each-kept';
        $run = function (string ...$more) use ($folder, $keep): array {
            [$code, $out] = $this->anvil('inspect', "--each=$folder", "--keep=$keep", '--rays=1024', ...$more);

            return [$code, $out];
        };
        [$code, $json] = $run('--json');
        $said = json_decode($json, true);
        self::assertIsArray($said);
        $rows = array_column((array) $said['assets'], null, 'asset');
        self::assertSame([1, 'blocked', ['cleat', 'cranes/winch', 'wreck']], [$code, $said['verdict'], array_keys($rows)]);
        self::assertSame(['blocked', 'ready', 'unreadable'], array_column($rows, 'verdict'));
        self::assertContains('pair-no-high', array_column($rows['cleat']['causes'], 'code'));
        self::assertNotNull($rows['wreck']['error']);
        self::assertSame([false, false, false], array_column($rows, 'known'));
        // What was answered is not asked again, until a file of it is another; what could not be read is.
        touch("$folder/cranes/winch_low.obj");
        self::assertSame(['cleat' => true, 'cranes/winch' => true, 'wreck' => false], array_column((array) json_decode($run('--json')[1], true)['assets'], 'known', 'asset'));
        file_put_contents("$folder/cleat_low.obj", "# more\n", FILE_APPEND);
        self::assertSame(['cleat' => false, 'cranes/winch' => true, 'wreck' => false], array_column((array) json_decode($run('--json')[1], true)['assets'], 'known', 'asset'));
        self::assertSame(['cleat' => false, 'cranes/winch' => false, 'wreck' => false], array_column((array) json_decode($this->anvil('inspect', "--each=$folder", "--keep=$keep", '--rays=1025', '--json')[1], true)['assets'], 'known', 'asset'), 'other rules, other answers');
        unlink("$folder/wreck_low.obj");
        unlink("$folder/cleat_low.obj");
        [$code, $text] = $run();
        self::assertSame(0, $code);
        self::assertStringContainsString('1 asset: 1 ready', $text);
        $xml = simplexml_load_string($run('--format=junit')[1]);
        self::assertNotFalse($xml);
        self::assertSame(['1', '0', 'cranes/winch'], [(string) $xml->testsuite['tests'], (string) $xml->testsuite['failures'], (string) $xml->testsuite->testcase['name']]);
        $html = $run('--format=html')[1];
        self::assertStringContainsString('each: 1 assets, 1 ready to bake', $html);
        self::assertStringNotContainsString('src=', $html);
        foreach ([["--each=$folder/nowhere"], ["--each=$folder", 'winch_low.obj'], ["--each=$folder", '--format=sarif'], ["--each=$folder", '--standard=nowhere.json']] as $wrong) {
            self::assertSame(2, $this->anvil('inspect', ...$wrong)[0], implode(' ', $wrong));
        }
    }

    public function test_color_ids_are_given_as_they_are_asked_for(): void
    {
        file_put_contents(self::$folder.'/pins.json', '{"brass*":"#E8112D"}');
        [$code, $out] = $this->anvil('color-id', 'gauge_low.obj', 'gauge_high.obj', '--by=material', '--pin=pins.json', '--json', '--out=pinned');
        self::assertSame(0, $code);
        $hex = array_column(json_decode($out, true)['ids'], 'hex', 'name');
        self::assertSame('#E8112D', $hex['brass']);
        // The legend of one delivery gives the next one the same colors.
        [, $again] = $this->anvil('color-id', 'gauge_low.obj', 'gauge_high.obj', '--by=material', '--keep=pinned/legend.json', '--json', '--out=kept');
        self::assertSame($hex, array_column(json_decode($again, true)['ids'], 'hex', 'name'));
        [$code, $words] = $this->anvil('color-id', 'gauge_low.obj', 'gauge_high.obj', '--by=region', '--angle=50', '--onto=high', '--as=vertex-colours', '--all-eyes', '--out=onto');
        self::assertSame(0, $code);
        self::assertMatchesRegularExpression('/^\d+ IDs, the closest two ΔE00 [\d.]+ apart \([\d.]+ to the eye that tells colors apart worst\); the closest two that touch [\d.]+/m', $words);
        self::assertSame(['gauge_high.obj', 'legend.csv', 'legend.json', 'legend.png', 'palette.gpl'], array_values(array_diff(scandir(self::$folder.'/onto') ?: [], ['.', '..'])));
        foreach (['set', 'shell', 'colors'] as $by) {
            self::assertSame(0, $this->anvil('color-id', 'gauge_low.obj', 'gauge_high.obj', "--by=$by", "--out=by_$by")[0], $by);
        }
        file_put_contents(self::$folder.'/wrong.json', '{"brass":"red"}');
        foreach ([['--by=face', 'one of part, material, shell, region, set, colors'], ['--angle=0', 'degrees between 0 and 180'], ['--onto=low', '--onto is copy or high'], ['--as=paint', '--as is materials'], ['--pin=wrong.json', 'brass is no color'], ['--pin=none.json', 'is not there'], ['--keep=wrong.txt', 'is not there']] as [$option, $said]) {
            [$code, $out] = $this->anvil('color-id', 'gauge_low.obj', 'gauge_high.obj', $option, '--json', '--out=refused');
            self::assertSame(2, $code, $option);
            self::assertStringContainsString($said, $out);
            self::assertDirectoryDoesNotExist(self::$folder.'/refused');
        }
        self::assertSame(2, $this->anvil('color-id', 'gauge_low.obj', '--out=refused')[0], 'nothing to give IDs to');
    }

    public function test_rename_tools_change_the_names_that_they_say(): void
    {
        $box = static fn (string $name, float $x): string => "o $name\nv $x 0 0\nv ".($x + 1)." 0 0\nv $x 1 0\nv $x 0 1\n";
        $parts = static function (array $names) use ($box): string {
            $out = '';
            foreach (array_values($names) as $i => $name) {
                $b = 4 * $i;
                $out .= $box($name, 3.0 * $i).'f '.($b + 1).' '.($b + 3).' '.($b + 2)."\nf ".($b + 1).' '.($b + 2).' '.($b + 4)."\nf ".($b + 1).' '.($b + 4).' '.($b + 3)."\nf ".($b + 2).' '.($b + 3).' '.($b + 4)."\n";
            }

            return $out;
        };
        file_put_contents(self::$folder.'/buoy_low.obj', $parts(['cone_low', 'ring', 'Chain_low']));
        file_put_contents(self::$folder.'/buoy_high.obj', $parts(['a_high', 'b_high', 'c_high']));
        $plan = fn (string ...$options): array => array_column(json_decode($this->anvil('rename', 'buoy_low.obj', 'buoy_high.obj', '--json', ...$options)[1], true)['plan'] ?? [], 'to', 'from');
        self::assertSame(['cone_low' => 'keel_low'], $plan('--find=cone', '--replace=keel'));
        self::assertSame(['ring' => 'ring_low'], $plan('--add-suffix=_low'));
        self::assertSame(['ring' => 'ring_low'], $plan('--add-suffix'), "every part gets its role's own");
        self::assertSame(['c_high' => 'Chain_high', 'a_high' => 'cone_high', 'b_high' => 'ring_high'], self::sorted($plan('--follow=low')));
        self::assertSame(['cone_low' => 'a_low', 'ring' => 'b_low', 'Chain_low' => 'c_low'], self::sorted($plan('--follow=high')));
        self::assertSame(['a_high' => 'buoy_01_high', 'b_high' => 'buoy_02_high', 'c_high' => 'buoy_03_high', 'Chain_low' => 'buoy_04_low', 'cone_low' => 'buoy_05_low', 'ring' => 'buoy_06'], self::sorted($plan('--number=buoy_##')));
        self::assertSame(1, $this->anvil('rename', 'buoy_low.obj', '--number=same', '--apply', '--out=clash')[0], 'a clash writes nothing');
        self::assertDirectoryDoesNotExist(self::$folder.'/clash');
        self::assertSame(0, $this->anvil('rename', 'buoy_low.obj', 'buoy_high.obj', '--follow=low', '--apply', '--out=followed')[0]);
        self::assertSame(str_replace(['o a_high', 'o b_high', 'o c_high'], ['o cone_high', 'o ring_high', 'o Chain_high'], (string) file_get_contents(self::$folder.'/buoy_high.obj')), file_get_contents(self::$folder.'/followed/buoy_high.obj'));
    }

    public function test_other_reports_and_a_zip_of_files(): void
    {
        [$code, $xml] = $this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', '--rays=1024', '--format=junit');
        self::assertSame([1, 1], [$code, substr_count($xml, '<testsuites ')]);
        [$code, $sarif] = $this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', '--rays=1024', '--format=sarif');
        self::assertSame([1, '2.1.0', 9], [$code, json_decode($sarif, true)['version'] ?? null, count(array_filter(json_decode($sarif, true)['runs'][0]['results'] ?? [], static fn (array $result): bool => $result['level'] !== 'note'))]);
        self::assertSame(2, $this->anvil('inspect', 'winch_low.obj', '--format=pdf')[0]);
        $zip = new \ZipArchive;
        $zip->open(self::$folder.'/winch_files.zip', \ZipArchive::CREATE);
        foreach (['winch_low.obj', 'winch_low.mtl', 'winch_high.obj', 'winch_high.mtl'] as $name) {
            $zip->addFile(self::$folder."/$name", "winch/$name");
        }
        $zip->close();
        $report = json_decode($this->anvil('inspect', 'winch_files.zip', '--json', '--rays=1024')[1], true);
        self::assertSame(['ready', 'winch_files.zip/winch/winch_high.obj'], [$report['verdict'] ?? null, $report['files'][0]['path'] ?? null]);
        file_put_contents(self::$folder.'/torn.zip', substr((string) file_get_contents(self::$folder.'/winch_files.zip'), 0, 4000));
        self::assertSame(2, $this->anvil('inspect', 'torn.zip')[0]);
    }

    public function test_cages_and_exploded_layouts_come_back_clean(): void
    {
        [$code, $out] = $this->anvil('cage', 'winch_low.obj', 'winch_high.obj', '--out=caged', '--rays=4096', '--json');
        self::assertSame([0, ['winch_cage.obj']], [$code, json_decode($out, true)['files'] ?? null]);
        $report = json_decode($this->anvil('inspect', 'winch_low.obj', 'winch_high.obj', 'caged/winch_cage.obj', '--json', '--rays=4096')[1], true);
        self::assertSame(['passed', 'passed', 'passed'], array_values(array_intersect_key(array_column($report['checks'] ?? [], 'state', 'code'), ['cage-topology' => 1, 'cage-pierced' => 1, 'cage-inverted' => 1])));
        self::assertSame(2, $this->anvil('cage', 'winch_low.obj', '--out=nothing')[0]);
        self::assertDirectoryDoesNotExist(self::$folder.'/nothing');

        self::assertSame(0, $this->anvil('explode', 'lantern_low.glb', 'lantern_high.glb', '--standard=standard.json', '--rays=8192', '--out=apart')[0]);
        foreach ([['--assembled=apart/explode.json'], ['--assembled=lantern_low.glb', '--assembled=lantern_high.glb']] as $options) {
            $report = json_decode($this->anvil('inspect', 'apart/lantern_low.glb', 'apart/lantern_high.glb', '--standard=standard.json', '--rays=8192', '--json', ...$options)[1], true);
            self::assertSame(['ready', 'passed'], [$report['verdict'] ?? null, array_column($report['checks'] ?? [], 'state', 'code')['explode-clash'] ?? null]);
        }
        self::assertSame(2, $this->anvil('inspect', 'apart/lantern_low.glb', '--assembled=nowhere.json')[0]);
    }

    /**
     * @param  array<string, string>  $plan
     * @return array<string, string>
     */
    private static function sorted(array $plan): array
    {
        asort($plan);

        return $plan;
    }

    /**
     * @return array{int, string, string} exit code, standard output, standard error
     */
    private function anvil(string $command, string ...$arguments): array
    {
        $environment = array_filter(getenv(), static fn (string $key): bool => ! str_starts_with($key, 'DB_'), ARRAY_FILTER_USE_KEY);
        $process = proc_open([PHP_BINARY, base_path('artisan'), "anvil:$command", ...$arguments], [1 => ['pipe', 'w'], 2 => ['file', self::$folder.'/stderr.txt', 'w']], $pipes, self::$folder, [...$environment, 'DB_CONNECTION' => 'none']);
        self::assertIsResource($process);
        $out = (string) stream_get_contents($pipes[1]);

        return [proc_close($process), $out, trim((string) file_get_contents(self::$folder.'/stderr.txt'))];
    }

    public function test_a_side_file_taken_along_by_a_shell_pattern_is_no_mesh(): void
    {
        file_put_contents(self::$folder.'/plain.mtl', "newmtl paint\nKd 1 0 0\n");
        [$code, $out] = $this->anvil('inspect', 'winch_low.obj', 'winch_high.obj', 'plain.mtl', '--json', '--rays=1024', '--only=file-unreadable');
        self::assertSame(0, $code);
        self::assertIsArray($report = json_decode($out, true));
        self::assertSame(['winch_low.obj', 'winch_high.obj'], array_map(static fn (mixed $file): string => is_array($file) && is_string($file['path']) ? basename($file['path']) : '', is_array($report['files']) ? $report['files'] : []));
        self::assertSame(2, $this->anvil('inspect', 'plain.mtl')[0]);
    }

    public function test_what_cannot_be_used_is_said_on_both_outputs_with_json(): void
    {
        [$code, $out, $err] = $this->anvil('inspect', 'nowhere.obj', '--json');
        self::assertSame(2, $code);
        self::assertStringContainsString('"error"', $out);
        self::assertStringContainsString('nowhere.obj is not there', $err);
    }
}
