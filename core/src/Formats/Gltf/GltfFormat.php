<?php

declare(strict_types=1);

namespace Anvil\Formats\Gltf;

use Anvil\Formats\Changes;
use Anvil\Formats\Format;
use Anvil\Formats\Reader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;

/** glTF 2.0, as JSON with side files and binary. */
final class GltfFormat implements Format
{
    public function row(): int
    {
        return 10;
    }

    public function endings(): array
    {
        return ['glb' => 'binary glTF', 'gltf' => 'glTF'];
    }

    public function told(): array
    {
        return ['glb', 'gltf'];
    }

    public function lacks(): array
    {
        return ['smoothing groups', 'faces of more than three corners'];
    }

    public function isWritten(): bool
    {
        return true;
    }

    public function recognised(string $head): ?string
    {
        return str_starts_with($head, 'glTF') ? 'a binary glTF (.glb)' : null;
    }

    public function mayBegin(string $ending, string $head, ?string $is): bool
    {
        return $ending === 'glb' ? $is === 'a binary glTF (.glb)' : $is === null && str_starts_with(ltrim($head), '{') || str_starts_with($head, "\xEF\xBB\xBF");
    }

    public function memoryToAByte(): int
    {
        return 0;
    }

    public function reader(): Reader
    {
        return new GltfReader;
    }

    public function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        return GltfRewriter::write($source, $changes, $name, $sink);
    }
}
