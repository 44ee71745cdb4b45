<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Inspection\Inspection;

/**
 * How a check on rays ends when some sets could not be measured.
 */
final class RayChecks
{
    /**
     * @param  list<Finding>  $findings
     */
    public static function outcome(Inspection $inspection, array $findings): Outcome
    {
        $reasons = [];
        foreach ($inspection->notMeasured as $set => $reason) {
            $reasons[$reason][] = (string) $set;
        }
        $words = [];
        foreach ($reasons as $reason => $sets) {
            $words[] = (count($sets) > 3 ? count($sets).' sets' : implode(', ', $sets)).": $reason";
        }
        if ($inspection->clearances === [] && $words === []) {
            return Outcome::notApplicable('no set has both low and high parts');
        }

        return Outcome::of($findings, $words === [] ? null : implode('; ', $words));
    }
}
