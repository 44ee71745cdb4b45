<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Folder;
use App\Deliveries\StreamedZip;
use PHPUnit\Framework\Attributes\TestWith;
use RuntimeException;
use Tests\TestCase;
use ZipArchive;

/** A zip that is sent as it is read is one that libzip reads. */
final class StreamedZipTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        parent::setUp();
        $this->folder = sys_get_temp_dir().'/anvil-feature-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
        parent::tearDown();
    }

    /** The second with the fields for 4 GiB and more from 100 bytes on. */
    #[TestWith([0xFFFFFFFF])]
    #[TestWith([100])]
    public function test_it_holds_what_was_given(int $large): void
    {
        $files = ['low.obj' => 'v 0 0 0', 'Hülle/high.obj' => random_bytes(3_000_000), str_repeat('n', 300).'.glb' => '', 'b' => str_repeat('x', 100)];
        $paths = [];
        foreach (array_values($files) as $i => $content) {
            file_put_contents("$this->folder/$i", $content);
            $paths[] = "$this->folder/$i";
        }
        $named = array_combine(array_keys($files), $paths);
        $sent = [];
        StreamedZip::send($named, static function (string $piece) use (&$sent): void {
            $sent[] = $piece;
        }, $large);
        self::assertLessThanOrEqual(1 << 20, max(array_map(strlen(...), $sent)), 'in pieces');
        self::assertSame($large === 100, str_contains(implode('', array_slice($sent, -3)), "PK\x06\x06"));
        file_put_contents("$this->folder/all.zip", implode('', $sent));
        $zip = new ZipArchive;
        self::assertTrue($zip->open("$this->folder/all.zip", ZipArchive::CHECKCONS));
        self::assertSame(count($files), $zip->numFiles);
        foreach ($files as $name => $content) {
            self::assertSame(hash('sha256', $content), hash('sha256', (string) $zip->getFromName($name)), $name);
        }
        $again = '';
        StreamedZip::send($named, static function (string $piece) use (&$again): void {
            $again .= $piece;
        }, $large);
        self::assertTrue($again === implode('', $sent), 'the same files give the same bytes');
    }

    public function test_nothing_is_a_zip_too_and_what_is_gone_is_told(): void
    {
        $sent = '';
        StreamedZip::send([], static function (string $piece) use (&$sent): void {
            $sent .= $piece;
        });
        self::assertSame("PK\x05\x06".str_repeat("\0", 18), $sent);
        $this->expectException(RuntimeException::class);
        set_error_handler(static fn (): bool => true);
        try {
            StreamedZip::send(['a' => "$this->folder/none"], static fn (string $piece) => null);
        } finally {
            restore_error_handler();
        }
    }
}
