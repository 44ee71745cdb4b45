<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Clearance\SetClearance;
use Anvil\Inspection\Inspection;
use Anvil\Sets\BakeSet;

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

    /**
     * @return array<string, BakeSet>
     */
    public static function setsByName(Inspection $inspection): array
    {
        $out = [];
        foreach ($inspection->sets as $set) {
            $out[$set->name] = $set;
        }

        return $out;
    }

    /**
     * Whether the low poly of a set is a surface that directions can be made of: a fault of the mesh is told by its own code, and what
     * rays from it meet would only say it again.
     */
    public static function isSound(Inspection $inspection, string $set): bool
    {
        foreach (self::setsByName($inspection)[$set]->low ?? [] as $part) {
            $health = $inspection->health($part);
            if ($health->insideOut + $health->againstNeighbours + $health->fans + $health->manyFaced > 0) {
                return false;
            }
        }
        foreach ($inspection->clearances[$set]->places ?? [] as $place) {
            if ($place->away !== []) {
                return false;
            }
        }

        return true;
    }

    /** Whether another set is met first on more than its limit, or meets this one, so that the neighbour is what has to be told. */
    public static function isBledInto(Inspection $inspection, SetClearance $clearance): bool
    {
        if ($inspection->standard->rays->setsKeptApart || $inspection->standard->isOff('sets-bleed')) {
            return false;
        }
        foreach ($inspection->clearances as $other) {
            foreach ($other->bleeds as $bleed) {
                if (($other === $clearance || $bleed->other === $clearance->name) && $bleed->share > $inspection->standard->limit('sets-bleed', 0.001)) {
                    return true;
                }
            }
        }

        return false;
    }
}
