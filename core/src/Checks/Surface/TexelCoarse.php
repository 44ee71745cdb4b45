<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Clearance\RayChecks;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\FineDetails;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Rays\Estimate;
use Anvil\Standard\Severity;

/**
 * Share of a set's seen low area where the high poly's normals turn over 30° and back within 2 px at the map size; and the map size at which that share falls under the limit.
 */
final class TexelCoarse implements Check
{
    public function about(): About
    {
        return new About(
            code: 'texel-coarse',
            station: Station::Surface,
            row: 790,
            severity: Severity::Caution,
            title: 'Details finer than the texels',
            measured: 'Share of a set\'s seen low area where the high poly\'s normals turn over 30° and back within 2 px at the map size; and the map size at which that share falls under the limit.',
            limit: 0.02,
            unit: 'share',
            limitWords: '2 %',
            afterBake: 'jagged or pixelated edges: a detail narrower than two texels comes out as a row of steps, or not at all',
            remedy: 'bake a larger map, give the part more of the page, or make the detail wider',
            measures: [FineDetails::class],
            beside: [Rays::class],
            many: 'have details finer than their texels',
            symptoms: ['jagged edges', 'pixelated edges', 'steps along an edge', 'lost detail'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $size = $measures->asset->standard->mapSize;
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->clearances() as $clearance) {
            $set = $measures->set($clearance->name);
            $fine = $set === null ? null : $measures->ofSet(FineDetails::class, $set);
            $share = $fine['shares'][$size] ?? 0.0;
            if ($set === null || $fine === null || ! Estimate::of($share, $fine['samples'])->isOver($limit)) {
                continue;
            }
            $passing = null;
            foreach ($fine['shares'] as $one => $of) {
                $passing ??= $one > $size && $of <= $limit ? $one : null;
            }
            $findings[] = new Finding(
                'texel-coarse', Severity::Caution, "the high poly of {$set->low[0]->part->name} has details narrower than 2 px at $size px on ".Words::share(Estimate::of($share, $fine['samples']), $limit).' of it; up to '.Words::percent($limit).' passes',
                $passing !== null ? "bake at $passing px, give the part more of the page, or make the details wider" : 'give the part more of the page, or make the details wider: not even 8192 px holds them',
                ['part' => $set->low[0]->part->name, 'file' => $set->low[0]->path], new Measured($share, $limit, 'share'), (int) round($share * $fine['texels']), where: $fine['where'],
            );
        }

        return RayChecks::outcome($measures, $findings);
    }
}
