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
use Anvil\Standard\Severity;

/**
 * Least gap between a UV island and the edge of its tile, in px at the map size, a part.
 */
final class UvBorder implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-border',
            station: Station::Surface,
            row: 760,
            severity: Severity::Caution,
            title: 'UV island too near to the edge of the page',
            measured: 'Least gap between a UV island and the edge of its tile, in px at the map size, a part.',
            limit: null,
            unit: 'px',
            limitWords: 'half the padding',
            afterBake: 'where the texture repeats, the far side of the page bleeds in along the edge of the island',
            remedy: 'move the island away from the edge of the page',
            measures: [IslandFacts::class],
            beside: [Contents::class],
            many: 'have UV islands too near to the edge of the page',
            ofFile: true,
            symptoms: ['bleeding colors', 'line at a seam'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $standard = $measures->asset->standard;
        $limit = $standard->limit('uv-border', $standard->padding() / 2);
        $outside = $standard->limit('uv-outside', 1e-6);
        $findings = [];
        foreach (UvParts::low($measures) as $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            $least = INF;
            $count = 0;
            $where = [];
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                $over = $facts->over($i);
                $pixels = max(0.0, -$over * $standard->mapSize);
                // One that goes over the edge is told by uv-outside.
                if ($over <= $outside && $pixels < $limit) {
                    $count++;
                    $least = min($least, $pixels);
                    if (count($where) < 40) {
                        $where[] = $facts->at[$i];
                    }
                }
            }
            if ($count > 0) {
                $findings[] = Finding::onPart('uv-border', Severity::Caution, $part, UvParts::many($count, 'UV island')." of {$part->part->name} ".($count === 1 ? 'comes' : 'come').' within '.Words::pixels($least).' of the edge of the page; '.Words::pixels($limit).' or more are wanted', 'move islands in to '.Words::pixels($limit).' or more from the edge', new Measured($least, $limit, 'px', true), $count, $where);
            }
        }

        return Outcome::of($findings);
    }
}
