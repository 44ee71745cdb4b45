<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Geometry\Matrix;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * The node tree of the scene that the file shows: world matrices, parents, order of visit.
 *
 * @internal
 */
final readonly class Nodes
{
    private const DEEPEST = 512;

    /**
     * @param  list<Json>  $all
     * @param  array<int, Matrix>  $world  of the nodes in the scene, in depth-first order
     * @param  array<int, int>  $parent  −1 for roots
     */
    private function __construct(public array $all, public array $world, public array $parent)
    {
    }

    /**
     * @throws Unreadable on a loop, a second parent, or a number out of range
     */
    public static function of(Json $root): self
    {
        $all = $root->objects('nodes');
        $children = [];
        $hasParent = [];
        foreach ($all as $i => $node) {
            $children[$i] = $node->ints('children');
            foreach ($children[$i] as $child) {
                if (! isset($all[$child])) {
                    throw Unreadable::because("$node->path.children names node $child, and there are ".count($all));
                }
                if (isset($hasParent[$child])) {
                    throw Unreadable::because("nodes[$child] has two parents; the nodes of a glTF file must form a tree");
                }
                $hasParent[$child] = true;
            }
        }
        $scenes = $root->objects('scenes');
        if ($scenes === []) {
            $roots = array_values(array_filter(array_keys($all), static fn (int $i): bool => ! isset($hasParent[$i])));
            if ($roots === [] && $all !== []) {
                throw Unreadable::because('the nodes form a loop');
            }
        } else {
            $number = $root->int('scene') ?? 0;
            $roots = ($scenes[$number] ?? throw Unreadable::because("scene names scene $number, and there are ".count($scenes)))->ints('nodes');
        }
        $world = [];
        $parent = [];
        $stack = [];
        foreach (array_reverse($roots) as $rootNode) {
            $stack[] = [$rootNode, -1, 0];
        }
        while ($stack !== []) {
            [$i, $above, $depth] = array_pop($stack);
            if (! isset($all[$i])) {
                throw Unreadable::because("a scene names node $i, and there are ".count($all));
            }
            if (isset($world[$i])) {
                throw Unreadable::because("nodes[$i] is reached twice; the nodes of a glTF file must form a tree");
            }
            if ($depth > self::DEEPEST) {
                throw Unreadable::because('the nodes are nested over '.self::DEEPEST.' deep');
            }
            $local = self::local($all[$i]);
            $world[$i] = $above < 0 ? $local : $world[$above]->times($local);
            $parent[$i] = $above;
            foreach (array_reverse($children[$i]) as $child) {
                $stack[] = [$child, $i, $depth + 1];
            }
        }

        return new self($all, $world, $parent);
    }

    private static function local(Json $node): Matrix
    {
        $matrix = $node->floats('matrix', 16);
        if ($matrix !== null) {
            return Matrix::of($matrix);
        }
        if (! $node->has('translation') && ! $node->has('rotation') && ! $node->has('scale')) {
            return Matrix::identity();
        }

        return Matrix::ofTrs(
            $node->floats('translation', 3) ?? [0.0, 0.0, 0.0],
            $node->floats('rotation', 4) ?? [0.0, 0.0, 0.0, 1.0],
            $node->floats('scale', 3) ?? [1.0, 1.0, 1.0],
        );
    }
}
