<?php

declare(strict_types=1);

namespace Anvil\Measures;

/** What a measure is of. */
enum Scope: string
{
    case Part = 'part';
    case Set = 'set';
    case Asset = 'asset';
}
