<?php

declare(strict_types=1);

namespace Anvil\Tests\Handoff;

use Anvil\Asset\GivenFile;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Handoff\Package;
use Anvil\Handoff\PackageSeal;
use Anvil\Handoff\Verification;
use Anvil\Inspection\Inspector;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use Anvil\Unreadable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use ZipArchive;

/** A package is taken as it was sealed, and refused once anything in it is another. */
final class VerificationTest extends TestCase
{
    private static string $folder;

    private static string $package;

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir().'/anvil-verification-'.bin2hex(random_bytes(4));
        $sink = new FolderSink(self::$folder);
        ObjWriter::write([new Part('post_low', Assets::worn(Shapes::box(1, 2, 1)->mesh()))], 'post_low.obj', $sink);
        ObjWriter::write([new Part('post_high', Assets::worn(Shapes::roundedBox(1, 2, 1, 0.06, 3)->mesh()))], 'post_high.obj', $sink);
        $sink->commit();
        $given = array_map(static fn (string $name): GivenFile => new GivenFile($name, null, new FileSource(self::$folder."/$name")), ['post_low.obj', 'post_high.obj']);
        $report = Inspector::inspect($given, Standard::ofJson('{"rays":{"count":2048},"mapSize":128}'), new Choices);
        self::$package = self::$folder.'/post.zip';
        self::assertSame([], Package::write('Post', $report, $given, self::$package)->findings);
    }

    public static function tearDownAfterClass(): void
    {
        Folder::remove(self::$folder);
    }

    public function test_what_was_sealed_is_taken(): void
    {
        $verification = Verification::of(self::$package);
        self::assertSame([[], 'Post', 'ready'], [$verification->findings, $verification->asset, $verification->verdict]);
        self::assertSame(['files/post_high.obj', 'files/post_low.obj'], array_values(preg_grep('/\.obj$/', array_keys($verification->sums)) ?: []));
    }

    /**
     * @return iterable<string, array{callable(ZipArchive): mixed, string}>
     */
    public static function changes(): iterable
    {
        yield 'a file is another' => [static fn (ZipArchive $zip): bool => $zip->addFromString('files/post_low.obj', str_replace('v 0', 'v 1', (string) $zip->getFromName('files/post_low.obj'))), 'files/post_low.obj: its bytes are not those that were sealed'];
        yield 'a file is gone' => [static fn (ZipArchive $zip): bool => $zip->deleteName('files/post_low.obj'), 'files/post_low.obj: it is not in the package'];
        yield 'a file is added' => [static fn (ZipArchive $zip): bool => $zip->addFromString('files/more.obj', 'o more'), 'files/more.obj: it was not sealed with the package'];
        yield 'a note is added' => [static fn (ZipArchive $zip): bool => $zip->addFromString('readme.txt', 'hello'), 'readme.txt: it was not sealed with the package'];
        yield 'the checksums are gone' => [static fn (ZipArchive $zip): bool => $zip->deleteName('SHA256SUMS'), 'SHA256SUMS: it is not in the package'];
        yield 'the checksums are none' => [static fn (ZipArchive $zip): bool => $zip->addFromString('SHA256SUMS', "nonsense\n"), 'SHA256SUMS: line 1 is no checksum, or names a file again'];
        yield 'the ticket is no JSON' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => substr($text, 5)), 'ticket.json: '];
        yield 'the ticket is of another tool' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('"schema": 1', '"schema": 2', $text)), 'ticket.json: it is no ticket that this version reads'];
        // Whoever writes the checksums anew is told by the ticket, and by what reads back.
        yield 'a file and its checksum are others' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'files/post_low.obj', static fn (string $text): string => "$text# more\n"), 'files/post_low.obj: its bytes are not those of the ticket'];
        yield 'the ticket says that it is not ready' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('"verdict": "ready"', '"verdict": "blocked"', $text)), 'ticket.json: the asset is not ready, and a package of it should not be'];
        yield 'the ticket lists a file that is not there' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('files/post_low.obj', 'files/past_low.obj', $text)), 'files/past_low.obj: it is on the ticket and not in the package'];
        yield 'a set names a part that is nowhere' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('"post_high"', '"past_high"', $text)), 'set post of the ticket names past_high, which no file holds'];
        $entry = static fn (string $sum): string => '"maps": [{"path": "maps/post_normal.png", "sha256": "'.$sum.'"}]';
        yield 'a map is another than the ticket says' => [static fn (ZipArchive $zip): bool => self::added($zip, 'maps/post_normal.png', 'png') && self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('"maps": []', $entry(hash('sha256', 'other')), $text)), 'maps/post_normal.png: its bytes are not those of the ticket'];
        yield 'a map is on the ticket alone' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('"maps": []', $entry(hash('sha256', 'png')), $text)), 'maps/post_normal.png: its bytes are not those of the ticket'];
        foreach (['maps', 'files', 'outputs'] as $folder) {
            yield "something sealed in $folder is not on the ticket" => [static fn (ZipArchive $zip): bool => self::added($zip, "$folder/more.txt", 'more'), "$folder/more.txt: it is not on the ticket"];
        }
        $broken = static fn (string $text): string => str_replace('f 1', 'f 99999', $text);
        yield 'a mesh that does not read, sealed anew' => [static fn (ZipArchive $zip): bool => self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace(hash('sha256', (string) $zip->getFromName('files/post_low.obj')), hash('sha256', $broken((string) $zip->getFromName('files/post_low.obj'))), $text)) && self::forged($zip, 'files/post_low.obj', $broken), 'files/post_low.obj: it does not read back'];
    }

    /** What is sealed and on the ticket is taken, whatever it is. */
    public function test_a_map_that_is_on_the_ticket_is_taken(): void
    {
        $path = self::$folder.'/mapped.zip';
        copy(self::$package, $path);
        $zip = new ZipArchive;
        self::assertTrue($zip->open($path));
        self::added($zip, 'maps/post_normal.png', 'png');
        self::forged($zip, 'ticket.json', static fn (string $text): string => str_replace('"maps": []', '"maps": [{"path": "maps/post_normal.png", "sha256": "'.hash('sha256', 'png').'"}]', $text));
        $zip->setArchiveComment(PackageSeal::blank());
        $zip->close();
        PackageSeal::put($path);
        self::assertSame([], array_column(Verification::of($path)->findings, 'message'));
        unlink($path);
    }

    /**
     * @param  callable(ZipArchive): mixed  $change
     */
    #[DataProvider('changes')]
    public function test_what_is_another_is_refused(callable $change, string $said): void
    {
        $path = self::$folder.'/changed.zip';
        copy(self::$package, $path);
        $zip = new ZipArchive;
        self::assertTrue($zip->open($path));
        $change($zip);
        $zip->setArchiveComment(PackageSeal::blank());
        $zip->close();
        // Whoever seals it anew is told by what lies in it.
        PackageSeal::put($path);
        $messages = array_column(Verification::of($path)->findings, 'message');
        self::assertNotSame([], array_filter($messages, static fn (string $one): bool => str_contains($one, $said)), implode("\n", $messages));
        unlink($path);
    }

    public function test_any_byte_that_is_another_is_seen(): void
    {
        $bytes = (string) file_get_contents(self::$package);
        $path = self::$folder.'/flipped.zip';
        $unseen = [];
        for ($i = 0, $n = strlen($bytes); $i < $n; $i += 41) {
            $changed = $bytes;
            $changed[$i] = chr(ord($bytes[$i]) ^ 0x10);
            file_put_contents($path, $changed);
            try {
                if (Verification::of($path)->isSound()) {
                    $unseen[] = $i;
                }
            } catch (Unreadable) {
                // Refused as well.
            }
        }
        self::assertSame([], $unseen, 'bytes of '.strlen($bytes));
        foreach (['' => 'no zip', substr($bytes, 0, 4000) => 'cut short', substr($bytes, 0, -30) => 'its end is gone', $bytes.'more' => 'more at its end'] as $wrong => $how) {
            file_put_contents($path, $wrong);
            try {
                self::assertFalse(Verification::of($path)->isSound(), $how);
            } catch (Unreadable $error) {
                self::assertNotSame('', $error->getMessage());
            }
        }
        unlink($path);
    }

    public function test_a_package_without_a_seal_is_refused(): void
    {
        $path = self::$folder.'/bare.zip';
        copy(self::$package, $path);
        $zip = new ZipArchive;
        self::assertTrue($zip->open($path));
        $zip->setArchiveComment('');
        $zip->close();
        self::assertSame(['bare.zip: it bears no seal'], array_column(Verification::of($path)->findings, 'message'));
        unlink($path);
    }

    /**
     * Another content, its checksum with it.
     *
     * @param  callable(string): string  $change
     */
    private static function forged(ZipArchive $zip, string $name, callable $change): bool
    {
        $was = (string) $zip->getFromName($name);
        $now = $change($was);
        self::assertNotSame($was, $now);
        $sums = str_replace(hash('sha256', $was), hash('sha256', $now), (string) $zip->getFromName('SHA256SUMS'));

        return self::written($zip, $name, $now, $sums);
    }

    /** Added, and its checksum with it. */
    private static function added(ZipArchive $zip, string $name, string $bytes): bool
    {
        return self::written($zip, $name, $bytes, $zip->getFromName('SHA256SUMS').hash('sha256', $bytes)."  $name\n");
    }

    /** What was changed in an archive is read only once it was closed. */
    private static function written(ZipArchive $zip, string $name, string $bytes, string $sums): bool
    {
        $path = $zip->filename;

        return $zip->addFromString($name, $bytes) && $zip->addFromString('SHA256SUMS', $sums) && $zip->close() && $zip->open($path) === true;
    }
}
