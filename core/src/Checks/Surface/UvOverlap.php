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
use Anvil\Rays\Spread;
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
        $overlap = $pairs = [];
        foreach ($measures->ofAsset(PageLayout::class)->tiles as $tile) {
            $page = UvParts::page($measures->asset->standard, $tile['page'], $tile['u'], $tile['v']);
            if (! $tile['overlapWhole']) {
                $unknown ??= "so many UV triangles lie on each other on page $page that not all pairs were looked at";
            }
            $overlap[$page] = ($overlap[$page] ?? 0.0) + $tile['overlap'];
            // What two parts share on all tiles of a page is one.
            foreach ($tile['pairs'] as $pair) {
                $key = "{$pair['one']} {$pair['two']}";
                $known = $pairs[$page][$key] ?? ['one' => $pair['one'], 'two' => $pair['two'], 'area' => 0.0, 'count' => 0, 'where' => []];
                $pairs[$page][$key] = [...$known, 'area' => $known['area'] + $pair['area'], 'count' => $known['count'] + $pair['count'], 'where' => Spread::of([...$known['where'], ...$pair['where']], 40)];
            }
        }
        foreach ($pairs as $page => $ofPage) {
            if ($overlap[$page] <= $limit * (1 + 1e-6)) {
                continue;
            }
            usort($ofPage, static fn (array $a, array $b): int => [$b['area'], $a['one'], $a['two']] <=> [$a['area'], $b['one'], $b['two']]);
            // Each pair by itself; those too small for that together, on the largest of them.
            $rest = array_filter($ofPage, static fn (array $pair): bool => $pair['area'] <= $limit);
            // Those beyond the pairs that are kept count as well.
            $small = $overlap[$page] - (array_sum(array_column($ofPage, 'area')) - array_sum(array_column($rest, 'area')));
            foreach ($ofPage as $pair) {
                $isRest = $pair['area'] <= $limit;
                if ($isRest && ($small <= $limit || $pair !== reset($rest))) {
                    continue;
                }
                $area = $isRest ? $small : $pair['area'];
                [$one, $two] = [$parts[$pair['one']], $parts[$pair['two']]];
                $isOwn = $one === $two;
                $words = $isOwn ? "UV islands of {$one->part->name} lie on each other" : "{$one->part->name} and {$two->part->name} lie on each other in UV";
                $more = count($rest) > 1 && $isRest ? ', with '.UvParts::many(count($rest) - 1, 'smaller pair').' like it' : '';
                $isCopy = ! $isOwn && ! $isRest && $pair['count'] >= $one->part->triangleCount() && $one->part->triangleCount() === $two->part->triangleCount();
                $findings[] = new Finding(
                    'uv-overlap', Severity::Blocker, "$words on ".Words::percent($area)." of page $page, in ".UvParts::many($pair['count'], 'pair')." of triangles$more; up to ".Words::percent($limit).' passes',
                    match (true) {
                        $isOwn => 'move its islands apart, or one of them by a whole page if they are meant to share texels',
                        $isCopy => 'if these copies of one shape are meant to share texels, declare them shared ("mirrored" in the choices), or move all but one by a whole page; else move them apart',
                        default => 'move them apart, or one of them by a whole page if they are meant to share texels',
                    },
                    ['part' => $one->part->name, ...($isOwn ? [] : ['other' => $two->part->name]), 'file' => $one->path, 'page' => (string) $page],
                    new Measured($area, $limit, 'share'), (int) round($area * $measures->asset->standard->mapSize ** 2), $pair['count'], $pair['where'],
                );
            }
        }

        return Outcome::of($findings, $unknown);
    }
}
