<?php

declare(strict_types=1);

namespace Anvil\Tests\Handoff;

use Anvil\Asset\GivenFile;
use Anvil\Checks\Finding;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Handoff\Extra;
use Anvil\Handoff\ExtraFiles;
use Anvil\Handoff\MadeOf;
use Anvil\Handoff\Package;
use Anvil\Handoff\Staleness;
use Anvil\Handoff\Verification;
use Anvil\Inspection\Inspector;
use Anvil\Json;
use Anvil\Modelling\Shapes;
use Anvil\Report\Report;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Unreadable;
use PHPUnit\Framework\TestCase;
use ZipArchive;

/** What goes along with a package, that nothing of another delivery slips in, and that a package out of date is told. */
final class AlongTest extends TestCase
{
    private const RULES = '{"rays":{"count":2048},"mapSize":128,"checks":{"silhouette-loss":{"severity":"off"}}}';

    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/anvil-along-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
    }

    public function test_what_was_chosen_goes_along_and_is_verified(): void
    {
        [$files, $report] = $this->bollard(0.0);
        $extras = array_map(fn (string $kind): Extra => ExtraFiles::make($kind, $report->measures, $files, "$this->folder/$kind"), ExtraFiles::KINDS);
        self::assertSame([], Package::write('Bollard', $report, $files, "$this->folder/whole.zip", $extras, null, 4)->findings);
        $zip = new ZipArchive;
        self::assertTrue($zip->open("$this->folder/whole.zip"));
        foreach (['outputs/exploded/explode.json', 'outputs/exploded/bollard_low.obj', 'outputs/cage/bollard_cage.obj', 'outputs/ids/bollard_id.obj', 'outputs/ids/bollard_id.mtl', 'outputs/ids/legend.json', 'outputs/retouch/plain_retouch.png'] as $name) {
            self::assertNotFalse($zip->locateName($name), $name);
        }
        $ticket = Json::parse((string) $zip->getFromName('ticket.json'));
        self::assertSame([4, MadeOf::of($report->measures->asset)], [$ticket->int('delivery'), $ticket->string('of')]);
        $kinds = array_values(array_unique(array_map(static fn (Json $one): ?string => $one->string('kind'), $ticket->objects('outputs'))));
        sort($kinds);
        self::assertSame(['cage', 'exploded', 'ids', 'retouch'], $kinds);
        self::assertStringContainsString('outputs/cage/bollard_cage.obj', (string) $zip->getFromName('ticket.html'));
        $zip->close();
        self::assertSame([], Verification::of("$this->folder/whole.zip")->findings);
        // The same once more is the same bytes.
        Package::write('Bollard', $report, $files, "$this->folder/again.zip", $extras, null, 4);
        self::assertSame(hash_file('sha256', "$this->folder/whole.zip"), hash_file('sha256', "$this->folder/again.zip"));
        $this->expectException(Unreadable::class);
        $this->expectExceptionMessage('"maps"');
        ExtraFiles::make('maps', $report->measures, $files, "$this->folder/none");
    }

    public function test_what_was_made_of_another_delivery_is_refused_and_seen_by_who_receives_it(): void
    {
        [$files, $report] = $this->bollard(0.0);
        [$others, $other] = $this->bollard(0.0001);
        $cage = ExtraFiles::make('cage', $other->measures, $others, "$this->folder/other-cage");
        $refused = Package::write('Bollard', $report, $files, "$this->folder/mixed.zip", [$cage]);
        self::assertSame(['package-mixed', ['file' => 'outputs/cage']], [$refused->findings[0]->code, $refused->findings[0]->subject]);
        self::assertFileDoesNotExist("$this->folder/mixed.zip");
        // Decided anew in between, it is another one, too; how many rays were shot is not.
        $choices = Choices::ofJson('{"detachable":["bollard"]}');
        self::assertNotSame($cage->of, MadeOf::of(Inspector::inspect($others, Standard::ofJson(self::RULES), $choices)->measures->asset));
        self::assertSame($cage->of, MadeOf::of(Inspector::inspect($others, Standard::ofJson(str_replace('2048', '1024', self::RULES)), new Choices)->measures->asset));
        // Said to be of it and put in all the same: of the ticket it is another hash.
        $own = ExtraFiles::make('cage', $report->measures, $files, "$this->folder/own-cage");
        Package::write('Bollard', $report, $files, "$this->folder/forged.zip", [$own]);
        $zip = new ZipArchive;
        $zip->open("$this->folder/forged.zip");
        $zip->addFromString('ticket.json', str_replace('"of": "'.$own->of.'"'."\n        }", '"of": "'.$cage->of.'"'."\n        }", (string) $zip->getFromName('ticket.json')));
        $zip->close();
        self::assertContains('package-mixed', array_map(static fn (Finding $one): string => $one->code, Verification::of("$this->folder/forged.zip")->findings));
    }

    public function test_a_package_is_out_of_date_where_files_standard_or_choices_changed(): void
    {
        [$files, $report] = $this->bollard(0.0);
        Package::write('Bollard', $report, $files, "$this->folder/one.zip");
        $zip = new ZipArchive;
        $zip->open("$this->folder/one.zip");
        $ticket = Json::parse((string) $zip->getFromName('ticket.json'));
        $standard = Standard::ofJson(self::RULES);
        self::assertSame([], Staleness::of($ticket, $files, $standard, new Choices));
        self::assertSame([], Staleness::of($ticket, []));
        [$others] = $this->bollard(0.0001);
        $changed = Staleness::of($ticket, $others);
        self::assertSame(['package-stale', 'bollard_high.obj: it changed since the package was sealed'], [$changed[0]->code, $changed[0]->message]);
        self::assertCount(1, $changed, 'the low poly is the same');
        self::assertSame(['bollard_high.obj: it is in the package and not among the files'], array_column(Staleness::of($ticket, [$files[0]]), 'message'));
        self::assertSame(['standard "unnamed": it changed since the package was sealed'], array_column(Staleness::of($ticket, $files, $standard->withLimits(['uv-use' => ['limit' => 0.1]])), 'message'));
        self::assertSame(['choices: something was decided anew since the package was sealed'], array_column(Staleness::of($ticket, $files, null, Choices::ofJson('{"detachable":["bollard"]}')), 'message'));
    }

    /**
     * @return array{list<GivenFile>, Report} files that lie in a folder of their own
     */
    private function bollard(float $shift): array
    {
        $folder = "$this->folder/".bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        ObjWriter::write([new Part('bollard_low', Assets::worn(Shapes::box(3, 2, 1)->mesh()))], 'bollard_low.obj', $sink);
        ObjWriter::write([new Part('bollard_high', Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(0, $shift, 0)->mesh())], 'bollard_high.obj', $sink);
        $sink->commit();
        $files = array_map(static fn (string $name): GivenFile => new GivenFile($name, null, new FileSource("$folder/$name")), ['bollard_low.obj', 'bollard_high.obj']);

        return [$files, Inspector::inspect($files, Standard::ofJson(self::RULES), new Choices)];
    }
}
