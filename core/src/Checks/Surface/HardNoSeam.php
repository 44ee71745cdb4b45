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
 * Hard edges (corner normals over 1° apart at either end, or no smoothing group in common) that are no UV seam, a part.
 */
final class HardNoSeam implements Check
{
    public function about(): About
    {
        return new About(
            code: 'hard-no-seam',
            station: Station::Surface,
            row: 840,
            severity: Severity::Blocker,
            title: 'Hard edge inside a UV island',
            measured: 'Hard edges (corner normals over 1° apart at either end, or no smoothing group in common) that are no UV seam, a part.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'a line at the edge: the normal map has to jump between two texels that lie side by side',
            remedy: 'split the UVs along the edge, or make it smooth',
            measures: [EdgeKinds::class],
            beside: [Contents::class],
            many: 'have hard edges inside UV islands',
            ofFile: true,
            symptoms: ['line at an edge', 'line at a seam', 'visible edge', 'dark edge'],
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
            if ($edges->inside > $limit) {
                $findings[] = Finding::onPart('hard-no-seam', Severity::Blocker, $part, UvParts::many($edges->inside, 'hard edge')." of {$part->part->name}, ".Words::length($edges->insideLength, $measures->asset).' in all, '.($edges->inside === 1 ? 'lies' : 'lie').' inside a UV island', 'split the UVs along '.($edges->inside === 1 ? 'it' : 'them').', or make '.($edges->inside === 1 ? 'it' : 'them').' smooth', new Measured($edges->inside, $limit, 'count'), $edges->inside, $edges->insideAt);
            }
        }

        return $known ? Outcome::of($findings) : Outcome::notApplicable('the file does not say which edges are hard: normals-missing tells');
    }
}
