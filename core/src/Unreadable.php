<?php

declare(strict_types=1);

namespace Anvil;

use RuntimeException;

/**
 * A file is not the format that it claims, is cut short, contradicts itself, or asks for something this reader refuses.
 *
 * The message says what and what to do; `line` counts from 1, `offset` is a byte offset from 0.
 */
final class Unreadable extends RuntimeException
{
    private function __construct(string $message, public readonly ?int $atLine = null, public readonly ?int $atOffset = null)
    {
        parent::__construct($message);
    }

    public static function because(string $message): self
    {
        return new self($message);
    }

    public static function onLine(int $line, string $message): self
    {
        return new self("line $line: $message", $line);
    }

    public static function atByte(int $offset, string $message): self
    {
        return new self("byte $offset: $message", null, $offset);
    }
}
