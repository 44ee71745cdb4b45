<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Asset\Frames;
use Anvil\Asset\ReadFile;
use Anvil\Formats\Gltf\Container;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Gltf\GltfRewriter;
use Anvil\Formats\Rewriter;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Part;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use stdClass;

/**
 * Writes the ID copy of a high file: the same meshes, each part named with the ID suffix and wearing its flat colour as a material.
 */
final class IdFileWriter
{
    /**
     * @param  int  $number  of the file in the inspection
     * @return string the written file's name, with the ID suffix
     */
    public static function write(Asset $asset, int $number, Source $source, IdPlan $plan, Sink $sink): string
    {
        $names = [];
        foreach ($asset->judged(Role::High) as $part) {
            if ($part->file === $number) {
                $names[$part->part->name] = [IdPlan::idName($part, $asset), $part->base];
            }
        }
        $name = self::fileName($asset->files[$number], $asset);
        match (strtolower(pathinfo($source->name(), PATHINFO_EXTENSION))) {
            'obj' => self::obj($source, $names, $plan, $name, $sink),
            'glb', 'gltf' => self::gltf($source, $names, $plan, $name, $sink),
            default => self::fresh($asset, $number, $plan, $name, $sink),
        };

        return $name;
    }

    public static function fileName(ReadFile $file, Asset $asset): string
    {
        $stem = pathinfo($file->path, PATHINFO_FILENAME);
        $high = $asset->standard->suffixFor(Role::High);
        if (str_ends_with(strtolower($stem), strtolower($high))) {
            $stem = substr($stem, 0, -strlen($high));
        }

        $ending = strtolower(pathinfo($file->path, PATHINFO_EXTENSION));

        return $stem.$asset->standard->suffixFor(Role::Id).'.'.(in_array($ending, ['obj', 'gltf'], true) ? $ending : 'glb');
    }

    /** Formats that cannot carry a material, or are not written, give a binary glTF that lies where the high poly lies. */
    private static function fresh(Asset $asset, int $number, IdPlan $plan, string $name, Sink $sink): void
    {
        $toGlb = Frames::toGlb($asset->files, $asset->standard);
        $colors = [];
        foreach ($plan->colors as $key => $color) {
            $colors[self::materialName((string) $key)] = $color->hex();
        }
        $parts = [];
        foreach ($asset->judged(Role::High) as $part) {
            if ($part->file !== $number) {
                continue;
            }
            $mesh = $part->part->mesh;
            if ($plan->by === 'material') {
                $worn = array_map(self::materialName(...), $mesh->materials);
                $runs = $mesh->materialRuns;
                if ($worn === []) {
                    [$worn, $runs] = [[self::materialName('no material')], [[0, 0]]];
                }
            } else {
                [$worn, $runs] = [[self::materialName($part->base)], [[0, 0]]];
            }
            $parts[] = (new Part(IdPlan::idName($part, $asset), $mesh->wearing($worn, $runs), $colors))->placedBy($toGlb);
        }
        GlbWriter::write($parts, $name, $sink);
    }

    /**
     * @param  array<string, array{string, string}>  $names  part → [ID name, base]
     */
    private static function obj(Source $source, array $names, IdPlan $plan, string $name, Sink $sink): void
    {
        $library = pathinfo($name, PATHINFO_FILENAME).'.mtl';
        $out = $sink->open($name);
        fwrite($out, "mtllib $library\n");
        $in = $source->open();
        $byObject = false;
        $wears = null;
        $part = pathinfo($source->name(), PATHINFO_FILENAME);
        $own = $names[$part] ?? null;
        $material = 'no material';
        while (($line = fgets($in)) !== false) {
            if (preg_match('/^\s*(mtllib|usemtl)\s+(.*?)\s*$/', $line, $found) === 1) {
                if ($found[1] === 'usemtl') {
                    $material = $found[2];
                }

                continue;
            }
            if (preg_match('/^(\s*([og])\s+)(.*?)(\s*)$/s', $line, $found) === 1) {
                $byObject = $byObject || $found[2] === 'o';
                if (($found[2] === 'o') === $byObject) {
                    $own = $names[mb_scrub($found[3])] ?? null;
                    if ($own !== null) {
                        $line = $found[1].$own[0].$found[4];
                    }
                }
            } elseif (preg_match('/^\s*f\s/', $line) === 1) {
                $key = $plan->by === 'material' ? $material : ($own[1] ?? null);
                if ($key !== null && $key !== $wears && isset($plan->colors[$key])) {
                    fwrite($out, 'usemtl '.self::materialName($key)."\n");
                    $wears = $key;
                }
            } elseif (preg_match('/^(\s*v(?:\s+\S+){3})(?:\s+\S+){3}(\s*)$/s', $line, $found) === 1) {
                // Vertex colours would be taken before the materials.
                $line = $found[1].$found[2];
            }
            fwrite($out, $line);
        }
        fclose($in);
        fclose($out);
        $out = $sink->open($library);
        foreach ($plan->colors as $key => $color) {
            fwrite($out, sprintf("newmtl %s\nKd %.9F %.9F %.9F\n\n", self::materialName((string) $key), $color->red / 255, $color->green / 255, $color->blue / 255));
        }
        fclose($out);
    }

