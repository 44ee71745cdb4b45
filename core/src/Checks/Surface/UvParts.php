<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\Outcome;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Proof\ProofPage;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * What the checks on UVs have in common.
 */
final class UvParts
{
    /** Why nothing can be said of UVs; null where there are some. */
    public static function none(Measures $measures): ?Outcome
    {
        $lows = $measures->asset->judged(Role::Low);
        if ($lows === []) {
            return Outcome::notApplicable('there is no low poly');
        }
        foreach ($lows as $part) {
            if ($measures->ofPart(Contents::class, $part)->hasUvs) {
                return null;
            }
        }

        return Outcome::notApplicable('the low poly has no UVs: uv-missing tells');
    }

    /**
     * @return list<RoledPart>
     */
    public static function low(Measures $measures): array
    {
        return $measures->asset->judged(Role::Low);
    }

    /** `steel`, or `steel 1002` where each tile is a page of its own. */
    public static function page(Standard $standard, string $material, int $u, int $v): string
    {
        return ProofPage::nameOf($standard, $material, $u, $v);
    }

    /** Px to a unit of length that densities are held against: the standard's, else the usual one; 0 where there is none. */
    public static function reference(Measures $measures): float
    {
        return $measures->asset->standard->texelDensity ?? self::usual($measures);
    }

    /** The median density of all islands, by their area; 0 where none has any. */
    public static function usual(Measures $measures): float
    {
        $all = [];
        $sum = 0.0;
        foreach (self::low($measures) as $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                $density = $facts->density($i, $measures->asset->standard->mapSize);
                if ($density > 0.0) {
                    $all[] = [$density, $facts->area[$i]];
                    $sum += $facts->area[$i];
                }
            }
        }
        usort($all, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $below = 0.0;
        foreach ($all as [$density, $area]) {
            $below += $area;
            if ($below >= $sum / 2) {
                return $density;
            }
        }

        return 0.0;
    }

    /** `1 island`, `3 islands`. */
    public static function many(int $count, string $what): string
    {
        return $count === 1 ? "1 $what" : number_format($count)." {$what}s";
    }
}
