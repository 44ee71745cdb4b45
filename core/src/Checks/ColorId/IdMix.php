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
 * ΔE00 (CIE 142-2001) of a third ID color from the blend of two that touch: their midpoint in sRGB.
 */
final class IdMix implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-mix',
            station: Station::ColorId,
            row: 620,
            severity: Severity::Caution,
            title: 'ID like a blend of two others',
            measured: 'ΔE00 (CIE 142-2001) of a third ID color from the blend of two that touch: their midpoint in sRGB.',
            limit: Limits::of('id-mix'),
            unit: 'dE00',
            limitWords: 'ΔE00 10',
            afterBake: 'a smoothed border between two IDs is picked as a third: a jagged line of it runs along the border',
            remedy: 'move the third color away, or bake the ID map without smoothing',
            measures: [TouchingColors::class],
            beside: [Colors::class],
            symptoms: ['line of another color', 'thin line along a border', 'jagged edges of an ID map'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->ofAsset(Colors::class);
        if (count($ids->colors) < 3) {
            return Outcome::notApplicable($ids->source === 'none' ? 'the asset has no ID colors' : 'there are fewer than three ID colors');
        }
        if (count($ids->colors) > ClosePairs::MOST) {
            return Outcome::notRun(count($ids->colors).' different colors: these are painted or baked in, no flat IDs');
        }
        $all = array_values($ids->colors);
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->ofAsset(TouchingColors::class)->mixes as $mix) {
            [$one, $two, $third] = [$all[$mix['one']], $all[$mix['two']], $all[$mix['third']]];
            $blend = $one->color->midway($two->color)->hex();
            $findings[] = new Finding(
                'id-mix', Severity::Caution,
                "{$third->name()} {$third->color->hex()} is ΔE00 ".number_format($mix['delta'], 1)." from $blend, the blend of {$one->name()} and {$two->name()}, which touch; ΔE00 $limit or more is wanted",
                'move that color away from the blend, or bake the ID map without smoothing',
                ['part' => $one->parts[0]->part->name, 'other' => $two->parts[0]->part->name, 'file' => $one->parts[0]->path],
                new Measured($mix['delta'], $limit, 'dE00', true),
            );
        }

        return Outcome::of($findings);
    }
}
