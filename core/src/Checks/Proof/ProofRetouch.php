<?php

declare(strict_types=1);

namespace Anvil\Checks\Proof;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Clearance\FloaterUnbacked;
use Anvil\Checks\Clearance\LowMargin;
use Anvil\Checks\Clearance\RayChecks;
use Anvil\Checks\Clearance\RayGrazing;
use Anvil\Checks\Clearance\RayMiss;
use Anvil\Checks\Clearance\ReachLong;
use Anvil\Checks\Clearance\SetsBleed;
use Anvil\Checks\Clearance\SpanClosed;
use Anvil\Checks\Clearance\SurfaceGap;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Cage;
use Anvil\Measures\Kind\Pages;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Kind\Retouch;
use Anvil\Measures\Measures;
use Anvil\Proof\RetouchPage;
use Anvil\Standard\Severity;

/**
 * Texels of each page that are left to paint by hand after the bake: those that miss or go wrong at the map size, grown by 2 px.
 */
final class ProofRetouch implements Check
{
    /** Each of these tells of texels that this one counts. */
    private const OTHERS = [RayMiss::class, RayGrazing::class, SpanClosed::class, SetsBleed::class, ReachLong::class, LowMargin::class, FloaterUnbacked::class, SurfaceGap::class];

    public function about(): About
    {
        return new About(
            code: 'proof-retouch',
            station: Station::Proof,
            row: 881,
            severity: Severity::Note,
            title: 'Texels to paint by hand',
            measured: 'Texels inside the islands of a page whose rays meet nothing or go wrong at the map size, through the reach in use or the handed-in cage, grown by 2 px all round, as a share of the texels inside. A caution where no set of the page says ray-miss, span-closed or sets-bleed; there, what an open low misses at its border past its high (low-margin) is left out. Rays that faces turned the wrong way make meaningless are not counted (mesh-flipped).',
            limit: 0.0005,
            unit: 'share',
            limitWords: '0.05 % of the texels inside islands',
            afterBake: 'holes and prints that have to be painted over by hand',
            remedy: 'mend what Sets and Clearance name, or paint the retouch mask after the bake',
            measures: [Retouch::class],
            beside: [Pages::class, Rays::class, Places::class, Cage::class],
            many: 'have texels to paint by hand',
            symptoms: ['hole', 'print', 'paint over', 'retouch'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        if ($measures->asset->sets === []) {
            return Outcome::notApplicable('there are no sets');
        }
        $pages = self::pages($measures);
        if ($pages === []) {
            return Outcome::notApplicable('the low poly has no UVs: uv-missing tells');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $told = self::told($measures);
        $findings = [];
        foreach ($pages as [$page, $sets]) {
            if ($page->share() <= $limit) {
                continue;
            }
            // What nothing else told of, and is seen in use, comes as a surprise.
            $codes = array_keys(array_merge(...array_values(array_intersect_key($told, array_flip($sets)))));
            $isNew = $codes === [] && $page->seenShare > $limit;
            $findings[] = new Finding(
                'proof-retouch', $isNew ? Severity::Caution : Severity::Note,
                "$page->page: ".number_format($page->texels).' texels to paint by hand after the bake at '.$measures->asset->standard->mapSize.' px, '.Words::percent($page->share()).' of those inside its islands; up to '.Words::percent($limit).' passes',
                match (true) {
                    $isNew => 'look at the areas on Proof: move the reach, or split the set where they lie; else paint the retouch mask after the bake',
                    $codes === [] => 'paint the retouch mask after the bake where it matters: these texels are seen by nobody, or lie past the outline of the high poly',
                    default => 'mend what '.implode(' and ', $codes).' '.(count($codes) === 1 ? 'tells' : 'tell').' of the sets of this page; what is left is in the retouch mask',
                },
                ['page' => $page->page], new Measured($page->share(), $limit, 'share'), $page->texels, count($page->areas),
                array_map(static fn (array $area): array => $area['where'], array_slice($page->areas, 0, 40)),
            );
        }

        return RayChecks::outcome($measures, $findings);
    }

    /**
     * The retouch mask of each page, and its sets.
     *
     * @return list<array{RetouchPage, list<string>}>
     */
    public static function pages(Measures $measures): array
    {
        $found = [];
        foreach ($measures->wholeSets() as $set) {
            foreach ($measures->ofSet(Retouch::class, $set) ?? [] as $number => $one) {
                $found[$number][$set->name] = $one;
            }
        }
        $out = [];
        foreach ($measures->ofAsset(Pages::class) as $number => $page) {
            $out[] = [RetouchPage::of($page['name'], $found[$number] ?? [], $page['inside'], $measures->asset->standard->mapSize), $page['sets']];
        }

        return $out;
    }

    /**
     * Sets of which another check tells already.
     *
     * @return array<string, array<string, true>> set → codes
     */
    private static function told(Measures $measures): array
    {
        $out = [];
        foreach (self::OTHERS as $class) {
            foreach ((new $class)->run($measures)->findings as $finding) {
                if (isset($finding->subject['set'])) {
                    $out[$finding->subject['set']][$finding->code] = true;
                }
            }
        }

        foreach ($measures->clearances() as $clearance) {
            // That it stands off its high explains its misses.
            if (RayChecks::offPlace($measures, $clearance->name) !== []) {
                $out[$clearance->name]['off-alignment'] = true;
            }
        }

        return $out;
    }
}
