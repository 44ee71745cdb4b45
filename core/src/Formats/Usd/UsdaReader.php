<?php

declare(strict_types=1);

namespace Anvil\Formats\Usd;

use Anvil\Formats\PolygonSoup;
use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Formats\Units;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Color;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Normals;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * USD text (`.usda`): Mesh prims with their xformOps, `primvars:st` and normals by interpolation, materials by binding and GeomSubset,
 * in the layer's own unit and axes. Read only. Composition (references, payloads, variants) is not followed, and said so.
 */
final class UsdaReader implements Reader
{
    private const LARGEST = 768 << 20;

    /** @var array<string, string> material path → `#RRGGBB` */
    private array $colors = [];

    /** @var array<string, true> */
    private array $remarks = [];

    /** @var array<string, int> */
    private array $extras = [];

    /** @var list<Part> */
    private array $parts = [];

    public function read(Source $source): Scene
    {
        return (new self)->run($source);
    }

    private function run(Source $source): Scene
    {
        if ($source->size() > self::LARGEST) {
            throw Unreadable::because('the USD text is over 768 MiB; export the meshes as .glb or .ply');
        }
        $stream = $source->open();
        $text = (string) stream_get_contents($stream);
        fclose($stream);
        [$root, $this->remarks] = UsdaParser::parse($text);
        unset($text);
        $metres = preg_match('/\bmetersPerUnit\s*=\s*([\d.eE+-]+)/', $root->meta, $found) === 1 ? (float) $found[1] : 0.01;
        if ($metres <= 0.0 || ! is_finite($metres)) {
            throw Unreadable::onLine(1, 'metersPerUnit is no length');
        }
        $up = preg_match('/\bupAxis\s*=\s*"([XYZ])"/', $root->meta, $found) === 1 ? $found[1] : 'Y';
        $this->materials($root);
        foreach ($root->children as $child) {
            $this->prim($child, Matrix::identity(), null, null);
        }
        if ($this->parts === [] && ($layers = self::layers($root)) !== []) {
            throw Unreadable::because('the file holds no mesh of its own, only references to other layers ('.implode(', ', array_slice($layers, 0, 3)).'); export it flattened, or hand those in');
        }
        $extras = [];
        foreach ($this->extras as $what => $count) {
            $extras[] = $count === 1 ? "1 $what" : "$count {$what}s";
        }

        return new Scene('usda', $this->parts, Units::nameOf($metres), $up, array_keys($this->remarks), $extras);
    }

    private function materials(Prim $prim): void
    {
        foreach ($prim->children as $child) {
            if ($child->type === 'Material') {
                $stack = $child->children;
                while ($stack !== []) {
                    $shader = array_pop($stack);
                    $raw = $shader->raw('inputs:diffuseColor');
                    if ($raw !== null) {
                        $rgb = Values::floats($raw, $shader->lineOf('inputs:diffuseColor'));
                        if (count($rgb) === 3) {
                            $this->colors[$child->path] = Color::ofLinear($rgb[0], $rgb[1], $rgb[2])->hex();
                        }
                    }
                    array_push($stack, ...$shader->children);
                }
            } else {
                $this->materials($child);
            }
        }
    }

    /**
     * The files that a layer refers to.
     *
     * @return list<string>
     */
    private static function layers(Prim $prim): array
    {
        $out = [];
        if (preg_match('/\b(references|payload|subLayers)\b/', $prim->meta) === 1 && preg_match_all('/@+([^@\n]{1,300})@+/', $prim->meta, $found) > 0) {
            $out = array_map(static fn (string $name): string => mb_strimwidth(mb_scrub($name), 0, 80, '…'), $found[1]);
        }
        foreach ($prim->children as $child) {
            array_push($out, ...self::layers($child));
        }

        return array_values(array_unique($out));
    }

    /** How many meshes a prim holds, itself and all below. */
    private static function meshes(Prim $prim): int
    {
        return array_sum(array_map(self::meshes(...), $prim->children)) + ($prim->type === 'Mesh' ? 1 : 0);
    }

