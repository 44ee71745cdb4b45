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
use Anvil\Measures\Kind\Sights;
use Anvil\Measures\Measures;
use Anvil\Rays\Spread;
use Anvil\Standard\Severity;

/**
 * Share of a page's low area that is not seen only because other parts of the same page stand before it.
 */
final class PageHidden implements Check
{
    public function about(): About
    {
        return new About(
            code: 'page-hidden',
            station: Station::Surface,
            row: 830,
            severity: Severity::Note,
            title: 'Hidden behind another part of its page',
            measured: 'Share of a page\'s low area that is not seen only because other parts of the same page stand before it.',
            limit: 0.02,
            unit: 'share',
            limitWords: '2 % of the page',
            afterBake: 'occlusion baked for what stands before it darkens a place that shows once that is gone',
            remedy: 'give what is painted behind a page of its own',
            measures: [Sights::class],
            beside: [IslandFacts::class, Contents::class],
            symptoms: ['dark patch', 'dark where a part was'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $sights = $measures->ofAsset(Sights::class);
        $pages = [];
        foreach (UvParts::low($measures) as $number => $part) {
            $facts = $measures->ofPart(IslandFacts::class, $part);
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                [$u, $v] = $facts->tile($i);
                $page = UvParts::page($measures->asset->standard, $facts->page[$i], $u, $v);
                $pages[$page] ??= ['all' => 0.0, 'behind' => 0.0, 'where' => []];
                $behind = $facts->area[$i] * ($sights[$number]['behind'][$i] ?? 0.0);
                $pages[$page]['all'] += $facts->area[$i];
                $pages[$page]['behind'] += $behind;
                if ($behind > 0.0) {
                    $pages[$page]['where'][] = $facts->at[$i];
                }
            }
        }
        $findings = [];
        foreach ($pages as $page => ['all' => $all, 'behind' => $behind, 'where' => $where]) {
            $share = $all > 0.0 ? $behind / $all : 0.0;
            if ($share > $limit) {
                $findings[] = new Finding(
                    'page-hidden', Severity::Note, Words::percent($share)." of what is on page $page is hidden by other parts of it, and by nothing else; up to ".Words::percent($limit).' passes', 'give what is painted behind a page of its own, if it is ever seen',
                    ['page' => (string) $page], new Measured($share, $limit, 'share'), where: Spread::of($where, 40),
                );
            }
        }

        return Outcome::of($findings);
    }
}
