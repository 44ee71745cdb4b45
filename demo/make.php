<?php

declare(strict_types=1);

/*
 * Writes the demo assets as files: php demo/make.php FOLDER
 */

use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Demo\SignalStation;

require __DIR__.'/../vendor/autoload.php';

$folder = $argv[1] ?? null;
if ($folder === null) {
    fwrite(STDERR, "Name the folder to write to: php demo/make.php FOLDER\n");
    exit(2);
}
foreach (SignalStation::all() as $asset) {
    $sink = new FolderSink("$folder/$asset->file", true);
    foreach (['low' => $asset->low, 'high' => $asset->high] as $role => $parts) {
        $name = "{$asset->file}_$role.$asset->format";
        $asset->format === 'obj' ? ObjWriter::write($parts, $name, $sink) : GlbWriter::write($parts, $name, $sink);
    }
    if ($asset->standard !== null) {
        $stream = $sink->open('standard.json');
        fwrite($stream, $asset->standard."\n");
        fclose($stream);
    }
    $sink->commit();
    echo "$asset->name\n";
}
