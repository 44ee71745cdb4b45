<?php

declare(strict_types=1);

namespace Anvil\Formats\Stl;

use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * STL, binary and text: triangles and nothing else, so a high poly only. One part, named by the file; equal corners become one vertex.
 *
 * The format's facet normals are passed over: the winding says the same, and many exporters write zeros.
 */
final class StlReader implements Reader
{
    private const BLOCK = 8192;

    public function read(Source $source): Scene
    {
        $stream = $source->open();
        try {
            $corners = self::isBinary($stream, $source->size()) ? self::binary($stream, $source->size()) : self::text($stream);
        } finally {
            fclose($stream);
        }
        if ($corners === []) {
            return new Scene('stl', [], null, null, ['named by the file']);
        }
        [$positions, $triangles] = self::welded($corners);
        $part = new Part(pathinfo($source->name(), PATHINFO_FILENAME), new Mesh($positions, $triangles), [], null, new PartFacts(namedByFile: true));

        return new Scene('stl', [$part], null, null, ['named by the file']);
    }

    /**
     * A binary file says how many triangles follow, and its size must agree; some of them begin with the word "solid" too.
     *
     * @param  resource  $stream
     */
    public static function isBinary($stream, int $size): bool
    {
        $head = (string) fread($stream, 512);
        rewind($stream);
        if ($size >= 84 && strlen($head) >= 84) {
            /** @var array{1: int} $count */
            $count = unpack('V', $head, 80);
            if ($size === 84 + 50 * $count[1]) {
                return true;
            }
        }

        return ! str_starts_with(ltrim($head), 'solid') || preg_match('/^\s*solid[^\r\n]*[\r\n]+\s*(facet|endsolid)/', $head) !== 1 && preg_match('/[\x00-\x08\x0e-\x1f\x80-\xff]/', substr($head, 80)) === 1;
    }

    /**
     * @param  resource  $stream
     * @return list<float>
     */
    private static function binary($stream, int $size): array
    {
        $head = (string) fread($stream, 84);
        if (strlen($head) < 84) {
            throw Unreadable::atByte(strlen($head), 'the file is neither a text STL (it does not begin with "solid") nor a whole binary one (its head is cut short)');
        }
        /** @var array{1: int} $read */
        $read = unpack('V', $head, 80);
        $count = $read[1];
        if ($size < 84 + 50 * $count) {
            throw Unreadable::atByte(80, "the head says $count triangles, which need ".(84 + 50 * $count)." bytes, and the file has $size; it is cut short or no STL");
        }
        $out = [];
        for ($done = 0; $done < $count; $done += self::BLOCK) {
            $take = min(self::BLOCK, $count - $done);
            $bytes = '';
            while (strlen($bytes) < 50 * $take && ! feof($stream)) {
                $bytes .= (string) fread($stream, max(1, 50 * $take - strlen($bytes)));
            }
            if (strlen($bytes) < 50 * $take) {
                throw Unreadable::atByte(84 + 50 * $done + strlen($bytes), 'the file cannot be read further');
            }
            $corners = '';
            for ($i = 0, $at = 12; $i < $take; $i++, $at += 50) {
                $corners .= substr($bytes, $at, 36);
            }
            foreach (Bytes::floats($corners) as $k => $value) {
                if ($value - $value !== 0.0) {
                    throw Unreadable::atByte(84 + 50 * ($done + intdiv($k, 9)), 'triangle '.($done + intdiv($k, 9)).' has a corner that is NaN or infinite');
                }
                $out[] = $value;
            }
        }

        return $out;
    }

    /**
     * @param  resource  $stream
     * @return list<float>
     */
    private static function text($stream): array
    {
        $out = [];
        $number = 0;
        $corners = 0;
        $open = $ended = false;
        while (($line = fgets($stream, 65536)) !== false) {
            $number++;
            if (strpos($line, "\0") !== false) {
                throw Unreadable::onLine($number, 'holds a zero byte: this is no STL text, or one that was damaged');
            }
            $words = preg_split('/\s+/', strtolower(trim($line)), 5, PREG_SPLIT_NO_EMPTY) ?: [];
            switch ($words[0] ?? '') {
                case 'vertex':
                    if (! isset($words[3]) || ! is_numeric($words[1]) || ! is_numeric($words[2]) || ! is_numeric($words[3])) {
                        throw Unreadable::onLine($number, 'a vertex needs three numbers, none of them NaN or infinite');
                    }
                    if (! $open) {
                        throw Unreadable::onLine($number, 'a vertex stands outside a facet');
                    }
                    array_push($out, (float) $words[1], (float) $words[2], (float) $words[3]);
                    $corners++;
                    break;
                case 'facet':
                    $open = true;
                    $corners = 0;
                    break;
                case 'endfacet':
                    if ($corners !== 3) {
                        throw Unreadable::onLine($number, "a facet has $corners corners; a triangle has 3");
                    }
                    $open = false;
                    break;
                case 'endsolid':
                    $ended = true;
                    break;
                case 'solid': case 'outer': case 'endloop': case '':
                    break;
                default:
                    throw Unreadable::onLine($number, 'is no line of an STL: "'.mb_strimwidth(mb_scrub(trim($line)), 0, 60, '…').'"');
            }
        }
        if ($open) {
            throw Unreadable::onLine($number, 'the file ends inside a facet; it is cut short');
        }
        if ($out === [] && ! $ended) {
            throw Unreadable::onLine(max(1, $number), 'the file ends before its first triangle and has no endsolid; it is cut short');
        }
        if (count($out) % 9 !== 0) {
            throw Unreadable::onLine($number, 'the file ends before its last triangle does; it is cut short');
        }

        return $out;
    }

    /**
     * @param  list<float>  $corners  nine a triangle
     * @return array{list<float>, list<int>} positions as float32, triangles
     */
    private static function welded(array $corners): array
    {
        $corners = Bytes::toFloat32($corners);
        $bytes = Bytes::packFloats($corners);
        if (str_contains($bytes, "\0\0\0\x80")) {
            // Minus zero is the same place as zero.
            $corners = array_map(static fn (float $value): float => $value + 0.0, $corners);
            $bytes = Bytes::packFloats($corners);
        }
        $numbers = $positions = $triangles = [];
        $next = 0;
        for ($i = 0, $n = intdiv(count($corners), 3); $i < $n; $i++) {
            $key = substr($bytes, 12 * $i, 12);
            $number = $numbers[$key] ?? null;
            if ($number === null) {
                $x = $corners[3 * $i];
                $y = $corners[3 * $i + 1];
                $z = $corners[3 * $i + 2];
                if ($x - $x + $y - $y + $z - $z !== 0.0) {
                    throw Unreadable::because('triangle '.(intdiv($i, 3) + 1).' has a corner too far out for a 32-bit number');
                }
                $numbers[$key] = $number = $next++;
                $positions[] = $x;
                $positions[] = $y;
                $positions[] = $z;
            }
            $triangles[] = $number;
        }

        return [$positions, $triangles];
    }
}
