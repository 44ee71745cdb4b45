<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Formats\PolygonSoup;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Normals;
use Anvil\Unreadable;
use Closure;

/**
 * The mesh of a COLLADA geometry: its primitives together.
 *
 * @internal
 */
final class Geometry
{
    private const LARGEST_FACE = 100_000;

    /** @var list<float> */
    private array $positions = [];

    /** @var list<int> */
    public array $triangles = [];

    /** @var list<float> */
    private array $uvs = [];

    /** @var list<int> */
    private array $triUvs = [];

    /** @var list<float> */
    private array $normals = [];

    /** @var list<int> */
    private array $triNormals = [];

    /** @var list<float> rgb a corner, −1 where there is none */
    private array $triColors = [];

    private bool $anyColor = false;

    private PolygonSoup $soup;

    /** @var list<array{int, string|null}> */
    private array $runs = [];

    public int $looseVertices = 0;

    public int $badNormals = 0;

    public int $uvSets = 0;

    /** @var array<string, int> source id → first entry among positions, UVs or normals */
    private array $bases = [];

    private function __construct()
    {
        $this->soup = new PolygonSoup;
    }

    /**
     * @param  array<string, true>  $remarks
     *
     * @throws Unreadable
     */
    public static function of(XmlNode $geometry, array &$remarks): self
    {
        $out = new self;
        $mesh = $geometry->child('mesh');
        if ($mesh === null) {
            $remarks['splines and convex meshes are passed over'] = true;

            return $out;
        }
        $sources = [];
        foreach ($mesh->all('source') as $source) {
            $sources[$source->attribute('id') ?? ''] = $source;
        }
        $vertices = $mesh->child('vertices') ?? throw Unreadable::onLine($mesh->line, 'a mesh has no <vertices>');
        foreach ($mesh->children as $child) {
            if (in_array($child->name, ['triangles', 'polylist', 'polygons', 'trifans', 'tristrips'], true)) {
                $out->primitive($child, $vertices, $sources, $remarks);
            } elseif ($child->name === 'lines' || $child->name === 'linestrips') {
                $remarks['lines are passed over'] = true;
            }
        }
        $out->triangles = $out->soup->triangles;
        $used = [];
        foreach ($out->triangles as $v) {
            $used[$v] = true;
        }
        $out->looseVertices = intdiv(count($out->positions), 3) - count($used);
        $out->badNormals = Normals::bad($out->normals);

        return $out;
    }

    /**
     * @param  Closure(string): string  $nameOf  material symbol → name
     */
    public function mesh(Closure $nameOf): Mesh
    {
        $materials = $runs = [];
        foreach ($this->runs as [$triangle, $symbol]) {
            $name = $symbol === null || $symbol === '' ? null : $nameOf($symbol);
            if ($name !== null && ! in_array($name, $materials, true)) {
                $materials[] = $name;
            }
            $runs[] = [$triangle, $name === null ? -1 : (int) array_search($name, $materials, true)];
        }
        $positions = Bytes::toFloat32($this->positions);
        $triangles = $this->triangles;
        $colors = [];
        if ($this->anyColor) {
            [$positions, $triangles, $colors] = $this->split($positions);
        }

        return new Mesh(
            $positions, $triangles, $this->uvs, $this->uvs === [] ? [] : $this->triUvs, $this->normals, $this->normals === [] ? [] : $this->triNormals,
            $colors, $this->soup->faces, $materials, $runs,
        );
    }

