<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Formats\Changes;
use Anvil\Formats\Decimal;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Matrix;
use Anvil\Unreadable;

/**
 * Writes a COLLADA file again: a rename replaces the `name` of a node, and of its geometry where that has the same; a move or a turn
 * adds one transform before the node's own. Every other byte stays.
 *
 * @internal
 */
final class ColladaRewriter
{
    /**
     * @return list<string> side files that it names
     */
    public static function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        $stream = $source->open();
        $text = (string) stream_get_contents($stream);
        fclose($stream);
        [$scene, $nodes] = ColladaReader::readWithNodes($source);
        $tags = self::tags($text);
        $edits = [];
        $uses = array_count_values(array_map(static fn (PlacedNode $node): int => $node->number, $nodes));
        foreach ($scene->parts as $i => $part) {
            $new = $changes->names[$part->name] ?? null;
            if ($new === null) {
                continue;
            }
            $node = $nodes[$i];
            if ($uses[$node->number] > 1) {
                throw Unreadable::because("the node {$part->name} stands in the scene more than once, so one name is used by several parts; export them as nodes of their own");
            }
            self::rename($text, $tags['node'][$node->number] ?? throw Unreadable::because('the nodes cannot be found again'), $new, $edits);
            foreach ($tags['geometry'] as $tag) {
                if (self::attribute($text, $tag, 'name') === $part->name && self::namesOnce($scene->parts, $part->name)) {
                    self::rename($text, $tag, $new, $edits);
                }
            }
        }
        self::moves($text, $changes, $scene->parts, $nodes, $tags['node'], $edits);
        krsort($edits);
        foreach ($edits as $start => [$end, $with]) {
            $text = substr($text, 0, $start).$with.substr($text, $end);
        }
        $out = $sink->open($name);
        fwrite($out, $text);
        fclose($out);
        preg_match_all('/<init_from>\s*(?:<ref>\s*)?([^<]+?)\s*</', $text, $found);