    /**
     * @param  array<string, array{string, string}>  $names
     */
    private static function gltf(Source $source, array $names, IdPlan $plan, string $name, Sink $sink): void
    {
        $container = Container::read($source);
        $root = json_decode($container->json);
        if (! $root instanceof stdClass) {
            throw Unreadable::because('the JSON cannot be parsed');
        }
        $nodes = is_array($root->nodes ?? null) ? $root->nodes : [];
        $meshes = is_array($root->meshes ?? null) ? $root->meshes : [];
        $oldMaterials = is_array($root->materials ?? null) ? $root->materials : [];
        $materials = [];
        $number = [];
        foreach ($plan->colors as $key => $color) {
            [$r, $g, $b] = $color->linear();
            $number[$key] = count($materials);
            $materials[] = ['name' => self::materialName((string) $key), 'pbrMetallicRoughness' => ['baseColorFactor' => [$r, $g, $b, 1.0], 'metallicFactor' => 0.0, 'roughnessFactor' => 1.0]];
        }
        $copies = [];
        foreach ($nodes as $i => $node) {
            if (! $node instanceof stdClass || ! is_int($node->mesh ?? null)) {
                continue;
            }
            $mesh = $meshes[$node->mesh] ?? null;
            if (! $mesh instanceof stdClass) {
                continue;
            }
            $old = is_string($node->name ?? null) ? $node->name : (is_string($mesh->name ?? null) ? $mesh->name : "node_$i");
            [$new, $base] = $names[mb_scrub($old)] ?? [$old, null];
            // A mesh that several parts use is worn in several colours, so each part gets a copy that shares the data.
            $copy = clone $mesh;
            $copy->name = $new;
            $primitives = [];
            foreach (is_array($mesh->primitives ?? null) ? $mesh->primitives : [] as $primitive) {
                if (! $primitive instanceof stdClass) {
                    continue;
                }
                $primitive = clone $primitive;
                $worn = is_int($primitive->material ?? null) ? ($oldMaterials[$primitive->material] ?? null) : null;
                $material = $worn instanceof stdClass ? (is_string($worn->name ?? null) ? $worn->name : 'material_'.$primitive->material) : 'no material';
                $key = $plan->by === 'material' ? $material : $base;
                unset($primitive->material);
                if ($key !== null && isset($number[$key])) {
                    $primitive->material = $number[$key];
                }
                if (($primitive->attributes ?? null) instanceof stdClass && isset($primitive->attributes->COLOR_0)) {
                    $primitive->attributes = clone $primitive->attributes;
                    unset($primitive->attributes->COLOR_0);
                }
                $primitives[] = $primitive;
            }
            $copy->primitives = $primitives;
            $node->name = $new;
            $node->mesh = count($copies);
            $copies[] = $copy;
        }
        $root->meshes = $copies;
        $root->materials = $materials;
        unset($root->textures, $root->samplers);
        unset($root->images);
        $json = json_encode($root, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR);
        GltfRewriter::put($container, $json, $name, $sink);
        foreach (is_array($root->buffers ?? null) ? $root->buffers : [] as $buffer) {
            $uri = $buffer instanceof stdClass && is_string($buffer->uri ?? null) ? $buffer->uri : null;
            if ($uri !== null && ! str_starts_with($uri, 'data:')) {
                Rewriter::copy($source, rawurldecode($uri), $sink);
            }
        }

    }

    private static function materialName(string $key): string
    {
        return 'id_'.(string) preg_replace('/\s+/', '_', $key);
    }
}
