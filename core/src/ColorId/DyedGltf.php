<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\ReadFile;
use Anvil\Formats\Gltf\Accessors;
use Anvil\Formats\Gltf\Container;
use Anvil\Formats\Gltf\GltfReader;
use Anvil\Formats\Gltf\GltfRewriter;
use Anvil\Formats\Gltf\Nodes;
use Anvil\Formats\Rewriter;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Color;
use Anvil\Json;
use Anvil\Unreadable;
use stdClass;

/**
 * Writes IDs into a glTF file: unlit materials, a primitive an ID, on the data that is there; or a color at each vertex, those where several
 * IDs meet copied byte by byte behind the others.
 *
 * @internal
 */
final class DyedGltf
{
    /** New data, behind what is there. */
    private string $bytes = '';

    private int $buffer = 0;

    private int $offset = 0;

    private stdClass $root;

    private Json $json;

    private Accessors $accessors;

    /**
     * @param  list<WornPart>  $worn
     */
    public function __construct(private readonly IdPlan $plan, private readonly array $worn, private readonly bool $asVertexColors)
    {
    }

    /** @return bool false where the file is built in a way that is not written: data that is given sparsely, or outside of a GLB */
    public function write(Source $source, ReadFile $file, string $name, Sink $sink, bool $onto): bool
    {
        $container = Container::read($source);
        $root = json_decode($container->json);
        if (! $root instanceof stdClass) {
            throw Unreadable::because('the JSON cannot be parsed');
        }
        $this->root = $root;
        $this->json = Json::parse($container->json);
        $this->accessors = new Accessors($this->json, $container->bin, $source);
        $buffers = self::list($root, 'buffers');
        if ($container->isBinary) {
            if ($buffers !== [] && isset($buffers[0]->uri)) {
                return false;
            }
            $this->offset = strlen((string) $container->bin) + (4 - strlen((string) $container->bin) % 4) % 4;
        } else {
            $this->buffer = count($buffers);
        }
        if (! $this->asVertexColors) {
            $this->materials();
        }
        if (! $this->nodes($file, $onto)) {
            return false;
        }
        $side = null;
        if ($this->bytes !== '') {
            if ($container->isBinary) {
                $buffers[0] ??= new stdClass;
                $container = $container->withBin(str_pad((string) $container->bin, $this->offset, "\0").$this->bytes);
                $buffers[0]->byteLength = strlen((string) $container->bin);
            } else {
                $side = pathinfo($name, PATHINFO_FILENAME).'_ids.bin';
                $buffers[] = (object) ['uri' => rawurlencode($side), 'byteLength' => strlen($this->bytes)];
            }
            $root->buffers = $buffers;
        }
        if (! $this->asVertexColors) {
            unset($root->textures, $root->samplers, $root->images);
        }
        GltfRewriter::put($container, json_encode($root, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR), $name, $sink);
        if ($side !== null) {
            $out = $sink->open($side);
            fwrite($out, $this->bytes);
            fclose($out);
        }
        foreach ([...$buffers, ...self::list($root, 'images')] as $one) {
            $uri = is_string($one->uri ?? null) ? $one->uri : null;
            if ($uri !== null && ! str_starts_with($uri, 'data:') && rawurldecode($uri) !== $side) {
                Rewriter::copy($source, rawurldecode($uri), $sink);
            }
        }

        return true;
    }

    private function materials(): void
    {
        $this->root->materials = array_map(static function (PlannedId $id, string $name): stdClass {
            return (object) [
                'name' => $name,
                'pbrMetallicRoughness' => (object) ['baseColorFactor' => [...$id->color->linear(), 1.0], 'metallicFactor' => 0.0, 'roughnessFactor' => 1.0],
                'extensions' => (object) ['KHR_materials_unlit' => new stdClass],
            ];
        }, $this->plan->ids, $this->plan->materialNames());
        $used = is_array($this->root->extensionsUsed ?? null) ? $this->root->extensionsUsed : [];
        $this->root->extensionsUsed = in_array('KHR_materials_unlit', $used, true) ? $used : [...$used, 'KHR_materials_unlit'];
    }

