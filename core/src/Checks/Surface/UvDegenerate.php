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
use Anvil\Standard\Severity;

/**
 * Low triangles with area in 3D and none in UV (area under 1e-7 of the square of the longest edge), a part.
 */
final class UvDegenerate implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-degenerate',
            station: Station::Surface,
            row: 730,
            severity: Severity::Caution,
            title: 'Triangles without UV area',
            measured: 'Low triangles with area in 3D and none in UV (area under 1e-7 of the square of the longest edge), a part.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'the triangle shows one texel or one line of texels, pulled over its whole face',
            remedy: 'unwrap these faces again',
            measures: [IslandFacts::class],
            beside: [Contents::class],
            many: 'have triangles without UV area',
            ofFile: true,
            symptoms: ['streaks', 'pulled texels', 'smeared face'],
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
            if ($facts->flat > $limit) {
                $findings[] = Finding::onPart('uv-degenerate', Severity::Caution, $part, UvParts::many($facts->flat, 'triangle')." of {$part->part->name} ".($facts->flat === 1 ? 'has' : 'have').' area on the model and none in UV', 'unwrap '.($facts->flat === 1 ? 'it' : 'them').' again', new Measured($facts->flat, $limit, 'count'), $facts->flat, $facts->flatAt);
            }
        }

        return Outcome::of($findings);
    }
}
