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
        self::assertSame(['tool', 'schema', 'verdict', 'files', 'parts', 'sets', 'common', 'suggestions', 'findings', 'checks', 'seconds', 'peakMemoryBytes'], array_keys($report));
        self::assertSame('ready', $report['verdict']);
        self::assertSame(['path', 'role', 'format', 'sha256', 'unit', 'upAxis', 'parts', 'triangles', 'vertices', 'materials', 'bounds'], array_keys($report['files'][0]));
        self::assertNull($report['files'][0]['unit']);
        $lantern = json_decode($this->anvil('inspect', 'lantern_low.glb', 'lantern_high.glb', '--format=json', '--standard=standard.json', '--rays=4096')[1], true);
        self::assertLessThan(0, array_column($lantern['sets'] ?? [], 'explode', 'name')['shutter_left'][0] ?? 0);
        self::assertSame(['name', 'low', 'high', 'id', 'cage', 'reach', 'needed', 'firstWrong', 'recommended', 'explode'], array_keys($report['sets'][0]));
        self::assertSame([1, 4], [$this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', '--rays=1024')[0], count(json_decode($this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', '--json', '--rays=1024')[1], true)['findings'] ?? [])]);
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
        self::assertSame(['gauge_id.mtl', 'gauge_id.obj', 'legend.csv', 'legend.json', 'palette.gpl'], array_values(array_diff(scandir(self::$folder.'/ids') ?: [], ['.', '..'])));
        self::assertSame([], array_values(array_filter(json_decode($this->anvil('inspect', 'gauge_low.obj', 'gauge_high.obj', 'ids/gauge_id.obj', '--json', '--only=id-close,id-missing')[1], true)['findings'], static fn (array $f): bool => $f['severity'] === 'blocker')));

        self::assertSame(1, $this->anvil('package', 'gauge_low.obj', 'gauge_high.obj', '--rays=1024', '--out=gauge.zip')[0]);
        self::assertFileDoesNotExist(self::$folder.'/gauge.zip');
        self::assertSame(0, $this->anvil('package', 'winch_low.obj', 'winch_high.obj', '--rays=1024', '--out=winch.zip')[0]);
        self::assertFileExists(self::$folder.'/winch.zip');
        self::assertSame([], glob(self::$folder.'/*.part*') ?: [], 'nothing half written is left');
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
}
