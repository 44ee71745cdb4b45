<?php

declare(strict_types=1);

namespace Anvil\Formats\Usd;

use Anvil\Formats\Changes;
use Anvil\Formats\Format;
use Anvil\Formats\Reader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Unreadable;

/** USD as text; read only. */
final class UsdaFormat implements Format
{
    public function row(): int
    {
        return 40;
    }

    public function endings(): array
    {
        return ['usda' => 'USD text', 'usd' => 'USD text'];
    }

    public function told(): array
    {
        return ['usda'];
    }

    public function lacks(): array
    {
        return ['smoothing groups'];
    }

    public function isWritten(): bool
    {
        return false;
    }

    public function recognised(string $head): ?string
    {
        return str_starts_with($head, '#usda') ? 'a USD text file' : null;
    }

    public function mayBegin(string $ending, string $head, ?string $is): bool
    {
        return $is === 'a USD text file';
    }

    public function memoryToAByte(): int
    {
        return 0;
    }

    public function reader(): Reader
    {
        return new UsdaReader;
    }

    public function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        throw Unreadable::because('.usda is read here and not written; export .glb, .obj or .dae to have it mended');
    }
}