    /**
     * @param  string|null  $objectName  of the Xform right over it, where that holds no other mesh: exporters put the object's name there
     */
    private function prim(Prim $prim, Matrix $above, ?string $binding, ?string $objectName): void
    {
        if ($prim->specifier !== 'def' || preg_match('/\bactive\s*=\s*false\b/', $prim->meta) === 1) {
            return;
        }
        $own = $prim->raw('material:binding');
        $binding = $own === null ? $binding : trim($own, '<> ');
        if ($prim->text('visibility') === 'invisible') {
            $this->count('hidden node');
        }
        [$local, $reset] = XformOps::of($prim, $this->remarks);
        $world = $reset ? $local : $above->times($local);
        match ($prim->type) {
            'Camera' => $this->count('camera'),
            'DistantLight', 'DomeLight', 'SphereLight', 'RectLight', 'DiskLight', 'CylinderLight' => $this->count('light'),
            'Skeleton', 'SkelRoot' => $prim->type === 'Skeleton' ? $this->count('skin') : null,
            'Xform' => $prim->children === [] ? $this->count('empty node') : null,
            'Mesh' => $this->mesh($prim, $world, $binding, $objectName ?? $prim->name),
            default => null,
        };
        foreach (array_map(strval(...), array_keys($prim->attributes)) as $name) {
            if (str_ends_with($name, '.timeSamples')) {
                $this->extras['animation'] = 1;
            }
        }
        $names = $prim->type === 'Xform' && self::meshes($prim) === 1;
        foreach ($prim->children as $child) {
            if (! in_array($child->type, ['GeomSubset', 'Material', 'Shader'], true)) {
                $this->prim($child, $world, $binding, $names && $child->type === 'Mesh' ? $prim->name : null);
            }
        }
    }

    private function count(string $what): void
    {
        $this->extras[$what] = ($this->extras[$what] ?? 0) + 1;
    }

