<?php

declare(strict_types=1);

namespace Anvil\Measures;

/**
 * A measure that no check reads: by it is known whether another one has to be computed again. Where nothing is kept it is left out.
 */
interface OnlyForInputs
{
}
