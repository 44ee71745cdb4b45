<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Color;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Normals;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * glTF 2.0, as .glb and .gltf, to parts in world space: one a node with a mesh, its primitives together.
 *
 * The winding of mirrored nodes is put right. Points and lines are passed over. Vertex colours and base colours,
 * linear in this format, become sRGB.
 */
final class GltfReader implements Reader
{
    /** Tangents are of use on a low poly: of more vertices than this they are not read. */
    private const MOST_TANGENTS = 500_000;

    /** Extensions that change nothing about the shape, so that requiring them is no obstacle; quantised positions are read. */
    private const HARMLESS = [
        'KHR_mesh_quantization', 'KHR_texture_transform', 'KHR_texture_basisu', 'KHR_lights_punctual', 'KHR_xmp_json_ld',
        'EXT_texture_webp', 'EXT_texture_avif', 'KHR_animation_pointer',
    ];

    public function read(Source $source): Scene
    {
        $container = Container::read($source);
        $root = Json::parse($container->json);
        self::checkVersion($root);
        $accessors = new Accessors($root, $container->bin, $source);
        $nodes = Nodes::of($root);
        $meshes = $root->objects('meshes');
        $materials = $root->objects('materials');
        $names = $colors = $cutOut = $pictures = [];
        $textures = $root->objects('textures');
        $images = $root->objects('images');
        foreach ($materials as $i => $material) {
            $names[$i] = mb_scrub($material->string('name') ?? "material_$i");
            if (in_array($material->string('alphaMode'), ['MASK', 'BLEND'], true)) {
                $cutOut[] = $names[$i];
            }
            $factor = $material->object('pbrMetallicRoughness')?->floats('baseColorFactor', 4);
            $texture = $material->object('pbrMetallicRoughness')?->object('baseColorTexture')?->int('index');
            if ($texture !== null) {
                $image = $images[($textures[$texture] ?? null)?->int('source') ?? -1] ?? null;
                $uri = $image?->string('uri');
                $pictures[$names[$i]] = mb_scrub($uri !== null && ! str_starts_with($uri, 'data:') ? rawurldecode($uri) : ($image?->string('name') ?? 'a picture in the file'));
            }
            if ($factor !== null) {
                $colors[$names[$i]] = Color::ofLinear($factor[0], $factor[1], $factor[2])->hex();
            }
        }
        $parts = [];
        $read = $facts = [];
        $passedOver = [];
        foreach ($nodes->world as $i => $world) {
            $number = $nodes->all[$i]->int('mesh');
            if ($number === null) {
                continue;
            }
            $mesh = $meshes[$number] ?? throw Unreadable::because("nodes[$i].mesh names mesh $number, and there are ".count($meshes));
            $local = $read[$number] ??= self::mesh($mesh, $accessors, $names, $passedOver);
            if ($local->triangles === []) {
                continue;
            }
            $own = $nodes->all[$i]->string('name');
            $meshName = $mesh->string('name');
            $placed = $local->placedBy($world);
            foreach ($placed->bounds()?->toArray() ?? [] as $corner) {
                foreach ($corner as $value) {
                    if (! is_finite($value)) {
                        throw Unreadable::because("nodes[$i] is placed too far out for a 32-bit number");
                    }
                }
            }
            [$bad, $long, $length, $loose, $uvSets] = $facts[$number] ??= self::facts($local, $mesh);
            $parts[] = new Part(
                mb_scrub($own ?? $meshName ?? "node_$i"), $placed, array_intersect_key($colors, array_flip($placed->materials)), null,
                new PartFacts($world, $own !== null && $meshName !== null && $meshName !== $own ? mb_scrub($meshName) : null, $loose, $bad, $long, $length, $uvSets, cutOut: array_intersect($placed->materials, $cutOut) !== [], pictures: array_intersect_key($pictures, array_flip($placed->materials))),
            );
        }

        return new Scene($container->isBinary ? 'glb' : 'gltf', $parts, 'm', 'Y', array_keys($passedOver), Extras::of($root, $nodes));
    }

    /**
     * @return array{int, int, float, int, int} normals that are none, normals off unit length and the worst length, loose vertices, UV sets
     */
    private static function facts(Mesh $local, Json $mesh): array
    {
        $used = str_repeat("\0", max(1, $local->vertexCount()));
        foreach ($local->triangles as $v) {
            $used[$v] = "\1";
        }
        $loose = $local->vertexCount() - substr_count($used, "\1");
        $sets = 0;
        foreach ($mesh->objects('primitives') as $primitive) {
            for ($k = 0; $primitive->object('attributes')?->has("TEXCOORD_$k") ?? false; $k++) {
                $sets = max($sets, $k + 1);
            }
        }
        $normals = $local->triNormals === [] ? [] : $local->normals;
        // Normals that no corner uses say nothing.
        if ($normals !== [] && ($loose > 0 || in_array(-1, $local->triNormals, true))) {
            $seen = str_repeat("\0", intdiv(count($normals), 3));
            foreach ($local->triNormals as $n) {
                if ($n >= 0) {
                    $seen[$n] = "\1";
                }
            }
            $normals = [];
            for ($n = 0, $count = strlen($seen); $n < $count; $n++) {
                if ($seen[$n] === "\1") {
                    array_push($normals, $local->normals[3 * $n], $local->normals[3 * $n + 1], $local->normals[3 * $n + 2]);
                }
            }
        }

        return [Normals::bad($normals), ...Normals::long($normals), $loose, $sets];
    }

