<?php

declare(strict_types=1);

namespace Anvil\Formats\Ply;

use Anvil\Formats\Changes;
use Anvil\Formats\Format;
use Anvil\Formats\Reader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;

/** PLY, as text and binary. */
final class PlyFormat implements Format
{
    public function row(): int
    {
        return 50;
    }

    public function endings(): array
    {
        return ['ply' => 'PLY'];
    }

    public function told(): array
    {
        return ['ply'];
    }

    public function lacks(): array
    {
        return ['names of parts', 'unit', 'up axis', 'smoothing groups', 'materials', 'hierarchy', 'pivots', 'more than one UV set', 'more than one part'];
    }

    public function isWritten(): bool
    {
        return true;
    }

    public function recognised(string $head): ?string
    {
        return str_starts_with($head, "ply\n") || str_starts_with($head, "ply\r") ? 'a PLY' : null;
    }

    public function mayBegin(string $ending, string $head, ?string $is): bool
    {
        return $is === 'a PLY';
    }

    public function memoryToAByte(): int
    {
        return 14;
    }

    public function reader(): Reader
    {
        return new PlyReader;
    }

    public function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        return PlyRewriter::write($source, $changes, $name, $sink);
    }
}
