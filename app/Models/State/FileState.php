<?php

declare(strict_types=1);

namespace App\Models\State;

use OpenApi\Attributes as OA;

/**
 * Whether a file was read.
 */
#[OA\Schema(schema: 'FileState', type: 'string')]
enum FileState: string
{
    case Waiting = 'waiting';
    case Reading = 'reading';
    case Read = 'read';
    case Unreadable = 'unreadable';

    /** States of a file that is still to be read. */
    public const OPEN = [self::Waiting, self::Reading];

    public function isOpen(): bool
    {
        return in_array($this, self::OPEN, true);
    }
}
