<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Words;
use Anvil\Clearance\SetClearance;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Sets\BakeSet;

/**
 * How a check on rays ends when some sets could not be measured.
 */
final class RayChecks
{
    /**
     * @param  list<Finding>  $findings
     * @param  list<string>  $offPlace  sets of which a part was not judged because it stands off its high
     */
    public static function outcome(Measures $measures, array $findings, array $offPlace = []): Outcome
    {
        $reasons = [];
        foreach ($measures->clearances() as $clearance) {
            $masked = $clearance->details->faced['lowShare'] + $clearance->details->faced['highShare'];
            if ($masked > 0.0) {
                $reasons[Words::percent(min(1.0, $masked)).' of its low area is not judged, since rays there start from or meet faces turned the wrong way: mesh-flipped tells which'][] = $clearance->name;
            }
        }
        foreach ($offPlace as $set) {
            $reasons['its low and high do not lie on each other: off-alignment tells how'][] = $set;
        }
        foreach ($measures->notMeasured() as $set => $reason) {
            $reasons[$reason][] = (string) $set;
        }
        $words = [];
        foreach ($reasons as $reason => $sets) {
            $words[] = (count($sets) > 3 ? count($sets).' sets' : implode(', ', $sets)).": $reason";
        }
        if ($measures->clearances() === [] && $words === []) {
            return Outcome::notApplicable('no set has both low and high parts');
        }

        return Outcome::of($findings, $words === [] ? null : implode('; ', $words));
    }

    /**
     * @return array<string, BakeSet>
     */
    public static function setsByName(Measures $measures): array
    {
        $out = [];
        foreach ($measures->asset->sets as $set) {
            $out[$set->name] = $set;
        }

        return $out;
    }

    /**
     * The low parts of a set that stand off their high by more than the limit, which `off-alignment` tells: what their rays miss, and gaps
     * over them, say it again.
     *
     * @return array<int, true> numbers among the set's low parts
     */
    public static function offPlace(Measures $measures, string $set): array
    {
        $out = [];
        if ($measures->asset->standard->isOff('off-alignment')) {
            return $out;
        }
        $bake = $measures->set($set);
        if ($bake === null) {
            return $out;
        }
        foreach ($measures->asset->tiesOf($bake) as $tie) {
            $offset = $measures->placeOf($tie)?->offset;
            if ($offset === null || $offset->share() <= $measures->asset->standard->limitInForce('off-alignment')) {
                continue;
            }
            foreach ($bake->low as $number => $part) {
                if (in_array($part, $tie->low, true)) {
                    $out[$number] = true;
                }
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $shares  a low part
     * @param  array<int, true>  $without  numbers of low parts
     */
    public static function sum(array $shares, array $without): float
    {
        return array_sum(array_diff_key($shares, $without));
    }

    /** Whether another set is met first on more than its limit, or meets this one, so that the neighbour is what has to be told. */
    public static function isBledInto(Measures $measures, SetClearance $clearance): bool
    {
        if ($measures->asset->standard->rays->setsKeptApart || $measures->asset->standard->isOff('sets-bleed')) {
            return false;
        }
        if ($measures->setsToCome() > 0) {
            throw NotKnown::ofSets();
        }
        foreach ($measures->clearances() as $other) {
            foreach ($other->bleeds as $bleed) {
                if (($other === $clearance || $bleed->other === $clearance->name) && $bleed->share > $measures->asset->standard->limitInForce('sets-bleed')) {
                    return true;
                }
            }
        }

        return false;
    }
}
