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
 * Least exact distance between the borders of two UV islands that do not overlap, or between arms of one island (further apart along its border than 8 times the gap), in px at the map size; under 2 px it blocks.
 */
final class UvPadding implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-padding',
            station: Station::Surface,
            row: 750,
            severity: Severity::Caution,
            title: 'UV islands too near to each other',
            measured: 'Least exact distance between the borders of two UV islands that do not overlap, or between arms of one island (further apart along its border than 8 times the gap), in px at the map size; under 2 px between two islands it blocks.',
            limit: null,
            unit: 'px',
            limitWords: 'map size / 256; blocks under 2 px between two islands',
            afterBake: 'bleeding colors: texels of one island run into the next along its border, and more so on smaller copies of the map',
            remedy: 'move the islands further apart',
            measures: [PageLayout::class],
            beside: [Contents::class],
            many: 'lie too near to other UV islands',
            symptoms: ['bleeding colors', 'line at a seam', 'colored seam', 'dark seam at a distance'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $none = UvParts::none($measures);
        if ($none !== null) {
            return $none;
        }
        $standard = $measures->asset->standard;
        $limit = $standard->padding();
        $blocks = min(self::BLOCKS, $limit);
        $parts = UvParts::low($measures);
        $findings = [];
        $unknown = null;
        foreach ($measures->ofAsset(PageLayout::class)->tiles as $tile) {
            $page = UvParts::page($standard, $tile['page'], $tile['u'], $tile['v']);
            if (! $tile['gapsWhole']) {
                $unknown ??= "so many UV islands lie in one place on page $page that not all gaps were looked at";
            }
            $told = [];
            foreach ($tile['gaps'] as $gap) {
                $pixels = $gap['gap'] * $standard->mapSize;
                if ($pixels >= $limit * (1 - 1e-6)) {
                    break;
                }
                [$one, $two] = [$parts[$gap['one'][0]], $parts[$gap['two'][0]]];
                // The nearest two islands of each pair of parts speak for it.
                $key = $gap['one'][0].' '.$gap['two'][0].($gap['one'] === $gap['two'] ? ' arms' : '');
                $told[$key] ??= ['one' => $one, 'two' => $two, 'pixels' => $pixels, 'arms' => $gap['one'] === $gap['two'], 'count' => 0, 'where' => []];
                $told[$key]['count']++;
                if (count($told[$key]['where']) < 200) {
                    array_push($told[$key]['where'], ...$gap['where']);
                }
            }
            foreach (array_slice($told, 0, 300) as ['one' => $one, 'two' => $two, 'pixels' => $pixels, 'arms' => $arms, 'count' => $count, 'where' => $where]) {
                // Arms of one island are of one surface: what runs from one into the other is its own.
                $isBlocker = $pixels < $blocks && ! $arms;
                $halvings = $pixels < 1.0 ? 'it does not outlast the map itself' : ($pixels < 2.0 ? 'it is gone when the map is halved once' : 'it lasts '.UvParts::many((int) floor(log($pixels, 2)), 'halving').' of the map');
                $words = match (true) {
                    $arms => "two arms of a UV island of {$one->part->name}",
                    $one === $two => "two UV islands of {$one->part->name}",
                    default => "UV islands of {$one->part->name} and {$two->part->name}",
                };
                $findings[] = new Finding(
                    'uv-padding', $isBlocker ? Severity::Blocker : Severity::Caution,
                    "$words are ".Words::pixels($pixels)." apart on page $page".($count > 1 ? " (the nearest of $count pairs)" : '').", and $halvings; ".Words::pixels($limit).' or more are wanted'.($isBlocker ? ', and under '.Words::pixels($blocks).' blocks' : ''),
                    'move them apart to '.Words::pixels($limit).' or more',
                    ['part' => $one->part->name, ...($one === $two ? [] : ['other' => $two->part->name]), 'file' => $one->path, 'page' => $page],
                    new Measured($pixels, $isBlocker ? $blocks : $limit, 'px', true), count: $count, where: $where,
                );
            }
        }

        return Outcome::of($findings, $unknown);
    }

    /** Nearer than this in px, islands run into each other on the map itself. */
    private const BLOCKS = 2.0;
}
