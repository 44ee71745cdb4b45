<?php

declare(strict_types=1);

namespace Anvil\Tests\Measures;

use Anvil\Checks\Runner;
use Anvil\Formats\Folder;
use Anvil\Measures\FolderStore;
use Anvil\Measures\Measures;
use Anvil\Measures\Plan;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Tests\Support\Assets;
use PHPUnit\Framework\TestCase;

/**
 * What was measured, kept in a folder from one process to the next.
 */
final class FolderStoreTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/anvil-measures-'.bin2hex(random_bytes(6));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
    }

    public function test_what_one_keeps_another_finds_byte_for_byte(): void
    {
        $stored = ['share' => 0.1, 'whole' => 1.0, 'none' => null, 'places' => [[1.5, -0.0, 3e-17]], 'name' => 'größe'];
        (new FolderStore($this->folder))->keep(str_repeat('a', 64), 'rays', $stored, ['set' => 'drum']);
        self::assertSame(['measure' => 'rays', 'stored' => $stored, 'names' => ['set' => 'drum']], (new FolderStore($this->folder))->find(str_repeat('a', 64)));
        (new FolderStore($this->folder))->keep(str_repeat('b', 64), 'turn', null, null);
        self::assertSame(['measure' => 'turn', 'stored' => null, 'names' => null], (new FolderStore($this->folder))->find(str_repeat('b', 64)));
        self::assertNull((new FolderStore($this->folder))->find(str_repeat('c', 64)));
        self::assertCount(2, glob("$this->folder/*") ?: [], 'no half file is left');
    }

    public function test_a_damaged_file_counts_as_not_there_and_a_folder_that_is_gone_harms_nothing(): void
    {
        $store = new FolderStore($this->folder);
        foreach (['', '{"stored":', '[]', '{"stored":null}', '{"stored":null,"names":null,"measure":7}', 'O:8:"stdClass":0:{}'] as $i => $text) {
            file_put_contents("$this->folder/$i.json", $text);
            self::assertNull($store->find((string) $i), $text);
        }
        $gone = new FolderStore("$this->folder/gone");
        $gone->keep('x', 'turn', null, null);
        self::assertNull($gone->find('x'));
    }

    public function test_a_second_look_at_an_asset_measures_nothing(): void
    {
        $measures = fn (): Measures => Measures::of([Assets::file('x_low.obj', ['a_low' => Shapes::box(1, 1, 1)]), Assets::file('x_high.obj', ['a_high' => Shapes::roundedBox(1, 1, 1, 0.04, 2)])], Standard::ofJson('{"rays":{"count":512}}'), new Choices)->keptIn(new FolderStore($this->folder), true);
        $first = $measures();
        Plan::of($first, Runner::measures($first))->run($first);
        $second = $measures();
        Plan::of($second, Runner::measures($second))->run($second);
        self::assertGreaterThan(0.0, array_sum($first->seconds()));
        self::assertSame(0.0, (float) array_sum($second->seconds()));
        self::assertEquals($first->clearances(), $second->clearances());
    }
}