    private function nodes(ReadFile $file, bool $onto): bool
    {
        $nodes = Nodes::of($this->json);
        $meshes = $this->json->objects('meshes');
        $rawNodes = self::list($this->root, 'nodes');
        $rawMeshes = self::list($this->root, 'meshes');
        $parts = WornParts::inOrder($file->scene->parts ?? [], $this->worn);
        $next = 0;
        $copies = $rawMeshes;
        $taken = [];
        foreach (array_keys($nodes->world) as $i) {
            $number = $nodes->all[$i]->int('mesh');
            if ($number === null || ! isset($meshes[$number]) || self::triangles($meshes[$number], $this->accessors) === 0) {
                continue;
            }
            $worn = $parts[$next++] ?? null;
            if ($worn === null) {
                continue;
            }
            $primitives = [];
            $at = 0;
            foreach ($meshes[$number]->objects('primitives') as $p => $primitive) {
                $raw = is_array($rawMeshes[$number]->primitives ?? null) ? ($rawMeshes[$number]->primitives[$p] ?? null) : null;
                $count = self::trianglesOf($primitive, $this->accessors);
                if (! $raw instanceof stdClass || $count === 0) {
                    if ($raw instanceof stdClass) {
                        $primitives[] = $raw;
                    }

                    continue;
                }
                $new = $this->asVertexColors ? $this->painted($primitive, $raw, $worn, $at, $onto) : $this->divided($primitive, $raw, $worn, $at, $count);
                if ($new === null) {
                    return false;
                }
                array_push($primitives, ...$new);
                $at += $count;
            }
            // A mesh that several parts use is worn in several colors, so each part has one of its own, on the same data.
            $copy = clone $rawMeshes[$number];
            $copy->primitives = $primitives;
            if (! $onto) {
                $copy->name = $worn->name;
                $rawNodes[$i]->name = $worn->name;
            }
            if (isset($taken[$number])) {
                $rawNodes[$i]->mesh = count($copies);
                $copies[] = $copy;
            } else {
                $taken[$number] = true;
                $copies[$number] = $copy;
            }
        }
        $this->root->meshes = $copies;

        return true;
    }

    /**
     * One primitive an ID, in order of first use; the order of faces within each stays.
     *
     * @return list<stdClass>
     */
    private function divided(Json $primitive, stdClass $raw, WornPart $worn, int $at, int $count): array
    {
        $corners = $this->corners($primitive);
        $of = [];
        if (! is_int($worn->ids)) {
            for ($t = 0; $t < $count; $t++) {
                $id = $worn->ids[$at + $t];
                $of[$id][] = $corners[3 * $t];
                $of[$id][] = $corners[3 * $t + 1];
                $of[$id][] = $corners[3 * $t + 2];
            }
        }
        $out = [];
        foreach (count($of) < 2 ? [$worn->id($at) => null] : $of as $id => $own) {
            $one = clone $raw;
            $one->material = $id;
            // Colors at vertices would be taken before the materials.
            $one->attributes = clone self::object($raw, 'attributes');
            unset($one->attributes->COLOR_0);
            if ($own !== null) {
                $one->mode = 4;
                $one->indices = $this->add(Bytes::packUints($own), ['componentType' => 5125, 'count' => count($own), 'type' => 'SCALAR'], 34963);
            }
            $out[] = $one;
        }

        return $out;
    }

    /**
     * The same primitive with a color at each vertex.
     *
     * @return list<stdClass>|null
     */
    private function painted(Json $primitive, stdClass $raw, WornPart $worn, int $at, bool $onto): ?array
    {
        $corners = $this->corners($primitive);
        $attributes = $primitive->object('attributes');
        $vertices = $attributes === null ? 0 : $this->accessors->count($attributes->need('POSITION'), $attributes->at('POSITION'));
        $idOf = array_fill(0, max(1, $vertices), -1);
        $more = $moreFrom = [];
        foreach ($corners as $k => $v) {
            $id = $worn->id($at + intdiv($k, 3));
            if ($idOf[$v] === $id) {
                continue;
            }
            if ($idOf[$v] < 0) {
                $idOf[$v] = $id;

                continue;
            }
            $key = $v << 16 | $id;
            if (! isset($more[$key])) {
                $more[$key] = $vertices + count($moreFrom);
                $moreFrom[] = $v;
            }
            $corners[$k] = $more[$key];
        }
        $linear = array_map(static fn (Color $color): string => pack('g3', ...$color->linear()), $this->plan->colors());
        $colors = '';
        for ($v = 0; $v < $vertices; $v++) {
            $colors .= $linear[max(0, $idOf[$v])];
        }
        foreach (array_keys($more) as $key) {
            $colors .= $linear[$key & 0xFFFF];
        }
        $one = clone $raw;
        $one->attributes = clone self::object($raw, 'attributes');
        if ($moreFrom !== []) {
            $targets = array_map(static fn (stdClass $target): stdClass => clone $target, self::list($raw, 'targets'));
            foreach ([$one->attributes, ...$targets] as $list) {
                foreach (get_object_vars($list) as $name => $number) {
                    $extended = $name === 'COLOR_0' || ! is_int($number) ? $number : $this->extended($number, $moreFrom);
                    if ($extended === null) {
                        return null;
                    }
                    $list->{$name} = $extended;
                }
            }
            if ($targets !== []) {
                $one->targets = $targets;
            }
            $one->mode = 4;
            $one->indices = $this->add(Bytes::packUints($corners), ['componentType' => 5125, 'count' => count($corners), 'type' => 'SCALAR'], 34963);
        }
        $one->attributes->COLOR_0 = $this->add($colors, ['componentType' => 5126, 'count' => $vertices + count($moreFrom), 'type' => 'VEC3'], 34962);
        if (! $onto) {
            // A material would tint the colors.
            unset($one->material);
        }

        return [$one];
    }

