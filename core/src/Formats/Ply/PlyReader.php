<?php

declare(strict_types=1);

namespace Anvil\Formats\Ply;

use Anvil\Formats\PolygonSoup;
use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Normals;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * PLY (G. Turk, "The PLY Polygon File Format", 1994): ascii and both binary orders, faces of any size, triangle strips, normals,
 * colours, and UVs under their usual names (`s t`, `u v`, `texture_u texture_v`, a `texcoord` list a face). One part, named by the file.
 *
 * @phpstan-import-type Element from PlyHeader
 * @phpstan-import-type Property from PlyHeader
 */
final class PlyReader implements Reader
{
    private const ROWS = 4096;

    private const LARGEST_FACE = 100_000;

    private const UVS = [['s', 't'], ['u', 'v'], ['texture_u', 'texture_v'], ['texcoord_u', 'texcoord_v']];

    public function read(Source $source): Scene
    {
        $stream = $source->open();
        try {
            $header = PlyHeader::read($stream);
            $rows = $header->encoding === 'ascii'
                ? new PlyText($stream, $header->lines)
                : new PlyBinary($stream, strlen($header->text), $source->size(), $header->encoding === 'binary_big_endian');

            return $this->scene($source, $header, $rows);
        } finally {
            fclose($stream);
        }
    }

    private function scene(Source $source, PlyHeader $header, PlyText|PlyBinary $rows): Scene
    {
        $vertices = null;
        $soup = new PolygonSoup;
        $positions = $normals = $uvs = $colors = [];
        $remarks = ['named by the file'];
        foreach ($header->elements as $element) {
            if ($element['name'] === 'vertex') {
                if ($vertices !== null) {
                    throw Unreadable::because('the head names two elements "vertex"');
                }
                $vertices = $element['count'];
                [$positions, $normals, $uvs, $colors] = $this->vertices($element, $rows);
            } elseif ($element['name'] === 'face') {
                if ($vertices === null) {
                    throw Unreadable::because('faces stand before the vertices');
                }
                $this->faces($element, $rows, $vertices, $positions, $soup);
            } elseif ($element['name'] === 'tristrips') {
                $this->strips($element, $rows, $vertices ?? 0, $soup);
            } else {
                $rows->skip($element);
                $remarks[] = mb_scrub("the element {$element['name']} is passed over");
            }
        }
        if ($vertices === null) {
            throw Unreadable::because('the head names no element "vertex"');
        }
        $name = pathinfo($source->name(), PATHINFO_FILENAME);
        if ($soup->triangles === []) {
            return new Scene('ply', [], null, null, $remarks);
        }
        $used = [];
        foreach ($soup->triangles as $v) {
            $used[$v] = true;
        }
        $hasCornerUvs = $soup->uvs !== [];
        $mesh = new Mesh(
            $positions, $soup->triangles,
            $hasCornerUvs ? $soup->uvs : $uvs, $hasCornerUvs ? $soup->triUvs : ($uvs === [] ? [] : $soup->triangles),
            $normals, $normals === [] ? [] : $soup->triangles,
            $colors, $soup->faces,
        );
        $facts = new PartFacts(
            looseVertices: $vertices - count($used), badNormals: Normals::bad($normals), uvSets: $mesh->triUvs === [] ? 0 : 1, namedByFile: true,
        );

        return new Scene('ply', [new Part($name, $mesh, [], null, $facts)], null, null, $remarks);
    }

    /**
     * @param  Element  $element
     * @return array{list<float>, list<float>, list<float>, list<float>} positions, normals, UVs, colours
     */
    private function vertices(array $element, PlyText|PlyBinary $rows): array
    {
        $at = [];
        foreach ($element['properties'] as $i => $property) {
            if ($property['count'] !== null) {
                throw Unreadable::because("the vertex property {$property['name']} is a list, which no vertex should have");
            }
            $at[$property['name']] ??= $i;
        }
        foreach (['x', 'y', 'z'] as $axis) {
            if (! isset($at[$axis])) {
                throw Unreadable::because("the vertices have no property $axis");
            }
        }
        [$x, $y, $z] = [$at['x'], $at['y'], $at['z']];
        $hasNormals = isset($at['nx'], $at['ny'], $at['nz']);
        $uv = null;
        foreach (self::UVS as [$u, $v]) {
            if (isset($at[$u], $at[$v])) {
                $uv ??= [$at[$u], $at[$v]];
            }
        }
        $rgb = null;
        foreach ([['red', 'green', 'blue'], ['diffuse_red', 'diffuse_green', 'diffuse_blue'], ['r', 'g', 'b']] as [$r, $g, $b]) {
            if (isset($at[$r], $at[$g], $at[$b])) {
                $rgb ??= [$at[$r], $at[$g], $at[$b]];
            }
        }
        $scale = $rgb === null ? 1.0 : match (PlyHeader::TYPES[$element['properties'][$rgb[0]]['type']][2]) {
            1 => 255.0, 2 => 65535.0, default => 1.0,
        };
        $width = count($element['properties']);
        $positions = $normals = $uvs = $colors = [];
        $start = $rows->place();
        foreach ($rows->numbers($element, self::ROWS) as $block) {
            $count = count($block);
            for ($i = 0; $i + $width <= $count; $i += $width) {
                $positions[] = (float) $block[$i + $x];
                $positions[] = (float) $block[$i + $y];
                $positions[] = (float) $block[$i + $z];
                if ($hasNormals) {
                    $normals[] = (float) $block[$i + $at['nx']];
                    $normals[] = (float) $block[$i + $at['ny']];
                    $normals[] = (float) $block[$i + $at['nz']];
                }
                if ($uv !== null) {
                    $uvs[] = (float) $block[$i + $uv[0]];
                    $uvs[] = (float) $block[$i + $uv[1]];
                }
                if ($rgb !== null) {
                    $colors[] = $block[$i + $rgb[0]] / $scale;
                    $colors[] = $block[$i + $rgb[1]] / $scale;
                    $colors[] = $block[$i + $rgb[2]] / $scale;
                }
            }
        }
        $positions = Bytes::toFloat32($positions);
        foreach ($positions as $i => $value) {
            if ($value - $value !== 0.0) {
                throw self::atVertex($start, $element, intdiv($i, 3), 'vertex '.intdiv($i, 3).' is NaN, infinite, or too far out for a 32-bit number');
            }
        }
        foreach ($uvs as $i => $value) {
            if ($value - $value !== 0.0) {
                throw self::atVertex($start, $element, intdiv($i, 2), 'the UV of vertex '.intdiv($i, 2).' is NaN or infinite');
            }
        }

        return [$positions, Normals::finite($normals), $uvs, $colors];
    }

