<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Measures\Measures;

/**
 * One row of the check catalogue: compares a measure with a limit and says so in words.
 */
interface Check
{
    public function about(): About;

    public function run(Measures $measures): Outcome;
}
