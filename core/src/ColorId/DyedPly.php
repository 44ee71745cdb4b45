<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Formats\Ply\PlyHeader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;

/**
 * Writes IDs into a PLY file as colors of its vertices; one in which several IDs meet stands there once for each, behind the others. All else
 * of a vertex and a face stays as it was.
 *
 * @internal
 *
 * @phpstan-import-type Element from PlyHeader
 * @phpstan-import-type Property from PlyHeader
 */
final class DyedPly
{
    private const COLORS = ['red', 'green', 'blue', 'alpha', 'diffuse_red', 'diffuse_green', 'diffuse_blue'];

    /** @return bool false where the file is built in a way that is not written: anything but vertices and then faces with one list */
    public static function write(IdPlan $plan, WornPart $worn, Source $source, string $name, Sink $sink): bool
    {
        $in = $source->open();
        $header = PlyHeader::read($in);
        $elements = $header->elements;
        if (count($elements) !== 2 || $elements[0]['name'] !== 'vertex' || $elements[1]['name'] !== 'face' || PlyHeader::stride($elements[0]['properties']) === null) {
            fclose($in);

            return false;
        }
        $lists = array_keys(array_filter($elements[1]['properties'], static fn (array $property): bool => $property['count'] !== null));
        if (count($lists) !== 1 || ! in_array($elements[1]['properties'][$lists[0]]['name'], ['vertex_indices', 'vertex_index'], true)) {
            fclose($in);

            return false;
        }
        $isText = $header->encoding === 'ascii';
        $rows = $isText ? self::textRows($in, $header) : self::binaryRows($in, $header);
        fclose($in);
        [$vertices, $faces] = $rows;
        $colors = array_map(static fn (PlannedId $id): array => [$id->color->red, $id->color->green, $id->color->blue], $plan->ids);
        $ids = $worn->ofFaces();
        $idOf = array_fill(0, max(1, count($vertices)), -1);
        $more = [];
        $count = count($vertices);
        foreach ($faces as $f => [$corners]) {
            $id = is_int($ids) ? $ids : ($ids[$f] ?? 0);
            foreach ($corners as $k => $v) {
                if ($idOf[$v] === $id) {
                    continue;
                }
                if ($idOf[$v] < 0) {
                    $idOf[$v] = $id;

                    continue;
                }
                $key = $v << 16 | $id;
                if (! isset($more[$key])) {
                    $more[$key] = $count + count($more);
                }
                $faces[$f][0][$k] = $more[$key];
            }
        }
        $out = $sink->open($name);
        fwrite($out, self::head($header, $count + count($more)));
        $paint = static fn (string $row, int $id): string => $isText ? $row.' '.implode(' ', $colors[max(0, $id)])."\n" : $row.pack('C3', ...$colors[max(0, $id)]);
        foreach ($vertices as $v => $row) {
            fwrite($out, $paint($row, $idOf[$v]));
        }
        foreach (array_keys($more) as $key) {
            fwrite($out, $paint($vertices[$key >> 16], $key & 0xFFFF));
        }
        $list = $elements[1]['properties'][$lists[0]];
        $order = $header->encoding === 'binary_big_endian' ? 1 : 0;
        $code = ($order === 1 ? 'N' : 'V').'*';
        $length = PlyHeader::TYPES[(string) $list['count']][$order];
        foreach ($faces as [$corners, $before, $after]) {
            fwrite($out, $isText
                ? trim($before.' '.count($corners).' '.implode(' ', $corners).' '.$after)."\n"
                : $before.pack($length, count($corners)).pack($code, ...$corners).$after);
        }
        fclose($out);

        return true;
    }

    private static function head(PlyHeader $header, int $vertices): string
    {
        $out = '';
        $element = null;
        foreach (preg_split('/\r\n|\r|\n/', rtrim($header->text)) ?: [] as $line) {
            $words = preg_split('/\s+/', trim($line)) ?: [];
            if ($words[0] === 'element' || $words[0] === 'end_header') {
                if ($element === 'vertex') {
                    $out .= "property uchar red\nproperty uchar green\nproperty uchar blue\n";
                }
                $element = $words[1] ?? null;
                $line = $element === 'vertex' ? "element vertex $vertices" : $line;
            } elseif ($words[0] === 'property') {
                if ($element === 'vertex' && in_array(end($words), self::COLORS, true)) {
                    continue;
                }
                // As many vertices as there may be now.
                $line = ($words[1] ?? '') === 'list' ? "property list $words[2] uint $words[4]" : $line;
            }
            $out .= "$line\n";
        }

        return $out;
    }

