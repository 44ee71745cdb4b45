<?php

declare(strict_types=1);

namespace Anvil\Tests\Support;

use Anvil\Formats\Sink;
use RuntimeException;

/**
 * Written files, kept in memory.
 */
final class MemorySink implements Sink
{
    /** @var array<string, resource> */
    private array $streams = [];

    public function open(string $name)
    {
        // Writers close what they open, so the content is kept in a temporary file that a second handle holds.
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-sink');
        $this->streams[$name] = fopen($path, 'rb') ?: throw new RuntimeException($path);
        $stream = fopen($path, 'wb') ?: throw new RuntimeException($path);
        unlink($path);

        return $stream;
    }

    public function content(string $name): string
    {
        rewind($this->streams[$name]);

        return (string) stream_get_contents($this->streams[$name]);
    }

    public function source(string $name): MemorySource
    {
        return new MemorySource($name, $this->content($name), array_map($this->content(...), array_combine($this->names(), $this->names())));
    }

    /**
     * @return list<string>
     */
    public function names(): array
    {
        return array_keys($this->streams);
    }

    public function commit(): void
    {
    }

    public function discard(): void
    {
    }
}
