<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Formats\Changes;
use Anvil\Formats\Format;
use Anvil\Formats\Reader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;

/** Wavefront OBJ with its material library. */
final class ObjFormat implements Format
{
    public function row(): int
    {
        return 20;
    }

    public function endings(): array
    {
        return ['obj' => 'OBJ'];
    }

    public function told(): array
    {
        return ['obj'];
    }

    public function lacks(): array
    {
        return ['unit', 'up axis', 'hierarchy', 'pivots', 'more than one UV set'];
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
        return 6;
    }

    public function reader(): Reader
    {
        return new ObjReader;
    }

    public function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        return ObjRewriter::write($source, $changes, $name, $sink);
    }
}
