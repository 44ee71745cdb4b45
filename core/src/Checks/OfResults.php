<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Standard\Waiver;

/**
 * A check of what the other checks found, not of what was measured. It comes after them.
 */
interface OfResults extends Check
{
    /**
     * @param  list<CheckResult>  $results  of all other checks that ran
     * @param  list<Waiver>  $waivers
     */
    public function ofResults(array $results, array $waivers): Outcome;
}
