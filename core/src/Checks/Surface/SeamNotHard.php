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
use Anvil\Measures\Kind\EdgeKinds;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * UV seams between faces that turn by over 60°, left smooth on a part that has hard edges elsewhere.
 */
final class SeamNotHard implements Check
{
    public function about(): About
    {
        return new About(
            code: 'seam-not-hard',
            station: Station::Surface,
            row: 850,
            severity: Severity::Note,
            title: 'Sharp seam left smooth',
            measured: 'UV seams between faces that turn by over 60°, left smooth on a part that has hard edges elsewhere.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'strong gradients in the normal map beside the seam, and banding on a compressed one',
            remedy: 'make these seams hard',
            measures: [EdgeKinds::class],
            beside: [Contents::class],
            many: 'have sharp seams left smooth',
            ofFile: true,
            symptoms: ['gradients', 'banding', 'dimples'],
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
        $known = false;
        foreach (UvParts::low($measures) as $part) {
            $edges = $measures->ofPart(EdgeKinds::class, $part);
            $known = $known || $edges->isKnown;
            // Where all edges are smooth that is a way of working.
            if ($edges->hard > 0 && $edges->softSeams > $limit) {
                $findings[] = Finding::onPart('seam-not-hard', Severity::Note, $part, UvParts::many($edges->softSeams, 'UV seam')." of {$part->part->name} ".($edges->softSeams === 1 ? 'turns' : 'turn').' by up to '.Words::degrees($edges->softTurn).' and '.($edges->softSeams === 1 ? 'is' : 'are').' smooth, while other edges of it are hard', 'make '.($edges->softSeams === 1 ? 'it' : 'them').' hard', new Measured($edges->softSeams, $limit, 'count'), $edges->softSeams, $edges->softAt);
            }
        }

        return $known ? Outcome::of($findings) : Outcome::notApplicable('the file does not say which edges are hard: normals-missing tells');
    }
}