    /**
     * The elements of an accessor, and some of them once more behind them.
     *
     * @param  list<int>  $again
     */
    private function extended(int $number, array $again): ?int
    {
        $raw = $this->accessors->raw($number, "accessors[$number]");
        if ($raw === null) {
            return null;
        }
        [$bytes, $element] = $raw;
        foreach ($again as $v) {
            $bytes .= substr($bytes, $v * $element, $element);
        }
        $old = self::list($this->root, 'accessors')[$number];
        $stride = $element + (4 - $element % 4) % 4;
        if ($stride !== $element) {
            $bytes = implode(str_repeat("\0", $stride - $element), str_split($bytes, max(1, $element))).str_repeat("\0", $stride - $element);
        }
        $fields = [];
        foreach (get_object_vars($old) as $key => $value) {
            if (! in_array($key, ['bufferView', 'byteOffset'], true)) {
                $fields[(string) $key] = $value;
            }
        }

        return $this->add($bytes, [...$fields, 'count' => $this->json->objects('accessors')[$number]->need('count') + count($again)], 34962, $stride);
    }

    /**
     * @return list<int>
     */
    private function corners(Json $primitive): array
    {
        $indices = $primitive->int('indices');
        $attributes = $primitive->object('attributes');
        $count = $attributes === null ? 0 : $this->accessors->count($attributes->need('POSITION'), $attributes->at('POSITION'));

        return GltfReader::triangles($indices === null ? ($count > 0 ? range(0, $count - 1) : []) : $this->accessors->ints($indices, "$primitive->path.indices"), $primitive->int('mode') ?? 4);
    }

    /**
     * @param  array<string, mixed>  $accessor
     * @return int the number of the new accessor
     */
    private function add(string $bytes, array $accessor, int $target, ?int $stride = null): int
    {
        $this->bytes .= str_repeat("\0", (4 - strlen($this->bytes) % 4) % 4);
        $views = self::list($this->root, 'bufferViews');
        $views[] = (object) array_filter(['buffer' => $this->buffer, 'byteOffset' => $this->offset + strlen($this->bytes), 'byteLength' => strlen($bytes), 'byteStride' => $stride, 'target' => $target], static fn (?int $value): bool => $value !== null);
        $this->bytes .= $bytes;
        $accessors = self::list($this->root, 'accessors');
        $accessors[] = (object) ['bufferView' => count($views) - 1, ...$accessor];
        $this->root->bufferViews = $views;
        $this->root->accessors = $accessors;

        return count($accessors) - 1;
    }

    private static function triangles(Json $mesh, Accessors $accessors): int
    {
        return array_sum(array_map(static fn (Json $primitive): int => self::trianglesOf($primitive, $accessors), $mesh->objects('primitives')));
    }

    private static function trianglesOf(Json $primitive, Accessors $accessors): int
    {
        $mode = $primitive->int('mode') ?? 4;
        $attributes = $primitive->object('attributes');
        if ($mode < 4 || $attributes === null || ! $attributes->has('POSITION')) {
            return 0;
        }
        $indices = $primitive->int('indices');
        $corners = $accessors->count($indices ?? $attributes->need('POSITION'), "$primitive->path.indices");

        return $mode === 4 ? intdiv($corners, 3) : max(0, $corners - 2);
    }

    /**
     * @return list<stdClass>
     */
    private static function list(stdClass $root, string $key): array
    {
        $value = $root->{$key} ?? null;

        return is_array($value) ? array_values(array_filter($value, static fn (mixed $one): bool => $one instanceof stdClass)) : [];
    }

    private static function object(stdClass $from, string $key): stdClass
    {
        $value = $from->{$key} ?? null;

        return $value instanceof stdClass ? $value : new stdClass;
    }
}
