<?php

declare(strict_types=1);

namespace Anvil\Formats\Usd;

/**
 * A prim of a USD text file: its type, name, attributes as they are written, and the prims in it.
 *
 * @internal
 */
final class Prim
{
    /** @var array<string, array{value: string, meta: string, line: int}> */
    public array $attributes = [];

    /** @var list<self> */
    public array $children = [];

    public function __construct(public readonly string $specifier, public readonly string $type, public readonly string $name, public readonly string $path, public readonly string $meta, public readonly int $line)
    {
    }

    public function raw(string $name): ?string
    {
        return $this->attributes[$name]['value'] ?? null;
    }

    /** A string or token value without its quotes. */
    public function text(string $name): ?string
    {
        $raw = $this->raw($name);

        return $raw === null ? null : trim($raw, " \t\r\n\"'");
    }

    public function lineOf(string $name): int
    {
        return $this->attributes[$name]['line'] ?? $this->line;
    }

    /** An entry of an attribute's own metadata, such as `interpolation`. */
    public function metaOf(string $name, string $key): ?string
    {
        return preg_match('/(?:^|[\s(;])'.preg_quote($key, '/').'\s*=\s*["\']?([^"\'\s;)]+)/', $this->attributes[$name]['meta'] ?? '', $found) === 1 ? $found[1] : null;
    }
}
