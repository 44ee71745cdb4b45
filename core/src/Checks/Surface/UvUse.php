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
 * Share of a page that UV islands cover, of its fullest tile.
 */
final class UvUse implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-use',
            station: Station::Surface,
            row: 800,
            severity: Severity::Note,
            title: 'Little of the page used',
            measured: 'Share of a page that UV islands cover, of its fullest tile.',
            limit: 0.55,
            unit: 'share',
            limitWords: '55 %',
            afterBake: 'a less sharp map than its size would allow',
            remedy: 'pack the islands closer, or take a smaller map',
            measures: [PageLayout::class],
            beside: [Contents::class],
            symptoms: ['blurry map', 'wasted texels'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $layout = $measures->ofAsset(PageLayout::class);
        $use = $unknown = [];
        foreach ($layout->tiles as $tile) {
            $page = UvParts::page($measures->asset->standard, $tile['page'], $tile['u'], $tile['v']);
            $use[$page] = max($use[$page] ?? 0.0, $tile['covered']);
            if (! $tile['overlapWhole']) {
                // Not all of it was looked at: what is covered is not known.
                $unknown[$page] = true;
            }
        }
        $findings = [];
        foreach ($use as $page => $share) {
            if ($share < $limit && ! isset($unknown[$page])) {
                $findings[] = new Finding(
                    'uv-use', Severity::Note, 'UV islands cover '.Words::percent($share)." of page $page; ".Words::percent($limit).' or more is usual', 'scale the islands up by up to '.number_format(sqrt($limit / max(1e-9, $share)), 2).' and pack them closer',
                    ['page' => (string) $page], new Measured($share, $limit, 'share', true),
                );
            }
        }

        return Outcome::of($findings);
    }
}
