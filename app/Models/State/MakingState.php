<?php

declare(strict_types=1);

namespace App\Models\State;

use OpenApi\Attributes as OA;

/**
 * How far something is that is made of a delivery: files, or a package.
 */
#[OA\Schema(schema: 'MakingState', type: 'string')]
enum MakingState: string
{
    case Waiting = 'waiting';
    case Making = 'making';
    case Sealing = 'sealing';
    case Done = 'done';
    case Failed = 'failed';

    /** States of what is still to be made. */
    public const OPEN = [self::Waiting, self::Making, self::Sealing];
}
