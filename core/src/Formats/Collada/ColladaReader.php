<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Formats\Units;
use Anvil\Geometry\Color;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * COLLADA 1.4 and 1.5 (`.dae`): one part a node that carries a geometry, in the file's own unit and axes.
 *
 * Skins are read in their rest shape. Holes of polygons, splines and convex meshes are passed over.
 */
final class ColladaReader implements Reader
{
    private const DEEPEST = 128;

    /** @var array<string, XmlNode> */
    private array $byId = [];

    /** @var array<string, string> material id → name */
    private array $materialNames = [];

    /** @var array<string, string> material name → `#RRGGBB` */
    private array $colors = [];

    /** @var array<string, Geometry> */
    private array $geometries = [];

    /** @var array<string, true> */
    private array $remarks = [];

    /** @var array<string, int> */
    private array $extras = [];

    /** @var list<Part> */
    private array $parts = [];

    /** @var array<string, true> */
    private array $visiting = [];

    /** @var list<PlacedNode> of each part, for writing the file again */
    private array $placed = [];

    public function read(Source $source): Scene
    {
        return (new self)->run($source)[0];
    }

    /**
     * The scene, and the node of each of its parts.
     *
     * @return array{Scene, list<PlacedNode>}
     */
    public static function readWithNodes(Source $source): array
    {
        return (new self)->run($source);
    }

    /**
     * @return array{Scene, list<PlacedNode>}
     */
    private function run(Source $source): array
    {
        $stream = $source->open();
        try {
            $root = XmlTree::read($stream);
        } finally {
            fclose($stream);
        }
        if ($root->name !== 'COLLADA') {
            throw Unreadable::onLine($root->line, "the file is XML, but begins with <$root->name> and not with <COLLADA>");
        }
        $asset = $root->child('asset');
        $unit = $asset?->child('unit');
        // Some exporters write the decimal sign of their user's language.
        $meter = (float) strtr($unit?->attribute('meter') ?? '1', ',', '.');
        if ($meter <= 0.0 || ! is_finite($meter)) {
            throw Unreadable::onLine($unit->line ?? 1, 'the unit has no length in metres');
        }
        $up = match (trim($asset?->child('up_axis')->text ?? 'Y_UP')) {
            'X_UP' => 'X', 'Z_UP' => 'Z', default => 'Y',
        };
        $this->index($root);
        $this->materials($root);
        $start = $root->child('scene')?->child('instance_visual_scene');
        $scene = $start !== null ? $this->find($start, 'url', 'visual_scene') : ($root->below('visual_scene')[0] ?? null);
        $animated = 0;
        foreach ($root->all('library_animations') as $library) {
            $animated += count($library->all('animation'));
        }
        if ($animated > 0) {
            $this->extras['animation'] = $animated;
        }
        foreach ($scene?->all('node') ?? [] as $node) {
            $this->node($node, Matrix::identity(), null, 0);
        }
        if ($scene === null && $root->below('geometry') !== []) {
            $this->remarks['geometry stands in no scene and is passed over'] = true;
        }
        $extras = [];
        foreach (['camera', 'light', 'skin', 'animation', 'empty node'] as $what) {
            $count = $this->extras[$what] ?? 0;
            if ($count > 0) {
                $extras[] = $count === 1 ? "1 $what" : "$count {$what}s";
            }
        }

        return [new Scene('dae', $this->parts, Units::nameOf($meter), $up, array_keys($this->remarks), $extras), $this->placed];
    }

    private function index(XmlNode $root): void
    {
        $stack = [$root];
        while ($stack !== []) {
            $node = array_pop($stack);
            $id = $node->attribute('id');
            if ($id !== null) {
                $this->byId[$id] ??= $node;
            }
            array_push($stack, ...$node->children);
        }
    }

    private function materials(XmlNode $root): void
    {
        foreach ($root->below('material') as $material) {
            $id = $material->attribute('id');
            if ($id === null) {
                continue;
            }
            $name = mb_scrub($material->attribute('name') ?? $id);
            $this->materialNames[$id] = $name;
            $url = $material->child('instance_effect')?->attribute('url') ?? '';
            $effect = $this->byId[ltrim($url, '#')] ?? null;
            foreach (['diffuse', 'emission'] as $slot) {
                foreach ($effect?->below($slot) ?? [] as $found) {
                    $color = $found->child('color');
                    if ($color !== null && ! isset($this->colors[$name])) {
                        $rgba = $color->floats();
                        if (count($rgba) >= 3 && ($slot === 'diffuse' || max($rgba[0], $rgba[1], $rgba[2]) > 0.0)) {
                            $this->colors[$name] = Color::ofSrgb($rgba[0], $rgba[1], $rgba[2])->hex();
                        }
                    }
                }
            }
        }
    }