        return array_values(array_unique(array_filter(array_map(
            static fn (string $uri): string => rawurldecode(htmlspecialchars_decode(preg_replace('#^(file:///?)?(\./)?#', '', $uri) ?? '')), $found[1],
        ), static fn (string $uri): bool => str_contains($uri, '.') && ! str_starts_with($uri, '/') && ! str_contains($uri, '..') && ! str_contains($uri, ':'))));
    }

    /**
     * @param  list<\Anvil\Geometry\Part>  $parts
     * @param  list<PlacedNode>  $nodes
     * @param  list<array{int, int}>  $tags
     * @param  array<int, array{int, string}>  $edits
     */
    private static function moves(string $text, Changes $changes, array $parts, array $nodes, array $tags, array &$edits): void
    {
        $shift = [];
        $use = [];
        foreach ($parts as $i => $part) {
            $by = $changes->moves[$part->name] ?? [0.0, 0.0, 0.0];
            $number = $nodes[$i]->number;
            if (isset($shift[$number]) && $shift[$number] !== $by) {
                throw Unreadable::because("{$part->name} shares its node with a part that is to move another way; export them as nodes of their own");
            }
            $shift[$number] = $by;
            $use[$number] = $nodes[$i];
        }
        if ($changes->moves !== []) {
            foreach ($use as $number => $node) {
                // A part moves with the nearest part over it, so only the difference is its own.
                $above = [0.0, 0.0, 0.0];
                for ($over = $node->parent; $over !== null; $over = $over->parent) {
                    if (isset($shift[$over->number])) {
                        $above = $shift[$over->number];
                        break;
                    }
                }
                $by = [$shift[$number][0] - $above[0], $shift[$number][1] - $above[1], $shift[$number][2] - $above[2]];
                if ($by === [0.0, 0.0, 0.0]) {
                    continue;
                }
                $local = $node->parent === null ? $by : ($node->parent->world->unapplied($by) ?? throw Unreadable::because('a node over a part is scaled to nothing, so the part cannot be moved'));
                $at = self::beforeTransforms($text, $tags[$number]);
                $edits[$at] = [$at, '<translate>'.implode(' ', array_map(Decimal::of(...), $local)).'</translate>'];
            }
        }
        if ($changes->placed !== null && ! $changes->placed->isIdentity()) {
            $roots = [];
            foreach ($nodes as $node) {
                while ($node->parent !== null) {
                    $node = $node->parent;
                }
                $roots[$node->number] = true;
            }
            foreach (array_keys($roots) as $number) {
                $at = self::beforeTransforms($text, $tags[$number]);
                $edits[$at] = [$at, '<matrix>'.self::rows($changes->placed).'</matrix>'.($edits[$at][1] ?? '')];
            }
        }
    }

    private static function rows(Matrix $matrix): string
    {
        $out = [];
        for ($row = 0; $row < 4; $row++) {
            for ($column = 0; $column < 4; $column++) {
                $out[] = Decimal::of($matrix->m[4 * $column + $row]);
            }
        }

        return implode(' ', $out);
    }

    /**
     * @param  array{int, int}  $tag
     */
    private static function beforeTransforms(string $text, array $tag): int
    {
        if ($text[$tag[1] - 2] === '/') {
            throw Unreadable::because('an empty node cannot be moved');
        }

        // An <asset> may stand before the transforms, and nothing else.
        return preg_match('/\G\s*<asset\b.*?<\/asset>/s', $text, $found, 0, $tag[1]) === 1 ? $tag[1] + strlen($found[0]) : $tag[1];
    }

    /**
     * Start tags of nodes and geometries, comments and CDATA passed over.
     *
     * @return array{node: list<array{int, int}>, geometry: list<array{int, int}>} start and end of each
     */
    private static function tags(string $text): array
    {
        $out = ['node' => [], 'geometry' => []];
        preg_match_all('/<!--.*?-->|<!\[CDATA\[.*?\]\]>|<(?:\w+:)?(node|geometry)\b(?:[^>"\']|"[^"]*"|\'[^\']*\')*>/s', $text, $found, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
        foreach ($found as $match) {
            $kind = $match[1][0] ?? '';
            if ($kind === 'node' || $kind === 'geometry') {
                $out[$kind][] = [$match[0][1], $match[0][1] + strlen($match[0][0])];
            }
        }

        return $out;
    }

    /**
     * @param  array{int, int}  $tag
     * @param  array<int, array{int, string}>  $edits
     */
    private static function rename(string $text, array $tag, string $new, array &$edits): void
    {
        $shown = htmlspecialchars($new, ENT_QUOTES | ENT_XML1);
        $inside = substr($text, $tag[0], $tag[1] - $tag[0]);
        if (preg_match('/\sname\s*=\s*(["\'])(.*?)\1/s', $inside, $found, PREG_OFFSET_CAPTURE) === 1) {
            $start = $tag[0] + $found[2][1];
            $edits[$start] = [$start + strlen($found[2][0]), $shown];
        } else {
            preg_match('/^<[\w:]+/', $inside, $found);
            $start = $tag[0] + strlen($found[0] ?? '<node');
            $edits[$start] = [$start, " name=\"$shown\""];
        }
    }

    /**
     * @param  array{int, int}  $tag
     */
    private static function attribute(string $text, array $tag, string $name): ?string
    {
        return preg_match('/\s'.$name.'\s*=\s*(["\'])(.*?)\1/s', substr($text, $tag[0], $tag[1] - $tag[0]), $found) === 1 ? html_entity_decode($found[2], ENT_QUOTES | ENT_XML1) : null;
    }

    /**
     * @param  list<\Anvil\Geometry\Part>  $parts
     */
    private static function namesOnce(array $parts, string $name): bool
    {
        return count(array_filter($parts, static fn ($part): bool => $part->name === $name)) === 1;
    }
}