    private function mesh(Prim $prim, Matrix $world, ?string $binding, string $partName): void
    {
        $positions = Bytes::toFloat32(self::floats($prim, 'points'));
        if (count($positions) % 3 !== 0) {
            throw Unreadable::onLine($prim->lineOf('points'), "the points of $prim->path are not three numbers each");
        }
        foreach ($positions as $k => $value) {
            if ($value - $value !== 0.0) {
                throw Unreadable::onLine($prim->lineOf('points'), 'point '.intdiv($k, 3)." of $prim->path is too far out for a 32-bit number");
            }
        }
        $sizes = self::ints($prim, 'faceVertexCounts');
        $indices = self::ints($prim, 'faceVertexIndices');
        $count = intdiv(count($positions), 3);
        $corners = 0;
        foreach ($sizes as $size) {
            $corners += max(0, $size);
        }
        if ($corners !== count($indices)) {
            throw Unreadable::onLine($prim->lineOf('faceVertexIndices'), "faceVertexCounts of $prim->path needs $corners indices, and there are ".count($indices));
        }
        if ($indices !== [] && (min($indices) < 0 || max($indices) >= $count)) {
            throw Unreadable::onLine($prim->lineOf('faceVertexIndices'), "a face of $prim->path names point ".(min($indices) < 0 ? min($indices) : max($indices)).", and there are $count (counted from 0)");
        }
        if ($indices === []) {
            return;
        }
        [$uvs, $uvOf, $uvName] = $this->primvar($prim, ['primvars:st', 'primvars:UVMap', 'primvars:st0', 'primvars:map1'], 2, $count, count($indices), count($sizes));
        [$normals, $normalOf] = $this->primvar($prim, ['primvars:normals', 'normals'], 3, $count, count($indices), count($sizes));
        [$colors, $colorOf] = $this->primvar($prim, ['primvars:displayColor'], 3, $count, count($indices), count($sizes));
        [$subset, $names] = $this->subsets($prim, $binding, count($sizes));
        // Faces of one material together, so that each material is one run.
        $soup = new PolygonSoup;
        $triUvs = $triNormals = $runs = $perCorner = [];
        $starts = [];
        $start = 0;
        foreach ($sizes as $size) {
            $starts[] = $start;
            $start += $size;
        }
        $order = array_keys($sizes);
        if ($subset !== []) {
            usort($order, static fn (int $a, int $b): int => [$subset[$a] ?? -1, $a] <=> [$subset[$b] ?? -1, $b]);
        }
        $wears = null;
        foreach ($order as $face) {
            $material = $subset[$face] ?? -1;
            if ($material !== $wears) {
                $runs[] = [intdiv(count($soup->triangles), 3), $material];
                $wears = $material;
            }
            $from = $starts[$face];
            $loop = array_slice($indices, $from, $sizes[$face]);
            foreach ($soup->addPolygon($loop, $positions) as $corner) {
                $v = $loop[$corner];
                $triUvs[] = $uvOf === null ? -1 : $uvOf($v, $from + $corner, $face);
                $triNormals[] = $normalOf === null ? -1 : $normalOf($v, $from + $corner, $face);
                $perCorner[] = $colorOf === null ? -1 : $colorOf($v, $from + $corner, $face);
            }
        }
        $used = array_fill_keys($indices, true);
        $triangles = $soup->triangles;
        $vertexColors = [];
        if ($colorOf !== null) {
            [$positions, $triangles, $vertexColors] = self::split($positions, $triangles, $colors, $perCorner);
        }
        $mesh = new Mesh(
            $positions, $triangles, $uvs, $uvOf === null ? [] : $triUvs, Normals::finite($normals), $normalOf === null ? [] : $triNormals,
            $vertexColors, $soup->faces, array_map(static fn (string $path): string => basename($path), $names), $runs,
        );
        if (str_contains($prim->raw('orientation') ?? '', 'leftHanded')) {
            $mesh = $mesh->wound();
        }
        $partColors = [];
        foreach ($names as $path) {
            if (isset($this->colors[$path])) {
                $partColors[basename($path)] = $this->colors[$path];
            }
        }
        $uvSets = 0;
        foreach (array_map(strval(...), array_keys($prim->attributes)) as $name) {
            $uvSets += str_starts_with($name, 'primvars:') && ! str_ends_with($name, ':indices') && ($name === $uvName || preg_match('/^primvars:(st|uv|map)\d*$/i', $name) === 1) ? 1 : 0;
        }
        $facts = new PartFacts($world, $partName === $prim->name ? null : mb_scrub($prim->name), looseVertices: $count - count($used), badNormals: Normals::bad($mesh->normals), uvSets: $uvSets);
        $this->parts[] = new Part(mb_scrub($partName), $mesh->placedBy($world), $partColors, null, $facts);
    }

