<?php

declare(strict_types=1);

namespace App\Models\State;

/**
 * Whether something was measured.
 */
enum TaskState: string
{
    case Waiting = 'waiting';
    case Done = 'done';
}
