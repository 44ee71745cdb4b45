<?php

declare(strict_types=1);

namespace Anvil\Formats\Ply;

use Anvil\Formats\Changes;
use Anvil\Formats\Decimal;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Matrix;
use Anvil\Unreadable;

/**
 * Writes a PLY file again with its vertices, and on a turn their normals, moved; every other byte as it was.
 *
 * @internal
 *
 * @phpstan-import-type Element from PlyHeader
 */
final class PlyRewriter
{
    private const ROWS = 4096;

    /**
     * @return list<string> side files that it names: none
     */
    public static function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        $in = $source->open();
        $out = $sink->open($name);
        $header = PlyHeader::read($in);
        fwrite($out, $header->text);
        $matrix = $changes->matrixFor(pathinfo($source->name(), PATHINFO_FILENAME));
        if ($matrix !== null && ! $matrix->isIdentity()) {
            if (($header->elements[0]['name'] ?? '') !== 'vertex') {
                throw Unreadable::because('the vertices do not come first, so they cannot be moved; export the file again');
            }
            $header->encoding === 'ascii' ? self::text($in, $out, $header, $matrix) : self::binary($in, $out, $header, $matrix);
        }
        stream_copy_to_stream($in, $out);
        fclose($in);
        fclose($out);

        return [];
    }

    /**
     * @param  Element  $element
     * @return list<array{list<int>, bool}> triples of properties, and whether they are directions
     */
    private static function triples(array $element): array
    {
        $at = array_flip(array_column($element['properties'], 'name'));
        $out = [[[$at['x'], $at['y'], $at['z']], false]];
        if (isset($at['nx'], $at['ny'], $at['nz'])) {
            $out[] = [[$at['nx'], $at['ny'], $at['nz']], true];
        }

        return $out;
    }

    /**
     * @param  resource  $in
     * @param  resource  $out
     */
    private static function text($in, $out, PlyHeader $header, Matrix $matrix): void
    {
        $element = $header->elements[0];
        $triples = self::triples($element);
        for ($i = 0; $i < $element['count']; $i++) {
            $line = (string) fgets($in);
            $pieces = preg_split('/(\s+)/', $line, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [];
            $words = array_keys(array_filter($pieces, static fn (string $piece): bool => $piece !== '' && trim($piece) !== ''));
            if (count($words) < count($element['properties'])) {
                throw Unreadable::onLine($header->lines + $i + 1, 'a vertex goes on over several lines and cannot be moved; export the file again');
            }
            foreach ($triples as [$properties, $isDirection]) {
                [$a, $b, $c] = [$words[$properties[0]], $words[$properties[1]], $words[$properties[2]]];
                $old = [(float) $pieces[$a], (float) $pieces[$b], (float) $pieces[$c]];
                $new = $isDirection ? $matrix->normals($old) : $matrix->points($old);
                foreach ([$a, $b, $c] as $k => $piece) {
                    if ($new[$k] !== $old[$k]) {
                        $pieces[$piece] = Decimal::of($new[$k]);
                    }
                }
            }
            fwrite($out, implode('', $pieces));
        }
    }

    /**
     * @param  resource  $in
     * @param  resource  $out
     */
    private static function binary($in, $out, PlyHeader $header, Matrix $matrix): void
    {
        $element = $header->elements[0];
        $stride = (int) PlyHeader::stride($element['properties']);
        $order = $header->encoding === 'binary_big_endian' ? 1 : 0;
        $offsets = [];
        $offset = 0;
        foreach ($element['properties'] as $property) {
            $offsets[] = $offset;
            $offset += PlyHeader::TYPES[$property['type']][2];
        }
        $triples = self::triples($element);
        for ($done = 0; $done < $element['count']; $done += self::ROWS) {
            $take = min(self::ROWS, $element['count'] - $done);
            $bytes = '';
            while (strlen($bytes) < $take * $stride && ! feof($in)) {
                $bytes .= (string) fread($in, max(1, $take * $stride - strlen($bytes)));
            }
            foreach ($triples as [$properties, $isDirection]) {
                $type = PlyHeader::TYPES[$element['properties'][$properties[0]]['type']];
                if (! in_array($type[0], ['g', 'e'], true)) {
                    throw Unreadable::because('the vertices are whole numbers and cannot be moved; export them as float');
                }
                for ($i = 0; $i < $take; $i++) {
                    $old = [];
                    foreach ($properties as $property) {
                        /** @var array{1: float} $one */
                        $one = unpack($type[$order], $bytes, $i * $stride + $offsets[$property]);
                        $old[] = $one[1];
                    }
                    $new = $isDirection ? $matrix->normals($old) : $matrix->points($old);
                    foreach ($properties as $k => $property) {
                        $bytes = substr_replace($bytes, pack($type[$order], $new[$k]), $i * $stride + $offsets[$property], $type[2]);
                    }
                }
            }
            fwrite($out, $bytes);
        }
    }
}
