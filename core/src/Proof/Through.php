<?php

declare(strict_types=1);

namespace Anvil\Proof;

/** What the rays of a trial bake go through. */
enum Through: string
{
    /** The set's handed-in cage where there is a sound one, else its reach in use. */
    case InUse = 'in-use';

    case Reach = 'reach';

    /** The cage that is fitted here. */
    case Fitted = 'fitted';
}