    /**
     * @param  array<string, XmlNode>  $sources
     * @param  array<string, true>  $remarks
     */
    private function primitive(XmlNode $primitive, XmlNode $vertices, array $sources, array &$remarks): void
    {
        $stride = 1;
        $at = [];
        foreach ($primitive->all('input') as $input) {
            $offset = $input->int('offset', 0);
            $stride = max($stride, $offset + 1);
            $semantic = $input->attribute('semantic') ?? '';
            if ($semantic === 'VERTEX') {
                if ($input->reference('source') !== ($vertices->attribute('id') ?? '')) {
                    throw Unreadable::onLine($input->line, '<input> names the vertices "'.mb_strimwidth(mb_scrub($input->reference('source')), 0, 60, '…').'", which are not there');
                }
                foreach ($vertices->all('input') as $inner) {
                    $at[$inner->attribute('semantic') ?? ''] ??= [$offset, $inner->reference('source'), 0];
                }
            } elseif ($semantic === 'TEXCOORD') {
                $set = $input->int('set', 0);
                $this->uvSets = max($this->uvSets, count(array_filter($primitive->all('input'), static fn (XmlNode $other): bool => $other->attribute('semantic') === 'TEXCOORD')));
                if (! isset($at['TEXCOORD']) || $set < $at['TEXCOORD'][2]) {
                    $at['TEXCOORD'] = [$offset, $input->reference('source'), $set];
                }
            } else {
                $at[$semantic] = [$offset, $input->reference('source'), 0];
            }
        }
        if ($stride > 64) {
            throw Unreadable::onLine($primitive->line, "<$primitive->name> has over 64 inputs");
        }
        if (! isset($at['POSITION'])) {
            throw Unreadable::onLine($primitive->line, "<$primitive->name> has no positions");
        }
        [$positionBase, $positionCount] = $this->source($sources, $at['POSITION'][1], 3, $this->positions, $primitive, false);
        [$uvBase, $uvCount] = isset($at['TEXCOORD']) ? $this->source($sources, $at['TEXCOORD'][1], 2, $this->uvs, $primitive, false) : [0, 0];
        [$normalBase, $normalCount] = isset($at['NORMAL']) ? $this->source($sources, $at['NORMAL'][1], 3, $this->normals, $primitive, true) : [0, 0];
        $colors = [];
        $colorCount = 0;
        if (isset($at['COLOR'])) {
            [, $colorCount] = $this->source($sources, $at['COLOR'][1], 3, $colors, $primitive, false, false);
            $this->anyColor = true;
        }
        $this->runs[] = [intdiv(count($this->soup->triangles), 3), $primitive->attribute('material')];
        foreach ($this->loops($primitive, $stride, $remarks) as $loop) {
            $corners = intdiv(count($loop), $stride);
            $vs = [];
            for ($i = 0; $i < $corners; $i++) {
                $v = $loop[$stride * $i + $at['POSITION'][0]];
                if ($v >= $positionCount) {
                    throw Unreadable::onLine($primitive->line, "<$primitive->name> names vertex $v, and there are $positionCount (counted from 0)");
                }
                $vs[] = $positionBase + $v;
            }
            foreach ($this->soup->addPolygon($vs, $this->positions) as $corner) {
                $here = $stride * $corner;
                $this->triUvs[] = isset($at['TEXCOORD']) ? $uvBase + self::inside($loop[$here + $at['TEXCOORD'][0]], $uvCount, 'UV', $primitive) : -1;
                $this->triNormals[] = isset($at['NORMAL']) ? $normalBase + self::inside($loop[$here + $at['NORMAL'][0]], $normalCount, 'normal', $primitive) : -1;
                if (isset($at['COLOR'])) {
                    $c = self::inside($loop[$here + $at['COLOR'][0]], $colorCount, 'colour', $primitive);
                    array_push($this->triColors, $colors[3 * $c], $colors[3 * $c + 1], $colors[3 * $c + 2]);
                } else {
                    array_push($this->triColors, -1.0, -1.0, -1.0);
                }
            }
        }
    }

    private static function inside(int $number, int $count, string $what, XmlNode $primitive): int
    {
        if ($number >= $count) {
            throw Unreadable::onLine($primitive->line, "<$primitive->name> names $what $number, and there are $count (counted from 0)");
        }

        return $number;
    }

    /**
     * The corners of each face, all inputs side by side.
     *
     * @param  int<1, max>  $stride
     * @param  array<string, true>  $remarks
     * @return iterable<list<int>>
     */
    private function loops(XmlNode $primitive, int $stride, array &$remarks): iterable
    {
        $cut = static function (XmlNode $p) use ($stride): array {
            $all = $p->ints();
            if (count($all) % $stride !== 0) {
                throw Unreadable::onLine($p->line, '<p> has '.count($all)." numbers, which is no multiple of its $stride inputs; the file is damaged");
            }

            return $all;
        };
        switch ($primitive->name) {
            case 'triangles':
                $found = 0;
                foreach ($primitive->all('p') as $p) {
                    foreach (array_chunk($cut($p), 3 * $stride) as $loop) {
                        if (count($loop) === 3 * $stride) {
                            $found++;
                            yield $loop;
                        }
                    }
                }
                $declared = $primitive->int('count', $found);
                if ($found < $declared) {
                    throw Unreadable::onLine($primitive->line, "<triangles> says $declared and has $found; the file is damaged or cut short");
                }
                break;
            case 'polylist':
                $sizes = $primitive->child('vcount')?->ints() ?? [];
                $p = $primitive->child('p');
                $all = $p === null ? [] : $cut($p);
                if (array_sum($sizes) * $stride !== count($all)) {
                    throw Unreadable::onLine($primitive->line, '<vcount> needs '.array_sum($sizes) * $stride.' numbers in <p>, and there are '.count($all));
                }
                $from = 0;
                foreach ($sizes as $size) {
                    if ($size > self::LARGEST_FACE) {
                        throw Unreadable::onLine($primitive->line, "a face of $size corners makes no sense");
                    }
                    yield array_slice($all, $from, $size * $stride);
                    $from += $size * $stride;
                }
                break;
            case 'polygons':
                foreach ($primitive->children as $child) {
                    if ($child->name === 'p') {
                        yield $cut($child);
                    } elseif ($child->name === 'ph') {
                        $remarks['holes of polygons are filled'] = true;
                        $outer = $child->child('p');
                        if ($outer !== null) {
                            yield $cut($outer);
                        }
                    }
                }
                break;
            default:
                foreach ($primitive->all('p') as $p) {
                    $corners = array_chunk($cut($p), $stride);
                    for ($i = 2, $n = count($corners); $i < $n; $i++) {
                        yield $primitive->name === 'trifans' ? [...$corners[0], ...$corners[$i - 1], ...$corners[$i]]
                            : ($i % 2 === 0 ? [...$corners[$i - 2], ...$corners[$i - 1], ...$corners[$i]] : [...$corners[$i - 1], ...$corners[$i - 2], ...$corners[$i]]);
                    }
                }
        }
    }