    /**
     * A primvar by its interpolation: the values, and which of them a corner takes.
     *
     * @param  list<string>  $names  the first that is there
     * @return array{list<float>, (callable(int, int, int): int)|null, string|null} the callable takes point, corner and face number
     */
    private function primvar(Prim $prim, array $names, int $width, int $points, int $corners, int $faces): array
    {
        foreach ($names as $name) {
            if ($prim->raw($name) === null) {
                continue;
            }
            $values = self::floats($prim, $name);
            if (count($values) % $width !== 0) {
                throw Unreadable::onLine($prim->lineOf($name), "$name of $prim->path has ".count($values)." numbers, which is no multiple of $width");
            }
            $count = intdiv(count($values), $width);
            if ($count === 0) {
                continue;
            }
            $indices = $prim->raw("$name:indices") === null ? null : self::ints($prim, "$name:indices");
            $entries = $indices === null ? $count : count($indices);
            $kind = $prim->metaOf($name, 'interpolation') ?? match ($entries) {
                $corners => 'faceVarying', $points => 'vertex', $faces => 'uniform', default => 'constant',
            };
            $needed = match ($kind) {
                'faceVarying' => $corners, 'vertex', 'varying' => $points, 'uniform' => $faces, default => 1,
            };
            if ($entries < $needed) {
                throw Unreadable::onLine($prim->lineOf($name), "$name of $prim->path is $kind, which needs $needed values, and there are $entries");
            }
            if ($indices !== null && $indices !== [] && (min($indices) < 0 || max($indices) >= $count)) {
                throw Unreadable::onLine($prim->lineOf("$name:indices"), "$name:indices of $prim->path leads past the $count values");
            }
            $pick = static fn (int $i): int => $indices === null ? $i : $indices[$i];

            return [$values, match ($kind) {
                'faceVarying' => static fn (int $point, int $corner, int $face): int => $pick($corner),
                'vertex', 'varying' => static fn (int $point, int $corner, int $face): int => $pick($point),
                'uniform' => static fn (int $point, int $corner, int $face): int => $pick($face),
                default => static fn (int $point, int $corner, int $face): int => $pick(0),
            }, $name];
        }

        return [[], null, null];
    }

    /**
     * @return array{list<int>, list<string>} material number of each face (empty where there is none), material paths
     */
    private function subsets(Prim $prim, ?string $binding, int $faces): array
    {
        $names = $binding === null ? [] : [$binding];
        $of = $binding === null ? [] : array_fill(0, $faces, 0);
        foreach ($prim->children as $child) {
            if ($child->type !== 'GeomSubset' || ! in_array($child->text('elementType') ?? 'face', ['face', ''], true)) {
                continue;
            }
            $own = $child->raw('material:binding');
            if ($own === null) {
                continue;
            }
            $path = trim($own, '<> ');
            $number = array_search($path, $names, true);
            if ($number === false) {
                $number = count($names);
                $names[] = $path;
            }
            $of = $of === [] ? array_fill(0, $faces, -1) : $of;
            foreach (self::ints($child, 'indices') as $face) {
                if ($face < 0 || $face >= $faces) {
                    throw Unreadable::onLine($child->lineOf('indices'), "the subset $child->path names face $face, and there are $faces");
                }
                $of[$face] = $number;
            }
        }

        return [array_values($of), $names];
    }

    /**
     * @param  list<float>  $positions
     * @param  list<int>  $triangles
     * @param  list<float>  $colors
     * @param  list<int>  $perCorner
     * @return array{list<float>, list<int>, list<float>}
     */
    private static function split(array $positions, array $triangles, array $colors, array $perCorner): array
    {
        $numbers = $out = $new = $vertexColors = [];
        foreach ($triangles as $k => $v) {
            $key = $v << 32 | $perCorner[$k];
            if (! isset($numbers[$key])) {
                $numbers[$key] = count($numbers);
                array_push($out, $positions[3 * $v], $positions[3 * $v + 1], $positions[3 * $v + 2]);
                for ($i = 0; $i < 3; $i++) {
                    // displayColor is linear in USD; a mesh holds sRGB.
                    $value = max(0.0, min(1.0, $colors[3 * $perCorner[$k] + $i]));
                    $vertexColors[] = $value <= 0.0031308 ? 12.92 * $value : 1.055 * $value ** (1 / 2.4) - 0.055;
                }
            }
            $new[] = $numbers[$key];
        }

        return [$out, $new, $vertexColors];
    }

    /**
     * @return list<float>
     */
    private static function floats(Prim $prim, string $name): array
    {
        $raw = $prim->raw($name);

        return $raw === null ? [] : Values::floats($raw, $prim->lineOf($name), $name === 'normals' || $name === 'primvars:normals');
    }

    /**
     * @return list<int>
     */
    private static function ints(Prim $prim, string $name): array
    {
        $raw = $prim->raw($name);

        return $raw === null ? [] : Values::ints($raw, $prim->lineOf($name));
    }
}
