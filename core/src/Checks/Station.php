<?php

declare(strict_types=1);

namespace Anvil\Checks;

/** A step of the work; the order of the cases is the order of work. */
enum Station: string
{
    case Intake = 'intake';
    case Pairing = 'pairing';
    case Sets = 'sets';
    case ColorId = 'color-id';
    case Clearance = 'clearance';
    case Surface = 'surface';
    case Proof = 'proof';
    case HandOff = 'hand-off';
}
