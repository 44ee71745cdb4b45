<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Formats\Gltf\GltfRewriter;
use Anvil\Formats\Obj\ObjRewriter;

/**
 * Writes a file again with changes, and every side file that it names.
 */
final class Rewriter
{
    /**
     * @param  string  $name  the name of the written file
     *
     * @throws Unreadable when the change cannot be made in this file
     */
    public static function write(Source $source, Changes $changes, string $name, Sink $sink): void
    {
        $ending = strtolower(pathinfo($source->name(), PATHINFO_EXTENSION));
        $sides = match ($ending) {
            'obj' => ObjRewriter::write($source, $changes, $name, $sink),
            'glb', 'gltf' => GltfRewriter::write($source, $changes, $name, $sink),
            default => throw Unreadable::because(FormatCatalogue::refusalOf($ending) ?? 'this format is not written'),
        };
        foreach ($sides as $side) {
            self::copy($source, $side, $sink);
        }
    }

    /** Copies a side file as it is, where it is there and not yet written. */
    public static function copy(Source $source, string $name, Sink $sink): void
    {
        $side = $source->side($name);
        if ($side === null || ($sink instanceof FolderSink && $sink->has($name))) {
            return;
        }
        $from = $side->open();
        $to = $sink->open($name);
        stream_copy_to_stream($from, $to);
        fclose($from);
        fclose($to);
    }
}
