<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Formats\Changes;
use Anvil\Formats\Format;
use Anvil\Formats\Reader;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;

/** COLLADA 1.4 and 1.5. */
final class ColladaFormat implements Format
{
    public function row(): int
    {
        return 30;
    }

    public function endings(): array
    {
        return ['dae' => 'COLLADA'];
    }

    public function told(): array
    {
        return ['dae'];
    }

    public function lacks(): array
    {
        return ['smoothing groups'];
    }

    public function isWritten(): bool
    {
        return true;
    }

    public function recognised(string $head): ?string
    {
        return str_starts_with(ltrim($head, "\xEF\xBB\xBF \t\r\n"), '<?xml') ? 'an XML file' : null;
    }

    public function mayBegin(string $ending, string $head, ?string $is): bool
    {
        return $is === 'an XML file' || $is === null && str_starts_with(ltrim($head, "\xEF\xBB\xBF \t\r\n"), '<');
    }

    public function memoryToAByte(): int
    {
        return 0;
    }

    public function reader(): Reader
    {
        return new ColladaReader;
    }

    public function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        return ColladaRewriter::write($source, $changes, $name, $sink);
    }
}
