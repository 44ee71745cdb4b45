<?php

declare(strict_types=1);

namespace App\Models\State;

/**
 * What is done of a delivery now.
 */
enum Step: string
{
    case Write = 'write';
    case Read = 'read';
    case Pair = 'pair';
    case Measure = 'measure';
    case Check = 'check';
}
