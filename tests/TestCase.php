<?php

declare(strict_types=1);

namespace Tests;

use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Demo\DemoAsset;
use Illuminate\Foundation\Testing\TestCase as BaseTestCase;

/**
 * Tests with the framework and the test run's own MariaDB.
 */
abstract class TestCase extends BaseTestCase
{
    /**
     * The files of a demo asset, in a folder of their own.
     *
     * @return array<string, string> name → path
     */
    protected static function demoFiles(DemoAsset $asset, string $folder): array
    {
        $sink = new FolderSink($folder, true);
        foreach (['low' => $asset->low, 'high' => $asset->high] as $role => $parts) {
            $name = "{$asset->file}_$role.$asset->format";
            $asset->format === 'obj' ? ObjWriter::write($parts, $name, $sink) : GlbWriter::write($parts, $name, $sink);
        }
        $sink->commit();
        $out = [];
        foreach ($sink->names() as $name) {
            $out[$name] = "$folder/$name";
        }

        return $out;
    }
}
