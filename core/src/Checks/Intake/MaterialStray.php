<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Share of the low poly's area that a material is on, above none.
 */
final class MaterialStray implements Check
{
    public function about(): About
    {
        return new About(
            code: 'material-stray',
            station: Station::Intake,
            row: 260,
            severity: Severity::Caution,
            title: 'Material on hardly any faces',
            measured: 'Share of the low poly\'s area that a material is on, above none.',
            limit: 0.005,
            unit: 'share',
            limitWords: '0.5 %',
            afterBake: 'a stray page of textures for a few faces',
            remedy: 'give these faces the material of the rest',
            measures: [Contents::class],
            many: 'have a material on hardly any faces',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $areas = [];
        $total = 0.0;
        foreach ($measures->asset->judged(Role::Low) as $part) {
            $contents = $measures->ofPart(Contents::class, $part);
            $total += $contents->area ?? 0.0;
            foreach ($contents->areas ?? [] as $name => $area) {
                $areas[$name]['area'] = ($areas[$name]['area'] ?? 0.0) + $area;
                $areas[$name]['parts'][spl_object_id($part)] = $area;
                $areas[$name]['part'][spl_object_id($part)] = $part;
            }
        }
        if (count($areas) < 2 || $total <= 0.0) {
            return $areas === [] ? Outcome::notApplicable('the low poly wears no material') : Outcome::of([]);
        }
        $findings = [];
        foreach ($areas as $name => $on) {
            $share = $on['area'] / $total;
            if ($share < $limit) {
                arsort($on['parts']);
                $part = $on['part'][array_key_first($on['parts'])];
                $findings[] = Finding::onPart('material-stray', Severity::Caution, $part, "the material $name is on ".Words::percent($share).' of the low poly only', 'give these faces the material of the rest', new Measured($share, $limit, 'share', true));
            }
        }

        return Outcome::of($findings);
    }
}
