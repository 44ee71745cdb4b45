<?php

declare(strict_types=1);

namespace Anvil\Checks\Clearance;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Clearance\SetClearance;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Rays\Estimate;
use Anvil\Rays\Spread;
use Anvil\Standard\Severity;

/**
 * Share of a set's low area around a shell of the high poly that hovers over nothing, from which rays meet nothing.
 */
final class FloaterUnbacked implements Check
{
    public function about(): About
    {
        return new About(
            code: 'floater-unbacked',
            station: Station::Clearance,
            row: 430,
            severity: Severity::Blocker,
            title: 'Floating detail over nothing',
            measured: 'Share of a set\'s low area around a shell of the high poly that hovers over nothing, from which rays meet nothing.',
            limit: 0.005,
            unit: 'share',
            limitWords: '0.5 % (caution above 0.05 %)',
            afterBake: 'a hole or a smear around the floating detail',
            remedy: 'put a surface under the floating detail',
            source: 'common practice, no published source: there must be a surface under floating detail',
            caution: 0.0005,
            measures: [Rays::class],
            many: 'have floating detail over nothing',
            symptoms: ['hole', 'smear'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $caution = $this->about()->cautionBy($measures->asset->standard);
        $sets = RayChecks::setsByName($measures);
        foreach ($measures->clearances() as $clearance) {
            foreach (self::byPart($clearance) as $number => [$share, $count, $where]) {
                $part = $sets[$clearance->name]->target()[$number] ?? null;
                $estimate = Estimate::of($share, $clearance->details->tellingMisses);
                if ($part === null || ! $estimate->isOver($caution)) {
                    continue;
                }
                $blocks = $estimate->isOver($limit);
                $findings[] = Finding::inSet(
                    'floater-unbacked', $blocks ? Severity::Blocker : Severity::Caution, $clearance->name, $part,
                    ($count === 1 ? 'a floating shell' : number_format($count).' floating shells')." of {$part->part->name} ".($count === 1 ? 'hovers' : 'hover').' over nothing: around '.($count === 1 ? 'it' : 'them').' rays meet nothing on '.Words::share($estimate, $caution, $limit)." of the low area of $clearance->name",
                    'put a surface of the high poly under it', new Measured($share, $blocks ? $limit : $caution, 'share'),
                    texels: Words::texels($clearance, $share), where: $where,
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }

    /**
     * Misses around floating shells over nothing, by high part.
     *
     * @return array<int, array{float, int, list<array{float, float, float}>}> share of seen low area, shells, places
     */
    private static function byPart(SetClearance $clearance): array
    {
        $out = [];
        foreach ($clearance->details->floaters as $floater) {
            if (! $floater->isBacked && $floater->missShare > 0.0) {
                $out[$floater->part] ??= [0.0, 0, []];
                $out[$floater->part][0] += $floater->missShare;
                $out[$floater->part][1]++;
                array_push($out[$floater->part][2], ...$floater->missWhere);
            }
        }

        return array_map(static fn (array $one): array => [$one[0], $one[1], Spread::of($one[2], 40)], $out);
    }

    /** Share of a set's visible low area whose misses this check reports, so that `ray-miss` does not. */
    public static function reportedShare(Measures $measures, SetClearance $clearance): float
    {
        $caution = (new self)->about()->cautionBy($measures->asset->standard);
        $sum = 0.0;
        foreach ($measures->asset->standard->isOff('floater-unbacked') ? [] : self::byPart($clearance) as [$share]) {
            $sum += Estimate::of($share, $clearance->details->tellingMisses)->isOver($caution) ? $share : 0.0;
        }

        return $sum;
    }
}
