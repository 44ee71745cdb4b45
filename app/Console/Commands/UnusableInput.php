<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Unreadable;
use RuntimeException;

/**
 * Input that cannot be used: the command writes nothing and exits with 2.
 */
final class UnusableInput extends RuntimeException
{
    public function __construct(public readonly string $errorCode, string $message, public readonly ?string $subject = null, public readonly ?int $atLine = null, public readonly ?int $atOffset = null)
    {
        parent::__construct($message);
    }

    public static function of(Unreadable $error, string $file, string $code = 'file-unreadable'): self
    {
        return new self($code, $error->getMessage(), $file, $error->atLine, $error->atOffset);
    }
}
