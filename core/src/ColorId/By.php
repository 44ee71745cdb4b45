<?php

declare(strict_types=1);

namespace Anvil\ColorId;

/**
 * What wears one ID: what the high poly is cut into before IDs are given.
 */
enum By: string
{
    case Part = 'part';
    case Material = 'material';
    case Shell = 'shell';
    case Region = 'region';
    case Set = 'set';
    /** As its ID file, vertex colors or materials color it now. */
    case Colors = 'colors';
}
