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
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Rays\Estimate;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Share of an open low part that reaches past the outline of its high poly: texels that stay empty.
 */
final class LowMargin implements Check
{
    public function about(): About
    {
        return new About(
            code: 'low-margin',
            station: Station::Clearance,
            row: 420,
            severity: Severity::Caution,
            title: 'Low poly reaches past its high',
            measured: 'Misses of an open low part that are joined over its faces to its border, as a share of the part. A note for cards: parts named so in the choices, or whose material is masked or blended.',
            limit: Limits::of('low-margin'),
            unit: 'share',
            limitWords: '1 % of the part',
            afterBake: 'a border of empty or smeared texels around the outline',
            remedy: 'cut the low poly back to the outline of its high, or say that the part is a card whose rest is masked out',
            measures: [Rays::class],
            beside: [Places::class],
            many: 'reach past their high poly',
            symptoms: ['border', 'dark edge', 'flaring', 'empty texels'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $findings = [];
        $limit = $this->about()->limitBy($measures->asset->standard);
        $sets = RayChecks::setsByName($measures);
        foreach ($measures->clearances() as $clearance) {
            $off = RayChecks::offPlace($measures, $clearance->name);
            $lows = count($sets[$clearance->name]->low ?? []);
            foreach ($clearance->details->margins as $margin) {
                $part = $sets[$clearance->name]->low[$margin['part']] ?? null;
                if ($part === null || isset($off[$margin['part']]) || ! Estimate::of($margin['share'], $clearance->details->tellingMisses / max(1, $lows))->isOver($limit)) {
                    continue;
                }
                $isCard = $measures->asset->isCard($part);
                $findings[] = Finding::inSet(
                    'low-margin', $isCard ? Severity::Note : Severity::Caution, $clearance->name, $part,
                    "{$part->part->name} reaches past the outline of its high poly on ".Words::percent($margin['share']).' of it: '.($isCard ? 'masked out, as cards are' : 'these texels stay empty'),
                    $isCard ? 'nothing, where the mask hides it' : 'cut it back to the outline of the high poly, or name it under "cards" in the choices if its rest is masked out',
                    new Measured($margin['share'], $limit, 'share'), $margin['where'], Words::texels($clearance, $margin['share'] / max(1, $lows)),
                );
            }
        }

        return RayChecks::outcome($measures, $findings);
    }
}
