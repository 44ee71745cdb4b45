<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Measures;
use Anvil\Rays\Spread;
use Anvil\Standard\Severity;

/**
 * Degrees by which a UV island is turned from upright, where over half of its surface is steep enough to have an up and agrees on it; the worst of a part.
 */
final class UvTurned implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-turned',
            station: Station::Surface,
            row: 810,
            severity: Severity::Note,
            title: 'Turned UV islands',
            measured: 'Degrees by which a UV island is turned from upright, where over half of its surface is steep enough to have an up and agrees on it; the worst of a part. Only where the standard asks for it ("upright": true): every packer turns islands.',
            limit: 10.0,
            unit: 'deg',
            limitWords: '10°',
            afterBake: 'none on a bake; grain, drips and text painted over the page run aslant',
            remedy: 'turn the islands upright, where textures are painted or tiled over them',
            measures: [IslandFacts::class],
            beside: [Contents::class],
            many: 'have turned UV islands',
            ofFile: true,
            symptoms: ['slanted grain', 'text upside down'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        if (! $measures->asset->standard->upright) {
            return Outcome::notApplicable('the standard does not ask for upright islands');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach (UvParts::low($measures) as $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            $turned = array_filter($facts->turned, static fn (?float $one): bool => $one !== null && abs($one) > $limit);
            if ($turned !== []) {
                $worst = max(array_map(static fn (?float $one): float => abs($one ?? 0.0), $turned));
                $findings[] = Finding::onPart('uv-turned', Severity::Note, $part, UvParts::many(count($turned), 'UV island')." of {$part->part->name} ".(count($turned) === 1 ? 'is' : 'are').' turned from upright, '.(count($turned) === 1 ? '' : 'at most ').'by '.Words::degrees($worst), 'turn '.(count($turned) === 1 ? 'it' : 'them').' upright, if textures are painted or tiled over the page', new Measured($worst, $limit, 'deg'), count($turned), Spread::of(array_map(static fn (int $i): array => $facts->at[$i], array_keys($turned)), 40));
            }
        }

        return Outcome::of($findings);
    }
}
