<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Measures;
use Anvil\Rays\Spread;
use Anvil\Standard\Severity;

/**
 * UV islands wound clockwise, as their signed area says, a part.
 */
final class UvMirrored implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-mirrored',
            station: Station::Surface,
            row: 740,
            severity: Severity::Note,
            title: 'Mirrored UV islands',
            measured: 'UV islands wound clockwise, as their signed area says, a part.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'none where the tangents are mirrored with them; in a program that does not, light comes from the wrong side',
            remedy: 'flip the islands, unless they share their texels on purpose',
            measures: [IslandFacts::class],
            beside: [Contents::class],
            many: 'have mirrored UV islands',
            ofFile: true,
            symptoms: ['light from the wrong side', 'inverted relief', 'mirrored text'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach (UvParts::low($measures) as $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            $mirrored = array_keys($facts->mirrored, true, true);
            if (count($mirrored) > $limit) {
                $findings[] = Finding::onPart('uv-mirrored', Severity::Note, $part, UvParts::many(count($mirrored), 'UV island')." of {$part->part->name} ".(count($mirrored) === 1 ? 'is' : 'are').' mirrored', 'flip '.(count($mirrored) === 1 ? 'it' : 'them').', unless texels are shared on purpose', new Measured(count($mirrored), $limit, 'count'), count($mirrored), Spread::of(array_map(static fn (int $i): array => $facts->at[$i], $mirrored), 40));
            }
        }

        return Outcome::of($findings);
    }
}
