<?php

declare(strict_types=1);

namespace Anvil\Tests\Support;

use Anvil\Formats\Source;
use Anvil\Unreadable;

/**
 * A file that is only in memory, with side files beside it.
 */
final readonly class MemorySource implements Source
{
    /**
     * @param  array<string, string>  $sides
     */
    public function __construct(private string $name, private string $content, private array $sides = [])
    {
    }

    public function name(): string
    {
        return $this->name;
    }

    public function size(): int
    {
        return strlen($this->content);
    }

    public function open()
    {
        $stream = fopen('php://memory', 'w+b') ?: throw Unreadable::because('no memory stream');
        fwrite($stream, $this->content);
        rewind($stream);

        return $stream;
    }

    public function side(string $name): ?Source
    {
        return isset($this->sides[$name]) ? new self($name, $this->sides[$name]) : null;
    }
}