    private function node(XmlNode $node, Matrix $above, ?PlacedNode $parent, int $depth): void
    {
        if ($depth > self::DEEPEST) {
            throw Unreadable::onLine($node->line, 'nodes are nested over '.self::DEEPEST.' deep, or form a loop');
        }
        $world = $above->times(Transforms::of($node));
        $here = new PlacedNode($node->number, $world, $parent, $node->attribute('name') ?? $node->attribute('id'));
        $holds = false;
        $instances = [];
        foreach ($node->children as $child) {
            switch ($child->name) {
                case 'node':
                    $holds = true;
                    $this->node($child, $world, $here, $depth + 1);
                    break;
                case 'instance_node':
                    $holds = true;
                    $target = $this->find($child, 'url', 'node');
                    $id = (string) $target->attribute('id');
                    if (isset($this->visiting[$id])) {
                        throw Unreadable::onLine($child->line, 'the nodes form a loop');
                    }
                    $this->visiting[$id] = true;
                    $this->node($target, $world, $here, $depth + 1);
                    unset($this->visiting[$id]);
                    break;
                case 'instance_camera':
                    $holds = true;
                    $this->extras['camera'] = ($this->extras['camera'] ?? 0) + 1;
                    break;
                case 'instance_light':
                    $holds = true;
                    $this->extras['light'] = ($this->extras['light'] ?? 0) + 1;
                    break;
                case 'instance_controller':
                    $holds = true;
                    $this->extras['skin'] = ($this->extras['skin'] ?? 0) + 1;
                    $instances[] = [$child, $this->skinned($child)];
                    break;
                case 'instance_geometry':
                    $holds = true;
                    $instances[] = [$child, $this->find($child, 'url', 'geometry')];
                    break;
            }
        }
        foreach ($instances as [$instance, $geometry]) {
            $this->part($here, $instance, $geometry, count($instances) > 1);
        }
        if (! $holds && $node->attribute('type') !== 'JOINT') {
            $this->extras['empty node'] = ($this->extras['empty node'] ?? 0) + 1;
        }
    }

    private function part(PlacedNode $node, XmlNode $instance, XmlNode $geometry, bool $byGeometry): void
    {
        $id = (string) $geometry->attribute('id');
        $shape = $this->geometries[$id] ??= Geometry::of($geometry, $this->remarks);
        if ($shape->triangles === []) {
            return;
        }
        $bound = [];
        foreach ($instance->below('instance_material') as $material) {
            $bound[$material->attribute('symbol') ?? ''] = ltrim($material->attribute('target') ?? '', '#');
        }
        $mesh = $shape->mesh(fn (string $symbol): string => $this->materialNames[$bound[$symbol] ?? $symbol] ?? mb_scrub($symbol))->placedBy($node->world);
        foreach ($mesh->bounds()?->toArray() ?? [] as $corner) {
            foreach ($corner as $value) {
                if (! is_finite($value)) {
                    throw Unreadable::onLine($instance->line, 'a part is placed too far out for a 32-bit number');
                }
            }
        }
        $geometryName = $geometry->attribute('name') ?? $geometry->attribute('id');
        $name = $byGeometry ? $geometryName : ($node->name ?? $geometryName);
        $facts = new PartFacts(
            $node->world, $geometryName !== null && $geometryName !== $name ? mb_scrub($geometryName) : null,
            $shape->looseVertices, $shape->badNormals, uvSets: $shape->uvSets,
        );
        $this->parts[] = new Part(mb_scrub($name ?? 'unnamed'), $mesh, array_intersect_key($this->colors, array_flip($mesh->materials)), null, $facts);
        $this->placed[] = $node;
    }

    private function skinned(XmlNode $instance): XmlNode
    {
        $controller = $this->find($instance, 'url', 'controller');
        for ($hops = 0; $hops < 8; $hops++) {
            $inner = $controller->child('skin') ?? $controller->child('morph') ?? throw Unreadable::onLine($controller->line, 'a controller is neither a skin nor a morph');
            $target = $this->byId[$inner->reference('source')] ?? throw Unreadable::onLine($inner->line, 'a controller names a geometry that is not there');
            if ($target->name === 'geometry') {
                return $target;
            }
            $controller = $target;
        }
        throw Unreadable::onLine($instance->line, 'controllers name each other in a loop');
    }

    private function find(XmlNode $from, string $attribute, string $kind): XmlNode
    {
        $id = $from->reference($attribute);
        $found = $this->byId[$id] ?? null;
        if ($found === null || $found->name !== $kind) {
            throw Unreadable::onLine($from->line, "<$from->name> names the $kind \"".mb_strimwidth(mb_scrub($id), 0, 60, '…').'", which is not there');
        }

        return $found;
    }
}