    private static function checkVersion(Json $root): void
    {
        $asset = $root->object('asset') ?? throw Unreadable::because('asset is missing, so this is no glTF 2.0');
        $version = $asset->string('version') ?? '';
        if (preg_match('/^2\./', $version) !== 1) {
            throw Unreadable::because("glTF version \"$version\" is not read; export glTF 2.0");
        }
        foreach ($root->strings('extensionsRequired') as $extension) {
            if (! in_array($extension, self::HARMLESS, true) && ! str_starts_with($extension, 'KHR_materials_')) {
                throw Unreadable::because('it requires the extension '.mb_strimwidth(mb_scrub($extension), 0, 60, '…').', which is not read; export without compression and without required extensions');
            }
        }
    }

    /**
     * @param  array<int, string>  $materialNames
     * @param  array<string, true>  $passedOver
     */
    private static function mesh(Json $mesh, Accessors $accessors, array $materialNames, array &$passedOver): Mesh
    {
        $positions = $triangles = $uvs = $triUvs = $normals = $triNormals = $colors = $tangents = [];
        $materials = $runs = [];
        $anyUv = $anyNormal = $anyColor = false;
        $blocks = [];
        foreach ($mesh->objects('primitives') as $primitive) {
            $attributes = $primitive->object('attributes') ?? throw Unreadable::because("$primitive->path.attributes is missing");
            $mode = $primitive->int('mode') ?? 4;
            if ($mode > 6) {
                throw Unreadable::because("$primitive->path.mode $mode is unknown");
            }
            if ($mode < 4) {
                $passedOver['points and lines are passed over'] = true;

                continue;
            }
            if (! $attributes->has('POSITION')) {
                continue;
            }
            $key = implode(',', array_map(static fn (string $name): string => (string) ($attributes->int($name) ?? ''), ['POSITION', 'NORMAL', 'TEXCOORD_0', 'COLOR_0', 'TANGENT']));
            if (! isset($blocks[$key])) {
                $base = intdiv(count($positions), 3);
                [$block] = $accessors->floats($attributes->need('POSITION'), $attributes->at('POSITION'), [3]);
                $count = intdiv(count($block), 3);
                $blocks[$key] = [$base, $count];
                $positions = $positions === [] ? $block : [...$positions, ...$block];
                $hasNormal = $attributes->has('NORMAL');
                $hasUv = $attributes->has('TEXCOORD_0');
                if ($hasNormal && $count <= self::MOST_TANGENTS && $attributes->has('TANGENT')) {
                    $tangents = [...$tangents, ...array_fill(0, 4 * $base - count($tangents), 0.0), ...self::tangents($accessors, $attributes, $count)];
                }
                foreach ([['NORMAL', [3]], ['TEXCOORD_0', [2]], ['COLOR_0', [3, 4]]] as [$name, $widths]) {
                    $number = $attributes->int($name);
                    [$values, $width] = $number === null ? [[], $widths[0]] : $accessors->floats($number, $attributes->at($name), $widths, $name !== 'NORMAL');
                    if ($number !== null && intdiv(count($values), $width) !== $count) {
                        throw Unreadable::because($attributes->at($name).' and POSITION differ in count');
                    }
                    if ($name === 'NORMAL') {
                        $anyNormal = $anyNormal || $hasNormal;
                        $values = $hasNormal ? Normals::finite($values) : array_fill(0, 3 * $count, 0.0);
                        $normals = $normals === [] ? $values : [...$normals, ...$values];
                    } elseif ($name === 'TEXCOORD_0') {
                        $anyUv = $anyUv || $hasUv;
                        $values = $hasUv ? self::upward($values) : array_fill(0, 2 * $count, 0.0);
                        $uvs = $uvs === [] ? $values : [...$uvs, ...$values];
                    } else {
                        $anyColor = $anyColor || $number !== null;
                        if ($values !== [] && max($values) > 1.0) {
                            $passedOver['vertex colors over 1 are taken as 1'] = true;
                        }
                        for ($i = 3, $end = $width === 4 ? count($values) : 0; $i < $end; $i += 4) {
                            if ($values[$i] < 1.0) {
                                $passedOver['the alpha of vertex colors is passed over'] = true;
                                break;
                            }
                        }
                        $values = self::srgb($values, $width, $count);
                        $colors = $colors === [] ? $values : [...$colors, ...$values];
                    }
                }
            }
            [$base, $count] = $blocks[$key];
            $indices = $primitive->int('indices');
            $corners = $indices === null ? ($count > 0 ? range(0, $count - 1) : []) : $accessors->ints($indices, "$primitive->path.indices");
            if ($indices !== null && $corners !== [] && max($corners) >= $count) {
                $at = (int) array_search(max($corners), $corners, true);
                throw Unreadable::because("$primitive->path.indices names vertex {$corners[$at]} at place $at, and there are $count");
            }
            $corners = self::triangles($corners, $mode);
            $name = null;
            $material = $primitive->int('material');
            if ($material !== null) {
                $name = $materialNames[$material] ?? throw Unreadable::because("$primitive->path.material names material $material, and there are ".count($materialNames));
                if (! in_array($name, $materials, true)) {
                    $materials[] = $name;
                }
            }
            $runs[] = [intdiv(count($triangles), 3), $name === null ? -1 : (int) array_search($name, $materials, true)];
            if ($base !== 0) {
                foreach ($corners as $k => $corner) {
                    $corners[$k] = $corner + $base;
                }
            }
            $triangles = $triangles === [] ? $corners : [...$triangles, ...$corners];
            $hasUv = $attributes->has('TEXCOORD_0');
            $triUvs = $triUvs === [] && $hasUv ? $corners : [...$triUvs, ...($hasUv ? $corners : array_fill(0, count($corners), -1))];
            $hasNormal = $attributes->has('NORMAL');
            $triNormals = $triNormals === [] && $hasNormal ? $corners : [...$triNormals, ...($hasNormal ? $corners : array_fill(0, count($corners), -1))];
        }

        return new Mesh(
            Bytes::toFloat32($positions), $triangles,
            $anyUv ? $uvs : [], $anyUv ? $triUvs : [],
            $anyNormal ? $normals : [], $anyNormal ? $triNormals : [],
            $anyColor ? $colors : [], [], $materials, $runs, [], $tangents === [] ? [] : [...$tangents, ...array_fill(0, intdiv(4 * count($positions), 3) - count($tangents), 0.0)],
        );
    }

