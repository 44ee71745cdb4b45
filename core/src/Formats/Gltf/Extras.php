<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Json;

/**
 * What a glTF file holds beside meshes, in words.
 *
 * @internal
 */
final class Extras
{
    /**
     * @return list<string>
     */
    public static function of(Json $root, Nodes $nodes): array
    {
        $cameras = $lights = $empty = $hidden = 0;
        foreach ($nodes->world as $i => $_) {
            $node = $nodes->all[$i];
            $extensions = $node->object('extensions');
            $isCamera = $node->has('camera');
            $isLight = $extensions?->has('KHR_lights_punctual') ?? false;
            $visibility = $extensions?->object('KHR_node_visibility');
            $cameras += $isCamera ? 1 : 0;
            $lights += $isLight ? 1 : 0;
            $hidden += $visibility !== null && $visibility->value('visible') === false ? 1 : 0;
            $empty += ! $isCamera && ! $isLight && ! $node->has('mesh') && ! $node->has('skin') && $node->ints('children') === [] && ! self::isJoint($root, $i) ? 1 : 0;
        }
        $out = [];
        foreach (['camera' => $cameras, 'light' => $lights, 'skin' => count($root->objects('skins')), 'animation' => count($root->objects('animations')), 'hidden node' => $hidden, 'empty node' => $empty] as $what => $count) {
            if ($count > 0) {
                $out[] = $count === 1 ? "1 $what" : "$count {$what}s";
            }
        }

        return $out;
    }

    private static function isJoint(Json $root, int $node): bool
    {
        foreach ($root->objects('skins') as $skin) {
            if (in_array($node, $skin->ints('joints'), true)) {
                return true;
            }
        }

        return false;
    }
}
