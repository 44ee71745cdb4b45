<?php

declare(strict_types=1);

namespace Anvil\Pairing;

/** What holds a tie together. */
enum TieKind: string
{
    /** The names, letter for letter. */
    case Exact = 'exact';
    /** One part a side: whatever the names. */
    case OneAndOne = 'one-and-one';
    /** All parts are one set. */
    case Whole = 'whole';
    /** The names but for letter case, suffix, or a small edit. */
    case Near = 'near';
    /** The names, but place and size say another partner. */
    case Crossed = 'crossed';
    /** A part baked on itself. */
    case Self = 'self';
    /** Nothing on the other side. */
    case Open = 'open';
}
