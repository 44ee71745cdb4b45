<?php

declare(strict_types=1);

namespace Anvil\Formats\Stl;

use Anvil\Formats\Changes;
use Anvil\Formats\Format;
use Anvil\Formats\Reader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;

/** STL, as text and binary. */
final class StlFormat implements Format
{
    public function row(): int
    {
        return 60;
    }

    public function endings(): array
    {
        return ['stl' => 'STL'];
    }

    public function told(): array
    {
        return ['stl'];
    }

    public function lacks(): array
    {
        return ['UVs', 'names of parts', 'unit', 'up axis', 'normals', 'smoothing groups', 'vertex colours', 'materials', 'hierarchy', 'pivots', 'more than one UV set', 'faces of more than three corners', 'more than one part'];
    }

    public function isWritten(): bool
    {
        return true;
    }

    public function recognised(string $head): ?string
    {
        return null;
    }

    public function mayBegin(string $ending, string $head, ?string $is): bool
    {
        return $is === null;
    }

    public function memoryToAByte(): int
    {
        return 15;
    }

    public function reader(): Reader
    {
        return new StlReader;
    }

    public function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        return StlRewriter::write($source, $changes, $name, $sink);
    }
}
