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
 * L2 stretch, 1 for an isometry up to scale, of each UV island; of a part the root of the mean of squares, by area.
 */
final class UvStretch implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-stretch',
            station: Station::Surface,
            row: 770,
            severity: Severity::Caution,
            title: 'Stretched UVs',
            measured: 'L2 stretch, 1 for an isometry up to scale, of each UV island; of a part the root of the mean of squares, by area.',
            limit: 1.5,
            unit: 'ratio',
            limitWords: '1.5',
            afterBake: 'detail smeared in one direction, texels of unlike sides',
            remedy: 'unwrap the islands again, with more seams where they bulge',
            source: 'P. Sander, J. Snyder, S. Gortler, H. Hoppe, "Texture Mapping Progressive Meshes", SIGGRAPH 2001; the limit: common practice, no published source',
            measures: [IslandFacts::class],
            beside: [Contents::class],
            many: 'have stretched UVs',
            ofFile: true,
            symptoms: ['smeared detail', 'stretched texels', 'streaks'],
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
            $area = $sum = $worst = 0.0;
            $over = [];
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                if ($facts->stretch[$i] > 0.0) {
                    $area += $facts->area[$i];
                    $sum += $facts->area[$i] * $facts->stretch[$i] ** 2;
                    $worst = max($worst, $facts->stretch[$i]);
                    if ($facts->stretch[$i] > $limit) {
                        $over[] = $facts->at[$i];
                    }
                }
            }
            $stretch = $area > 0.0 ? sqrt($sum / $area) : 1.0;
            if ($stretch > $limit) {
                $findings[] = Finding::onPart('uv-stretch', Severity::Caution, $part, "UVs of {$part->part->name} are stretched by ".number_format($stretch, 2).' on average'.(count($over) > 0 && $n > 1 ? ', at most by '.number_format($worst, 2).' ('.UvParts::many(count($over), 'island').' over the limit)' : '').'; 1 is none, up to '.number_format($limit, 2).' passes', 'unwrap '.(count($over) === 1 ? 'the island' : 'them').' again, with more seams where the surface bulges', new Measured($stretch, $limit, 'ratio'), count($over), Spread::of($over, 40));
            }
        }

        return Outcome::of($findings);
    }
}
