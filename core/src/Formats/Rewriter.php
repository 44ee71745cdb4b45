<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Unreadable;

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
        $format = FormatCatalogue::of($ending) ?? throw Unreadable::because(FormatCatalogue::refusalOf($ending) ?? 'this format is not written');
        $sides = $format->write($source, $changes, $name, $sink);
        $folder = dirname($name) === '.' ? '' : dirname($name).'/';
        foreach ($sides as $side) {
            self::copy($source, $side, $sink, $folder);
        }
    }

    /**
     * Copies a side file as it is, where it is there and not yet written.
     *
     * @param  string  $folder  that of the written file below the sink, with a slash at its end; empty for the sink's own
     */
    public static function copy(Source $source, string $name, Sink $sink, string $folder = ''): void
    {
        $side = $source->side($name);
        if ($side === null || ($sink instanceof FolderSink && $sink->has($folder.$name))) {
            return;
        }
        $from = $side->open();
        $to = $sink->open($folder.$name);
        stream_copy_to_stream($from, $to);
        fclose($from);
        fclose($to);
    }
}
