<?php

declare(strict_types=1);

namespace Anvil\Tests\Inspection;

use Anvil\Formats\Folder;
use Anvil\Inspection\FolderOfAssets;
use Anvil\Standard\Standard;
use PHPUnit\Framework\TestCase;

/** Which files of a folder are one asset. */
final class FolderOfAssetsTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/anvil-assets-'.bin2hex(random_bytes(4));
        mkdir("$this->folder/quay/deep", 0o700, true);
        mkdir("$this->folder.elsewhere");
        foreach (['quay/bollard_low.obj', 'quay/Bollard_high.glb', 'quay/cleat_low.obj', 'quay/deep/ring_low.ply', 'quay/.hidden_low.obj', 'quay/notes.txt'] as $name) {
            touch("$this->folder/$name");
        }
        touch("$this->folder.elsewhere/secret_low.obj");
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
        Folder::remove("$this->folder.elsewhere");
    }

    public function test_files_of_one_base_in_one_folder_are_an_asset(): void
    {
        $at = fn (string ...$names): array => array_map(fn (string $name): string => "$this->folder/quay/$name", array_values($names));
        self::assertSame(
            ['quay/Bollard' => $at('Bollard_high.glb', 'bollard_low.obj'), 'quay/cleat' => $at('cleat_low.obj'), 'quay/deep/ring' => $at('deep/ring_low.ply')],
            FolderOfAssets::of($this->folder, Standard::builtIn()),
        );
    }

    public function test_no_link_leads_out_of_the_folder(): void
    {
        symlink("$this->folder.elsewhere/secret_low.obj", "$this->folder/quay/secret_low.obj");
        symlink("$this->folder.elsewhere", "$this->folder/quay/elsewhere");
        symlink("$this->folder/nowhere_low.obj", "$this->folder/quay/nowhere_low.obj");
        symlink("$this->folder/quay/cleat_low.obj", "$this->folder/quay/horn_low.obj");
        self::assertSame(['quay/Bollard', 'quay/cleat', 'quay/deep/ring', 'quay/horn'], array_keys(FolderOfAssets::of($this->folder, Standard::builtIn())));
        // A folder that is itself reached by a link is what was asked for.
        symlink($this->folder, "$this->folder.link");
        self::assertCount(4, FolderOfAssets::of("$this->folder.link", Standard::builtIn()));
        unlink("$this->folder.link");
    }
}
