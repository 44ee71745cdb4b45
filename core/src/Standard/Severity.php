<?php

declare(strict_types=1);

namespace Anvil\Standard;

enum Severity: string
{
    case Blocker = 'blocker';
    case Caution = 'caution';
    case Note = 'note';
}
