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
use Anvil\Measures\Kind\PageLayout;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * UV area of a page that is covered more than once: over all pairs of triangles the area of their intersection, a tile at a time, as a share of the page. Islands moved by whole pages, or declared mirrored, are exempt.
 */
final class UvOverlap implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-overlap',
            station: Station::Surface,
            row: 720,
            severity: Severity::Blocker,
            title: 'UV area covered more than once',
            measured: 'UV area of a page that is covered more than once: over all pairs of triangles the area of their intersection, a tile at a time, as a share of the page. Islands moved by whole pages, or declared mirrored, are exempt.',
            limit: 0.0002,
            unit: 'share',
            limitWords: '0.02 % of the page',
            afterBake: 'two places of the model share texels: each shows the detail of the other, smeared or doubled',
            remedy: 'move the islands apart; where they are meant to share texels, move one by a whole page or declare it mirrored',
            measures: [PageLayout::class],
            beside: [Contents::class],
            many: 'lie on other UV islands',
            symptoms: ['doubled detail', 'smeared detail', 'detail of another part', 'overlapping islands'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $parts = UvParts::low($measures);
        $findings = [];
        $unknown = null;
        foreach ($measures->ofAsset(PageLayout::class)->tiles as $tile) {
            $page = UvParts::page($measures->asset->standard, $tile['page'], $tile['u'], $tile['v']);
            if (! $tile['overlapWhole']) {
                $unknown ??= "so many UV triangles lie on each other on page $page that not all pairs were looked at";
            }
            if ($tile['overlap'] <= $limit) {
                continue;
            }
            // Each pair by itself; those too small for that together, on the largest of them.
            $rest = array_filter($tile['pairs'], static fn (array $pair): bool => $pair['area'] <= $limit);
            // Those beyond the pairs that are kept count as well.
            $small = $tile['overlap'] - (array_sum(array_column($tile['pairs'], 'area')) - array_sum(array_column($rest, 'area')));
            foreach ($tile['pairs'] as $pair) {
                $isRest = $pair['area'] <= $limit;
                if ($isRest && ($small <= $limit || $pair !== reset($rest))) {
                    continue;
                }
                $area = $isRest ? $small : $pair['area'];
                [$one, $two] = [$parts[$pair['one']], $parts[$pair['two']]];
                $isOwn = $one === $two;
                $words = $isOwn ? "UV islands of {$one->part->name} lie on each other" : "{$one->part->name} and {$two->part->name} lie on each other in UV";
                $more = count($rest) > 1 && $isRest ? ', with '.UvParts::many(count($rest) - 1, 'smaller pair').' like it' : '';
                $findings[] = new Finding(
                    'uv-overlap', Severity::Blocker, "$words on ".Words::percent($area)." of page $page, in ".UvParts::many($pair['count'], 'pair')." of triangles$more; up to ".Words::percent($limit).' passes',
                    $isOwn ? 'move its islands apart, or one of them by a whole page if they are meant to share texels' : 'move them apart, or one of them by a whole page if they are meant to share texels',
                    ['part' => $one->part->name, ...($isOwn ? [] : ['other' => $two->part->name]), 'file' => $one->path, 'page' => $page],
                    new Measured($area, $limit, 'share'), (int) round($area * $measures->asset->standard->mapSize ** 2), $pair['count'], $pair['where'],
                );
            }
        }

        return Outcome::of($findings, $unknown);
    }
}
