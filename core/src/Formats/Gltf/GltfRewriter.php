<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Formats\Changes;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Json;
use Anvil\Unreadable;

/**
 * Writes a glTF file again: a rename replaces the bytes of a name (of the node, and of its mesh where that has the same), a move the
 * node's translation. The binary data is copied as it is.
 *
 * @internal
 */
final class GltfRewriter
{
    /**
     * @return list<string> side files that it names
     */
    public static function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        $container = Container::read($source);
        $json = $container->json;
        $root = Json::parse($json);
        $nodes = Nodes::of($root);
        $spans = JsonSpans::of($json);
        $edits = self::names($root, $nodes, $spans, $changes) + self::moves($root, $nodes, $spans, $changes);
        $sides = [];
        foreach ([...$root->objects('buffers'), ...$root->objects('images')] as $one) {
            $uri = $one->string('uri');
            if ($uri !== null && ! str_starts_with($uri, 'data:')) {
                $sides[] = rawurldecode($uri);
            }
        }
        if ($changes->placed !== null && ! $changes->placed->isIdentity()) {
            $placing = new Placing($container, $root, $nodes, $spans, $changes->placed, $source);
            $edits += $placing->edits();
            $container = $placing->container();
            foreach ($placing->sideFiles() as $side => $bytes) {
                $out = $sink->open($side);
                fwrite($out, $bytes);
                fclose($out);
                $sides = array_values(array_diff($sides, [$side]));
            }
        }
        krsort($edits);
        foreach ($edits as $start => [$end, $text]) {
            $json = substr($json, 0, $start).$text.substr($json, $end);
        }
        self::put($container, $json, $name, $sink);

        return array_values(array_unique($sides));
    }

    /** Writes a container with other JSON, the binary chunk as it was. */
    public static function put(Container $container, string $json, string $name, Sink $sink): void
    {
        $out = $sink->open($name);
        if ($container->isBinary) {
            if ($json !== $container->json) {
                $json = rtrim($json, ' ');
            }
            $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
            $bin = $container->bin === null ? '' : pack('VV', strlen($container->bin), 0x004E4942).$container->bin;
            fwrite($out, pack('VVV', 0x46546C67, 2, 20 + strlen($json) + strlen($bin)).pack('VV', strlen($json), 0x4E4F534A).$json);
            fwrite($out, $bin);
        } else {
            fwrite($out, $json);
        }
        fclose($out);
    }

    /**
     * @param  array<string, array<int, array<string, array{int, int}>>>  $spans
     * @return array<int, array{int, string}> start → [end, text]
     */
    private static function names(Json $root, Nodes $nodes, array $spans, Changes $changes): array
    {
        $edits = [];
        $meshes = $root->objects('meshes');
        $usedBy = [];
        foreach ($nodes->world as $i => $_) {
            $mesh = $nodes->all[$i]->int('mesh');
            if ($mesh !== null) {
                $usedBy[$mesh][] = $i;
            }
        }
        foreach ($usedBy as $mesh => $users) {
            foreach ($users as $i) {
                $own = $nodes->all[$i]->string('name');
                $meshName = $meshes[$mesh]->string('name');
                $new = $changes->names[mb_scrub($own ?? $meshName ?? "node_$i")] ?? null;
                if ($new === null) {
                    continue;
                }
                $text = (string) json_encode($new, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);
                if ($own !== null) {
                    $edits[$spans['nodes'][$i]['name'][0]] = [$spans['nodes'][$i]['name'][1], $text];
                } elseif ($meshName === null || count($users) > 1) {
                    [$start] = $spans['nodes'][$i][''];
                    $edits[$start + 1] = [$start + 1, "\"name\":$text,"];
                }
                if ($meshName !== null && count($users) === 1 && ($own === null || $meshName === $own)) {
                    $edits[$spans['meshes'][$mesh]['name'][0]] = [$spans['meshes'][$mesh]['name'][1], $text];
                }
            }
        }

        return $edits;
    }

    /**
     * @param  array<string, array<int, array<string, array{int, int}>>>  $spans
     * @return array<int, array{int, string}>
     */
    private static function moves(Json $root, Nodes $nodes, array $spans, Changes $changes): array
    {
        if ($changes->moves === []) {
            return [];
        }
        $meshes = $root->objects('meshes');
        $edits = [];
        $shift = [];
        foreach ($nodes->world as $i => $world) {
            $node = $nodes->all[$i];
            $mesh = $node->int('mesh');
            $name = $mesh === null ? null : mb_scrub($node->string('name') ?? $meshes[$mesh]->string('name') ?? "node_$i");
            // A node without a mesh, or one that stays, keeps its place in the world whatever its parent does.
            $shift[$i] = ($name === null ? null : ($changes->moves[$name] ?? null)) ?? [0.0, 0.0, 0.0];
            $above = $nodes->parent[$i] < 0 ? [0.0, 0.0, 0.0] : $shift[$nodes->parent[$i]];
            $by = [$shift[$i][0] - $above[0], $shift[$i][1] - $above[1], $shift[$i][2] - $above[2]];
            if ($by === [0.0, 0.0, 0.0]) {
                continue;
            }
            if ($nodes->parent[$i] >= 0) {
                $by = $nodes->world[$nodes->parent[$i]]->unapplied($by) ?? throw Unreadable::because("nodes[$i] cannot be moved: a node over it is scaled to nothing");
            }
            $matrix = $node->floats('matrix', 16);
            if ($matrix !== null) {
                for ($k = 0; $k < 3; $k++) {
                    $matrix[12 + $k] += $by[$k];
                }
                $edits[$spans['nodes'][$i]['matrix'][0]] = [$spans['nodes'][$i]['matrix'][1], self::numbers(array_values($matrix))];

                continue;
            }
            $translation = $node->floats('translation', 3) ?? [0.0, 0.0, 0.0];
            $text = self::numbers([$translation[0] + $by[0], $translation[1] + $by[1], $translation[2] + $by[2]]);
            if ($node->has('translation')) {
                $edits[$spans['nodes'][$i]['translation'][0]] = [$spans['nodes'][$i]['translation'][1], $text];
            } else {
                [$start] = $spans['nodes'][$i][''];
                $edits[$start + 1] = [$start + 1, "\"translation\":$text,"];
            }
        }

        return $edits;
    }

    /**
     * @param  list<float>  $values
     */
    public static function numbers(array $values): string
    {
        return '['.implode(',', array_map(static fn (float $value): string => (string) json_encode((float) sprintf('%.12g', $value)), $values)).']';
    }
}
