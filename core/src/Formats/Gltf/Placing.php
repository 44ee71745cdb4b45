<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Matrix;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * A turn or a uniform scale of a whole glTF file. Where no node turns or scales, the vertices themselves are placed, so that every node
 * stays frozen; else the root nodes carry it.
 *
 * @internal
 */
final class Placing
{
    /** @var array<int, array{int, string}> start → [end, text] */
    private array $edits = [];

    private ?string $bin;

    /** @var array<string, string> name → bytes */
    private array $sides = [];

    /**
     * @param  array<string, array<int, array<string, array{int, int}>>>  $spans
     */
    public function __construct(private readonly Container $container, private readonly Json $root, private readonly Nodes $nodes, private readonly array $spans, private readonly Matrix $by, private readonly Source $source)
    {
        $this->bin = $container->bin;
        if (! $this->isFrozen() || ! $this->placeVertices()) {
            $this->edits = [];
            $this->bin = $container->bin;
            $this->sides = [];
            $this->placeRoots();
        }
    }

    /**
     * @return array<int, array{int, string}> start → [end, text]
     */
    public function edits(): array
    {
        return $this->edits;
    }

    public function container(): Container
    {
        return $this->container->withBin($this->bin);
    }

    /**
     * @return array<string, string> buffers in files of their own, name → bytes
     */
    public function sideFiles(): array
    {
        return $this->sides;
    }

    private function isFrozen(): bool
    {
        $none = Matrix::identity()->m;
        foreach ($this->nodes->world as $world) {
            foreach ([0, 1, 2, 4, 5, 6, 8, 9, 10] as $k) {
                if (abs($world->m[$k] - $none[$k]) > 1e-9) {
                    return false;
                }
            }
        }

        return true;
    }

    private function placeVertices(): bool
    {
        $accessors = $this->root->objects('accessors');
        $views = $this->root->objects('bufferViews');
        $buffers = $this->root->objects('buffers');
        $todo = [];
        foreach ($this->root->objects('meshes') as $mesh) {
            foreach ($mesh->objects('primitives') as $primitive) {
                $attributes = $primitive->object('attributes');
                if ($primitive->objects('targets') !== []) {
                    return false;
                }
                foreach (['POSITION' => true, 'NORMAL' => false, 'TANGENT' => false] as $name => $isPoint) {
                    $number = $attributes?->int($name);
                    if ($number !== null) {
                        $todo[$number] = $isPoint;
                    }
                }
            }
        }
        $bytes = [];
        foreach ($todo as $number => $isPoint) {
            $accessor = $accessors[$number] ?? null;
            $view = $accessor?->int('bufferView');
            if ($accessor === null || $view === null || $accessor->int('componentType') !== 5126 || $accessor->has('sparse')) {
                return false;
            }
            $buffer = $views[$view]->need('buffer');
            $uri = $buffers[$buffer]->string('uri');
            if ($uri !== null && str_starts_with($uri, 'data:')) {
                return false;
            }
            $bytes[$buffer] ??= $uri === null ? (string) $this->bin : $this->side(rawurldecode($uri));
            $width = $accessor->string('type') === 'VEC4' ? 16 : 12;
            $stride = $views[$view]->int('byteStride') ?? $width;
            $at = ($views[$view]->int('byteOffset') ?? 0) + ($accessor->int('byteOffset') ?? 0);
            $count = $accessor->need('count');
            $values = [];
            for ($i = 0; $i < $count; $i++) {
                foreach (Bytes::floats(substr($bytes[$buffer], $at + $i * $stride, 12)) as $value) {
                    $values[] = $value;
                }
            }
            $values = Bytes::toFloat32($isPoint ? $this->by->points($values) : $this->by->normals($values));
            $packed = Bytes::packFloats($values);
            if ($stride === 12) {
                $bytes[$buffer] = substr_replace($bytes[$buffer], $packed, $at, strlen($packed));
            } else {
                for ($i = 0; $i < $count; $i++) {
                    for ($k = 0; $k < 12; $k++) {
                        $bytes[$buffer][$at + $i * $stride + $k] = $packed[12 * $i + $k];
                    }
                }
            }
            foreach ($isPoint && $values !== [] ? ['min', 'max'] : [] as $key) {
                if ($accessor->has($key)) {
                    $bound = [];
                    for ($k = 0; $k < 3; $k++) {
                        $axis = [];
                        for ($i = $k, $n = count($values); $i < $n; $i += 3) {
                            $axis[] = $values[$i];
                        }
                        $bound[] = $axis === [] ? 0.0 : ($key === 'min' ? min($axis) : max($axis));
                    }
                    // All 17 digits: the validator compares bounds bit for bit.
                    $this->edit('accessors', $number, $key, (string) json_encode($bound));
                }
            }
        }
        foreach ($bytes as $buffer => $all) {
            $uri = $buffers[$buffer]->string('uri');
            if ($uri === null) {
                $this->bin = $all;
            } else {
                $this->sides[rawurldecode($uri)] = $all;
            }
        }
        foreach (array_keys($this->nodes->world) as $i) {
            $node = $this->nodes->all[$i];
            $matrix = $node->floats('matrix', 16);
            $old = $matrix === null ? $node->floats('translation', 3) : [$matrix[12], $matrix[13], $matrix[14]];
            if ($old === null || $old === [0.0, 0.0, 0.0]) {
                continue;
            }
            $new = $this->by->points($old);
            if ($matrix === null) {
                $this->edit('nodes', $i, 'translation', GltfRewriter::numbers($new));
            } else {
                [$matrix[12], $matrix[13], $matrix[14]] = [$new[0], $new[1], $new[2]];
                $this->edit('nodes', $i, 'matrix', GltfRewriter::numbers(array_values($matrix)));
            }
        }

        return true;
    }

    private function placeRoots(): void
    {
        foreach ($this->nodes->parent as $i => $parent) {
            if ($parent >= 0) {
                continue;
            }
            $matrix = $this->by->times($this->nodes->world[$i]);
            $node = $this->nodes->all[$i];
            $text = '"matrix":'.GltfRewriter::numbers($matrix->m);
            // One member holds all of it; the three that it takes the place of go.
            [$start, $end] = $this->spans['nodes'][$i][''];
            $kept = [];
            foreach ($node->keys() as $key) {
                if (! in_array($key, ['matrix', 'translation', 'rotation', 'scale'], true)) {
                    [$from, $to] = $this->spans['nodes'][$i][$key];
                    $kept[] = json_encode($key).':'.substr($this->container->json, $from, $to - $from);
                }
            }
            $this->edits[$start] = [$end, '{'.implode(',', [...$kept, $text]).'}'];
        }
    }

    private function edit(string $kind, int $number, string $key, string $text): void
    {
        [$start, $end] = $this->spans[$kind][$number][$key];
        $this->edits[$start] = [$end, $text];
    }

    private function side(string $name): string
    {
        $side = $this->source->side($name) ?? throw Unreadable::because("the side file \"$name\" is not there");
        $stream = $side->open();
        $bytes = (string) stream_get_contents($stream);
        fclose($stream);

        return $bytes;
    }
}