    /**
     * @param  resource  $in
     * @return array{list<string>, list<array{list<int>, string, string}>} vertices without colors; corners of faces, and what stands before and behind them
     */
    private static function textRows($in, PlyHeader $header): array
    {
        $properties = $header->elements[0]['properties'];
        $vertices = $faces = [];
        for ($i = 0; $i < $header->elements[0]['count']; $i++) {
            $words = preg_split('/\s+/', trim((string) fgets($in))) ?: [];
            $vertices[] = implode(' ', array_filter(array_slice($words, 0, count($properties)), static fn (int $k): bool => ! in_array($properties[$k]['name'], self::COLORS, true), ARRAY_FILTER_USE_KEY));
        }
        $at = (int) array_search(true, array_map(static fn (array $property): bool => $property['count'] !== null, $header->elements[1]['properties']), true);
        for ($i = 0; $i < $header->elements[1]['count']; $i++) {
            $words = preg_split('/\s+/', trim((string) fgets($in))) ?: [];
            $many = (int) ($words[$at] ?? 0);
            $faces[] = [array_map(intval(...), array_slice($words, $at + 1, $many)), implode(' ', array_slice($words, 0, $at)), implode(' ', array_slice($words, $at + 1 + $many))];
        }

        return [$vertices, $faces];
    }

    /**
     * @param  resource  $in
     * @return array{list<string>, list<array{list<int>, string, string}>}
     */
    private static function binaryRows($in, PlyHeader $header): array
    {
        $bytes = (string) stream_get_contents($in);
        $order = $header->encoding === 'binary_big_endian' ? 1 : 0;
        $stride = (int) PlyHeader::stride($header->elements[0]['properties']);
        /** @var list<array{int, int}> $keep */
        $keep = [];
        $offset = 0;
        foreach ($header->elements[0]['properties'] as $property) {
            $size = PlyHeader::TYPES[$property['type']][2];
            if (! in_array($property['name'], self::COLORS, true)) {
                // Neighbors are taken at once.
                $last = array_pop($keep);
                if ($last !== null && $offset !== $last[0] + $last[1]) {
                    $keep[] = $last;
                    $last = null;
                }
                $keep[] = $last === null ? [$offset, $size] : [$last[0], $last[1] + $size];
            }
            $offset += $size;
        }
        $vertices = $faces = [];
        for ($i = 0, $n = $header->elements[0]['count']; $i < $n; $i++) {
            $row = '';
            foreach ($keep as [$from, $size]) {
                $row .= substr($bytes, $i * $stride + $from, $size);
            }
            $vertices[] = $row;
        }
        $at = $header->elements[0]['count'] * $stride;
        $before = $after = 0;
        $list = null;
        foreach ($header->elements[1]['properties'] as $property) {
            $size = PlyHeader::TYPES[$property['type']][2];
            if ($property['count'] !== null) {
                $list = $property;
            } elseif ($list === null) {
                $before += $size;
            } else {
                $after += $size;
            }
        }
        if ($list === null) {
            return [$vertices, []];
        }
        [$lengthCode, $lengthSize] = [PlyHeader::TYPES[(string) $list['count']][$order], PlyHeader::TYPES[(string) $list['count']][2]];
        [$code, $size] = [PlyHeader::TYPES[$list['type']][$order], PlyHeader::TYPES[$list['type']][2]];
        for ($i = 0, $n = $header->elements[1]['count']; $i < $n; $i++) {
            $head = substr($bytes, $at, $before);
            $at += $before;
            $many = self::one($lengthCode, $bytes, $at);
            $at += $lengthSize;
            /** @var array<int, int> $corners */
            $corners = $many === 0 ? [] : unpack("$code$many", $bytes, $at);
            $at += $many * $size;
            $faces[] = [array_values($corners), $head, substr($bytes, $at, $after)];
            $at += $after;
        }

        return [$vertices, $faces];
    }

    private static function one(string $code, string $bytes, int $at): int
    {
        /** @var array{1: int} $read */
        $read = unpack($code, $bytes, $at);

        return $read[1];
    }
}
