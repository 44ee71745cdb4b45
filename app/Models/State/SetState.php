<?php

declare(strict_types=1);

namespace App\Models\State;

use OpenApi\Attributes as OA;

/**
 * Whether the rays of a set were shot.
 */
#[OA\Schema(schema: 'SetState', type: 'string')]
enum SetState: string
{
    case Waiting = 'waiting';
    case Measuring = 'measuring';
    case Done = 'done';
    case Failed = 'failed';

    /** States of a set that is still to be measured. */
    public const OPEN = [self::Waiting, self::Measuring];

    public function isOpen(): bool
    {
        return in_array($this, self::OPEN, true);
    }
}