    /**
     * @param  Element  $element
     * @param  list<float>  $positions
     */
    private function faces(array $element, PlyText|PlyBinary $rows, int $vertices, array $positions, PolygonSoup $soup): void
    {
        $corners = $texcoords = null;
        foreach ($element['properties'] as $i => $property) {
            if ($property['count'] !== null && in_array($property['name'], ['vertex_indices', 'vertex_index'], true)) {
                $corners = $i;
            } elseif ($property['count'] !== null && $property['name'] === 'texcoord') {
                $texcoords = $i;
            }
        }
        if ($corners === null) {
            throw Unreadable::because('the faces have no list vertex_indices');
        }
        if (count($element['properties']) === 1 && $rows instanceof PlyBinary) {
            foreach ($rows->lists($element, self::ROWS) as [$plain, $values]) {
                if ($plain) {
                    self::checkRange($values, $vertices, $rows->place());
                    $soup->addTriangles($values);
                } else {
                    self::checkRange($values, $vertices, $rows->place());
                    $soup->addPolygon($values, $positions);
                }
            }

            return;
        }
        foreach ($rows->rows($element, self::LARGEST_FACE) as $row) {
            $face = $row[$corners];
            if (! is_array($face)) {
                continue;
            }
            $face = array_map(intval(...), $face);
            self::checkRange($face, $vertices, $rows->place());
            $uv = $texcoords === null ? null : $row[$texcoords];
            $soup->addPolygon($face, $positions, is_array($uv) && count($uv) === 2 * count($face) ? array_map(floatval(...), $uv) : null);
        }
    }

    /**
     * @param  Element  $element
     */
    private function strips(array $element, PlyText|PlyBinary $rows, int $vertices, PolygonSoup $soup): void
    {
        foreach ($rows->rows($element, 1 << 26) as $row) {
            foreach ($row as $strip) {
                if (! is_array($strip)) {
                    continue;
                }
                $a = $b = -1;
                $odd = false;
                foreach ($strip as $v) {
                    $v = (int) $v;
                    if ($v < 0) {
                        $a = $b = -1;
                        $odd = false;

                        continue;
                    }
                    self::checkRange([$v], $vertices, $rows->place());
                    if ($a >= 0) {
                        if ($a !== $b && $b !== $v && $a !== $v) {
                            $soup->addTriangles($odd ? [$b, $a, $v] : [$a, $b, $v]);
                        }
                        $odd = ! $odd;
                    }
                    $a = $b;
                    $b = $v;
                }
            }
        }
    }

    /**
     * @param  array{string, int}  $start  line or byte before the first vertex, and which
     * @param  Element  $element
     */
    private static function atVertex(array $start, array $element, int $vertex, string $message): Unreadable
    {
        return $start[0] === 'line'
            ? Unreadable::onLine($start[1] + 1 + $vertex, $message)
            : Unreadable::atByte($start[1] + $vertex * (PlyHeader::stride($element['properties']) ?? 0), $message);
    }

    /**
     * @param  list<int>  $corners
     * @param  array{string, int}  $place  line or byte, and which
     */
    private static function checkRange(array $corners, int $vertices, array $place): void
    {
        if ($corners !== [] && (min($corners) < 0 || max($corners) >= $vertices)) {
            $wrong = min($corners) < 0 ? min($corners) : max($corners);
            $message = "a face names vertex $wrong, and there are $vertices (counted from 0)";
            throw $place[0] === 'line' ? Unreadable::onLine($place[1], $message) : Unreadable::atByte($place[1], "before here $message");
        }
    }
}
