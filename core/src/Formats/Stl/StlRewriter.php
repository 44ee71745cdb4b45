<?php

declare(strict_types=1);

namespace Anvil\Formats\Stl;

use Anvil\Formats\Changes;
use Anvil\Formats\Decimal;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Matrix;

/**
 * Writes an STL file again with its corners, and on a turn its facet normals, moved; every other byte as it was.
 *
 * @internal
 */
final class StlRewriter
{
    private const BLOCK = 4096;

    /**
     * @return list<string> side files that it names: none
     */
    public static function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        $in = $source->open();
        $out = $sink->open($name);
        $matrix = $changes->matrixFor(pathinfo($source->name(), PATHINFO_FILENAME));
        if ($matrix !== null && ! $matrix->isIdentity()) {
            StlReader::isBinary($in, $source->size()) ? self::binary($in, $out, $matrix) : self::text($in, $out, $matrix);
        }
        stream_copy_to_stream($in, $out);
        fclose($in);
        fclose($out);

        return [];
    }

    /**
     * @param  resource  $in
     * @param  resource  $out
     */
    private static function binary($in, $out, Matrix $matrix): void
    {
        fwrite($out, (string) fread($in, 84));
        while (($bytes = (string) stream_get_contents($in, 50 * self::BLOCK)) !== '') {
            $moved = '';
            for ($at = 0, $n = strlen($bytes); $at + 50 <= $n; $at += 50) {
                $numbers = Bytes::floats(substr($bytes, $at, 48));
                $moved .= Bytes::packFloats([...$matrix->normals(array_slice($numbers, 0, 3)), ...$matrix->points(array_slice($numbers, 3))]).substr($bytes, $at + 48, 2);
            }
            fwrite($out, $moved.substr($bytes, strlen($moved)));
        }
    }

    /**
     * @param  resource  $in
     * @param  resource  $out
     */
    private static function text($in, $out, Matrix $matrix): void
    {
        while (($line = fgets($in)) !== false) {
            if (preg_match('/^(\s*(vertex|facet\s+normal)\s+)(\S+)(\s+)(\S+)(\s+)(\S+)(.*)$/si', $line, $found) === 1) {
                $old = [(float) $found[3], (float) $found[5], (float) $found[7]];
                $new = strtolower($found[2]) === 'vertex' ? $matrix->points($old) : $matrix->normals($old);
                $line = $found[1].Decimal::of($new[0]).$found[4].Decimal::of($new[1]).$found[6].Decimal::of($new[2]).$found[8];
            }
            fwrite($out, $line);
        }
    }
}
