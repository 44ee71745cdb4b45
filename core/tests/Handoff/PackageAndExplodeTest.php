<?php

declare(strict_types=1);

namespace Anvil\Tests\Handoff;

use Anvil\Asset\GivenFile;
use Anvil\Asset\GivenMap;
use Anvil\Explode\ExplodedFiles;
use Anvil\Explode\ExplodePlan;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Handoff\Package;
use Anvil\Handoff\Readback;
use Anvil\Inspection\Inspector;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\Severity;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\MemorySource;
use Demo\DemoAsset;
use Demo\SignalStation;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use ZipArchive;

/**
 * The demo's winch through the whole core, and its lantern taken apart.
 */
#[Group('matrix')]
final class PackageAndExplodeTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/anvil-package-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
    }

    public function test_the_winch_is_ready_and_its_package_holds_what_was_handed_in_twice_the_same(): void
    {
        $files = $this->write(SignalStation::mooringWinch());
        $report = Inspector::inspect($files, Standard::ofJson('{"rays":{"count":4096}}'), new Choices);
        self::assertSame([], self::faults($report));
        self::assertTrue($report->isReady());
        $sealed = Package::write('Mooring winch', $report, $files, "$this->folder/one.zip");
        self::assertSame('passed', $sealed->state);
        Package::write('Mooring winch', $report, $files, "$this->folder/two.zip");
        self::assertSame(hash_file('sha256', "$this->folder/one.zip"), hash_file('sha256', "$this->folder/two.zip"));

        $zip = new ZipArchive;
        self::assertTrue($zip->open("$this->folder/one.zip"));
        foreach (['winch_low.obj', 'winch_low.mtl', 'winch_high.obj', 'winch_high.mtl'] as $name) {
            self::assertSame(file_get_contents("$this->folder/in/$name"), $zip->getFromName("files/$name"));
        }
        $ticket = json_decode((string) $zip->getFromName('ticket.json'), true);
        self::assertIsArray($ticket);
        self::assertSame(['ready', 8], [$ticket['verdict'], is_array($ticket['sets']) ? count($ticket['sets']) : 0]);
        self::assertStringNotContainsString('src=', (string) $zip->getFromName('ticket.html'), 'the page loads nothing');
        self::assertStringContainsString('Ready to bake', (string) $zip->getFromName('ticket.html'));
        self::assertStringContainsString(hash('sha256', (string) $zip->getFromName('ticket.json')).'  ticket.json', (string) $zip->getFromName('SHA256SUMS'));
        $zip->close();
    }

    public function test_a_package_that_was_tampered_with_is_found_on_reading_back(): void
    {
        $files = $this->write(SignalStation::mooringWinch());
        $report = Inspector::inspect($files, Standard::ofJson('{"rays":{"count":1024}}'), new Choices, [], ['file-unreadable']);
        Package::write('Mooring winch', $report, $files, "$this->folder/one.zip");
        $meant = ['winch_low.obj' => (string) hash_file('sha256', "$this->folder/in/winch_low.obj")];
        self::assertSame([], Readback::of("$this->folder/one.zip", $meant, $report));
        $zip = new ZipArchive;
        $zip->open("$this->folder/one.zip");
        $zip->addFromString('files/winch_low.obj', "o other\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $zip->deleteName('ticket.html');
        $zip->close();
        $found = Readback::of("$this->folder/one.zip", $meant, $report);
        self::assertSame(['package-readback', 'package-readback', 'package-readback'], array_map(static fn ($finding): string => $finding->code, $found));
    }

    /** Two of one name from two folders lie side by side; one that is changed in the package is found. */
    public function test_maps_that_came_back_go_with_it_and_are_read_back(): void
    {
        $files = $this->write(SignalStation::mooringWinch());
        $maps = [];
        foreach (['one', 'two'] as $content) {
            $maps[] = GivenMap::of("$content/winch_ao.png", null, null, new MemorySource('winch_ao.png', $content));
        }
        $report = Inspector::inspect($files, Standard::ofJson('{"mapSize":256,"rays":{"count":1024}}'), new Choices, [], ['file-unreadable'], maps: $maps);
        self::assertSame('passed', Package::write('Mooring winch', $report, $files, "$this->folder/one.zip")->state);
        $zip = new ZipArchive;
        $zip->open("$this->folder/one.zip");
        self::assertSame(['one', 'two'], [$zip->getFromName('maps/winch_ao.png'), $zip->getFromName('maps/winch_ao-2.png')]);
        self::assertStringContainsString(hash('sha256', 'two').'  maps/winch_ao-2.png', (string) $zip->getFromName('SHA256SUMS'));
        $ticket = (array) json_decode((string) $zip->getFromName('ticket.json'), true);
        self::assertSame([['maps/winch_ao.png', hash('sha256', 'one')], ['maps/winch_ao-2.png', hash('sha256', 'two')]], array_map(static fn (array $map): array => [$map['path'], $map['sha256']], (array) $ticket['maps']));
        self::assertSame(['winch'], array_column((array) $ticket['pages'], 'page'));
        self::assertStringContainsString('Maps that came back', (string) $zip->getFromName('ticket.html'));
        $zip->addFromString('maps/winch_ao-2.png', 'three');
        $zip->close();
        $found = Readback::of("$this->folder/one.zip", [], $report);
        self::assertSame(['package-readback'], array_map(static fn ($finding): string => $finding->code, $found));
        self::assertStringContainsString('maps/winch_ao-2.png', $found[0]->message);
    }

    public function test_the_lantern_bleeds_and_is_clean_when_its_shutters_have_moved_and_nothing_else_has(): void
    {
        $asset = SignalStation::signalLantern();
        $files = $this->write($asset);
        $standard = Standard::ofJson('{"rays":{"setsKeptApart":false,"count":16384}}');
        $report = Inspector::inspect($files, $standard, new Choices);
        $found = array_map(static fn ($finding): string => "$finding->code ".($finding->subject['set'] ?? '').' '.($finding->subject['other'] ?? ''), self::faults($report));
        self::assertSame(['sets-bleed pane shutter_left', 'sets-bleed pane shutter_right'], array_values(array_filter($found, static fn (string $one): bool => str_starts_with($one, 'sets-bleed'))));

        $plan = ExplodePlan::of($report->measures->asset, $report->measures->clearances());
        self::assertSame(['shutter_left', 'shutter_right'], $plan->moved());
        self::assertTrue($plan->isProved());
        self::assertGreaterThan(0.05, $plan->worst($plan->bleedBefore));
        self::assertLessThan($plan->occlusionBefore['pane'], $plan->occlusionAfter['pane'], 'moving the shutters away loses shade on the pane');

        $sink = new FolderSink("$this->folder/exploded");
        ExplodedFiles::write($report->measures->asset, $files, $plan, $sink);
        $sink->commit();
        $moved = array_map(static fn (GivenFile $file): GivenFile => new GivenFile($file->path, null, new FileSource(dirname($file->path, 2).'/exploded/'.basename($file->path))), $files);
        $after = Inspector::inspect($moved, $standard, new Choices);
        self::assertSame([], self::faults($after));
        foreach ($report->measures->asset->parts as $i => $part) {
            $vector = $plan->vectors[$part->base] ?? [0.0, 0.0, 0.0];
            self::assertEqualsWithDelta($part->part->mesh->moved($vector)->positions, $after->measures->asset->parts[$i]->part->mesh->positions, 1e-6, $part->part->name);
            self::assertSame($part->part->mesh->triangles, $after->measures->asset->parts[$i]->part->mesh->triangles);
        }
    }

    public function test_the_tide_gauge_has_the_faults_it_was_made_with(): void
    {
        $report = Inspector::inspect($this->write(SignalStation::tideGauge()), Standard::ofJson('{"rays":{"count":2048}}'), new Choices);
        self::assertSame(['pair-no-high', 'suffix-case', 'name-case', 'id-close', 'uv-overlap', 'uv-padding', 'uv-padding', 'texel-density', 'hard-no-seam'], array_map(static fn ($finding): string => $finding->code, self::faults($report)));
        self::assertSame(['Dial_high' => 'dial_high', 'needle_High' => 'needle_high'], array_column($report->toArray()['suggestions'], 'rename', 'part'));
        self::assertFalse($report->isReady());
        self::assertEquals(self::withoutTimes($report), self::withoutTimes(Inspector::inspect($this->write(SignalStation::tideGauge()), Standard::ofJson('{"rays":{"count":2048}}'), new Choices)));
    }

    /**
     * @return array<string, mixed>
     */
    private static function withoutTimes(Report $report): array
    {
        $out = $report->toArray();
        unset($out['seconds'], $out['peakMemoryBytes'], $out['checks']);

        return $out;
    }

    /**
     * @return list<GivenFile>
     */
    private function write(DemoAsset $asset): array
    {
        $sink = new FolderSink("$this->folder/in", true);
        $files = [];
        foreach (['low' => $asset->low, 'high' => $asset->high] as $role => $parts) {
            $name = "{$asset->file}_$role.$asset->format";
            $asset->format === 'obj' ? ObjWriter::write($parts, $name, $sink) : GlbWriter::write($parts, $name, $sink);
            $files[] = new GivenFile("$this->folder/in/$name", null, new FileSource("$this->folder/in/$name"));
        }
        $sink->commit();

        return $files;
    }

    /**
     * What blocks or warns; that parts stand in each other on purpose is a note.
     *
     * @return list<\Anvil\Checks\Finding>
     */
    private static function faults(Report $report): array
    {
        return array_values(array_filter($report->findings(), static fn ($finding): bool => $finding->severity !== Severity::Note));
    }
}