    /**
     * Adds the values of a source once.
     *
     * @param  array<string, XmlNode>  $sources
     * @param  list<float>  $into
     * @return array{int, int} number of its first entry, how many it has
     */
    private function source(array $sources, string $id, int $width, array &$into, XmlNode $primitive, bool $mayBeNone, bool $keep = true): array
    {
        $source = $sources[$id] ?? throw Unreadable::onLine($primitive->line, "<$primitive->name> names the source \"".mb_strimwidth(mb_scrub($id), 0, 60, '…').'", which is not there');
        $array = $source->child('float_array') ?? throw Unreadable::onLine($source->line, 'a source has no <float_array>');
        $accessor = $source->child('technique_common')?->child('accessor');
        $stride = max(1, $accessor?->int('stride', 1) ?? $width);
        $count = $accessor?->int('count', 0) ?? 0;
        $offset = $accessor?->int('offset', 0) ?? 0;
        if ($keep && isset($this->bases[$id])) {
            return [$this->bases[$id], $count];
        }
        if ($mayBeNone) {
            $array->text = (string) preg_replace('/[-+]?(?:nan|inf(?:inity)?|1\.#\w+)/i', '0 ', $array->text);
        }
        $values = $array->floats();
        $declared = $array->int('count', count($values));
        if ($declared !== count($values)) {
            throw Unreadable::onLine($array->line, "<float_array> says $declared numbers and has ".count($values).'; the file is damaged or cut short');
        }
        if ($count > 0 && $offset + $stride * ($count - 1) + min($width, $stride) > count($values)) {
            throw Unreadable::onLine(($accessor ?? $source)->line, "<accessor> counts $count entries of $stride, and there are only ".count($values).' numbers');
        }
        $base = intdiv(count($into), $width);
        for ($i = 0; $i < $count; $i++) {
            for ($k = 0; $k < $width; $k++) {
                $into[] = $k < $stride ? $values[$offset + $stride * $i + $k] : 0.0;
            }
        }
        if ($width === 3 && ! $mayBeNone && $keep) {
            foreach (Bytes::toFloat32(array_slice($into, 3 * $base)) as $k => $value) {
                if ($value - $value !== 0.0) {
                    throw Unreadable::onLine($array->line, 'vertex '.intdiv($k, 3).' is too far out for a 32-bit number');
                }
            }
        }
        if ($keep) {
            $this->bases[$id] = $base;
        }

        return [$base, $count];
    }

    /**
     * A vertex for each place and colour, since a mesh has one colour a vertex.
     *
     * @param  list<float>  $positions
     * @return array{list<float>, list<int>, list<float>}
     */
    private function split(array $positions): array
    {
        $numbers = $out = $triangles = $colors = [];
        foreach ($this->triangles as $k => $v) {
            $rgb = [$this->triColors[3 * $k], $this->triColors[3 * $k + 1], $this->triColors[3 * $k + 2]];
            $key = "$v ".implode(' ', $rgb);
            if (! isset($numbers[$key])) {
                $numbers[$key] = count($numbers);
                array_push($out, $positions[3 * $v], $positions[3 * $v + 1], $positions[3 * $v + 2]);
                array_push($colors, ...$rgb);
            }
            $triangles[] = $numbers[$key];
        }

        return [$out, $triangles, $colors];
    }
}
