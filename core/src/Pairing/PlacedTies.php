<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Standard\Standard;

/**
 * Ties by name, looked at again by place and size: near names become ties, crossed ones are marked, and a base that is alone is told
 * which part stands where it stands.
 */
final class PlacedTies
{
    /** A tie that costs less is right, whatever else might fit. */
    private const FITS = 0.05;

    /**
     * @param  list<Tie>  $ties
     * @return list<Tie>
     */
    public static function of(array $ties, Standard $standard): array
    {
        $lows = $highs = $lowAt = $highAt = [];
        foreach ($ties as $i => $tie) {
            if ($tie->low !== [] && $tie->kind !== TieKind::Self) {
                $lowAt[$i] = count($lows);
                $lows[] = RoledPart::boundsOf($tie->low);
            }
            if ($tie->high !== []) {
                $highAt[$i] = count($highs);
                $highs[] = RoledPart::boundsOf($tie->high);
            }
        }
        $place = ByPlace::of($lows, $highs);
        $ties = self::near($ties, $place, $lowAt, $highAt, $standard);
        $tieOfHigh = array_flip($highAt);
        $crossed = [];
        foreach ($ties as $i => $tie) {
            if ($tie === null || ! isset($lowAt[$i], $highAt[$i])) {
                continue;
            }
            [$other, $cost] = $place->partner[$lowAt[$i]] ?? [null, INF];
            if ($other !== null && $other !== $highAt[$i] && $tie->cost !== null && $tie->cost > self::FITS && $cost < 0.5 * $tie->cost && $ties[$tieOfHigh[$other]] !== null) {
                $crossed[$i] = true;
            }
        }
        $out = [];
        foreach ($ties as $i => $tie) {
            if ($tie === null) {
                continue;
            }
            if (! isset($lowAt[$i])) {
                $out[] = $tie;

                continue;
            }
            [$other, $cost] = $place->partner[$lowAt[$i]] ?? [null, null];
            $at = $other === null ? null : $tieOfHigh[$other];
            if (isset($crossed[$i])) {
                $out[] = new Tie($tie->base, $tie->low, $tie->high, TieKind::Crossed, ['pair-crossed'], $tie->cost, $ties[$at]->high ?? [], $cost);
            } elseif ($tie->kind === TieKind::Open && $at !== null && $ties[$at] !== null && (isset($crossed[$at]) || $ties[$at]->kind === TieKind::Open)) {
                // The end of a chain of crossed names goes the same way as the rest of it.
                $out[] = new Tie($tie->base, $tie->low, [], TieKind::Open, isset($crossed[$at]) ? ['chain'] : [], null, $ties[$at]->high, $cost);
            } else {
                $out[] = $tie;
            }
        }

        return $out;
    }

    /**
     * Joins open ties whose bases are near by their letters and whose parts stand in one place.
     *
     * @param  list<Tie>  $ties
     * @param  array<int, int>  $lowAt
     * @param  array<int, int>  $highAt
     * @return array<int, Tie|null> null where a tie was joined to another
     */
    private static function near(array $ties, ByPlace $place, array &$lowAt, array &$highAt, Standard $standard): array
    {
        $openLow = $openHigh = [];
        foreach ($ties as $i => $tie) {
            if ($tie->kind === TieKind::Open && $tie->low !== []) {
                $openLow[$i] = NearName::stripped($tie->base, $standard);
            } elseif ($tie->kind === TieKind::Open) {
                $openHigh[$i] = NearName::stripped($tie->base, $standard);
            }
        }
        $tieOfHigh = array_flip($highAt);
        $found = $takenBy = [];
        foreach ($openLow as $i => $name) {
            // Candidates by letters among all that stand near enough; a second one that is as near by name makes it a guess.
            $candidates = [];
            foreach (array_keys($place->costs[$lowAt[$i]]) as $j) {
                $at = $tieOfHigh[$j];
                if (isset($openHigh[$at]) && NearName::isNear($name, $openHigh[$at])) {
                    $candidates[] = $at;
                }
            }
            if (count($candidates) === 1 && $place->isMutualBest($lowAt[$i], $highAt[$candidates[0]]) && ! self::hasRival($name, $candidates[0], $openHigh)) {
                $found[$i] = $candidates[0];
                $takenBy[$candidates[0]][] = $i;
            }
        }
        $out = $ties;
        foreach ($found as $i => $at) {
            if (count($takenBy[$at]) !== 1) {
                continue;
            }
            $troubles = ['name-near'];
            foreach ([...$ties[$i]->low, ...$ties[$at]->high] as $part) {
                if ($part->suffixState() === SuffixState::OtherCase && ! in_array('suffix-case', $troubles, true)) {
                    $troubles[] = 'suffix-case';
                }
            }
            $out[$i] = Pairing::tie($ties[$i]->base, $ties[$i]->low, $ties[$at]->high, TieKind::Near, $troubles);
            $out[$at] = null;
            $highAt[$i] = $highAt[$at];
            unset($highAt[$at]);
        }

        return $out;
    }

    /**
     * Whether another open high base is near by its letters too, wherever it stands.
     *
     * @param  array<int, string>  $openHigh
     */
    private static function hasRival(string $name, int $chosen, array $openHigh): bool
    {
        foreach ($openHigh as $at => $other) {
            if ($at !== $chosen && NearName::isNear($name, $other)) {
                return true;
            }
        }

        return false;
    }
}
