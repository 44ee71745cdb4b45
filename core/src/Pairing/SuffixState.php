<?php

declare(strict_types=1);

namespace Anvil\Pairing;

/** How a name carries its role suffix. */
enum SuffixState
{
    case Exact;
    case OtherCase;
    case OtherSeparator;
    case None;
}
