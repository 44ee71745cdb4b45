<?php

declare(strict_types=1);

namespace Anvil\Checks\ColorId;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\ColorId\ClosePairs;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Kind\TouchingColors;
use Anvil\Measures\Measures;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Distance of two different ID colors: ΔE00 (CIE 142-2001) and Euclid in 8-bit sRGB. Under ΔE00 5 or RGB 32 blocks;
 * under 20, or under 30 where the two touch, is a caution.
 */
final class IdClose implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-close',
            station: Station::ColorId,
            row: 610,
            severity: Severity::Blocker,
            title: 'Two IDs too close',
            measured: 'Distance of two different ID colors: ΔE00 (CIE 142-2001) and Euclid in 8-bit sRGB. Under ΔE00 5 or RGB 32 blocks; under 20, or under 30 where the two touch, is a caution.',
            limit: Limits::of('id-close'),
            unit: 'dE00',
            limitWords: 'ΔE00 5 or RGB 32 (caution ΔE00 20; 30 where they touch)',
            afterBake: 'two materials are picked as one',
            remedy: 'move one color',
            source: 'CIE 142-2001 for the distance; the limits are common practice, no published source',
            measures: [TouchingColors::class],
            beside: [Colors::class],
            symptoms: ['color picked twice', 'jagged edges of an ID map'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->ofAsset(Colors::class);
        if (count($ids->colors) < 2) {
            return Outcome::notApplicable($ids->source === 'none' ? 'the asset has no ID colors' : 'there is one ID color');
        }
        if (count($ids->colors) > ClosePairs::MOST) {
            return Outcome::notRun(count($ids->colors).' different colors: these are painted or baked in, no flat IDs');
        }
        $all = array_values($ids->colors);
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $near = $measures->ofAsset(TouchingColors::class);
        foreach ($near->pairs as $pair) {
            [$one, $two, $delta, $rgb, $touch] = [$all[$pair['one']], $all[$pair['two']], $pair['delta'], $pair['rgb'], $pair['touch']];
            $blocks = $delta < $limit || $rgb < ClosePairs::RGB;
            $passing = $near->passing[$pair['two']] ?? null;
            $findings[] = new Finding(
                'id-close', $blocks ? Severity::Blocker : Severity::Caution,
                "{$one->name()} {$one->color->hex()} and {$two->name()} {$two->color->hex()}".($touch ? ', which touch,' : '').' are ΔE00 '.number_format($delta, 1).' apart, RGB '.number_format($rgb, 0).' of 441'.($passing === null ? '' : "; the nearest color that passes for {$two->name()} is $passing[0], ".number_format($passing[1], 1).' from all others'),
                'move one of them: ΔE00 20 or more, 30 where they touch',
                ['part' => $one->parts[0]->part->name, 'other' => $two->parts[0]->part->name, 'file' => $one->parts[0]->path],
                new Measured($delta, $delta < $limit ? $limit : ($touch ? 30.0 : 20.0), 'dE00', true),
            );
        }

        return Outcome::of($findings);
    }
}