    /**
     * @return list<float> xyzw; zeros where they are not all finite
     */
    private static function tangents(Accessors $accessors, Json $attributes, int $count): array
    {
        [$values] = $accessors->floats($attributes->need('TANGENT'), $attributes->at('TANGENT'), [4], false);
        if (count($values) !== 4 * $count) {
            throw Unreadable::because($attributes->at('TANGENT').' and POSITION differ in count');
        }

        // A sum tells at once whether all are finite.
        return is_finite(array_sum($values)) ? $values : array_fill(0, 4 * $count, 0.0);
    }

    /**
     * The corners of a primitive as triangles one by one: lists, strips or fans.
     *
     * @param  list<int>  $corners
     * @param  int  $mode  4, 5 or 6
     * @return list<int>
     */
    public static function triangles(array $corners, int $mode): array
    {
        $count = count($corners);
        if ($mode === 4) {
            if ($count % 3 !== 0) {
                array_splice($corners, $count - $count % 3);
            }

            return $corners;
        }
        $out = [];
        for ($i = 0; $i + 2 < $count; $i++) {
            if ($mode === 6) {
                array_push($out, $corners[0], $corners[$i + 1], $corners[$i + 2]);
            } elseif ($i % 2 === 0) {
                array_push($out, $corners[$i], $corners[$i + 1], $corners[$i + 2]);
            } else {
                array_push($out, $corners[$i + 1], $corners[$i], $corners[$i + 2]);
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $linear  rgb or rgba
     * @return list<float> rgb, −1 where there is none
     */
    private static function srgb(array $linear, int $width, int $count): array
    {
        if ($linear === []) {
            return array_fill(0, 3 * $count, -1.0);
        }
        $out = [];
        for ($i = 0, $n = $width * $count; $i < $n; $i += $width) {
            for ($k = 0; $k < 3; $k++) {
                $value = max(0.0, min(1.0, $linear[$i + $k]));
                $out[] = $value <= 0.0031308 ? 12.92 * $value : 1.055 * $value ** (1 / 2.4) - 0.055;
            }
        }

        return $out;
    }

    /**
     * glTF's V points down, that of every other format up: in the core it points up.
     *
     * @param  list<float>  $uvs
     * @return list<float>
     */
    private static function upward(array $uvs): array
    {
        $out = [];
        for ($i = 0, $n = count($uvs); $i + 1 < $n; $i += 2) {
            $out[] = $uvs[$i];
            $out[] = 1.0 - $uvs[$i + 1];
        }

        return $out;
    }
}
