<?php

declare(strict_types=1);

namespace Anvil\Checks\ColorId;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measure;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\ColorId\IdColor;
use Anvil\ColorId\Touching;
use Anvil\Geometry\DeltaE00;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Distance of two different ID colours: ΔE00 (CIE 142-2001) and Euclid in 8-bit sRGB. Under ΔE00 5 or RGB 32 blocks;
 * under 20, or under 30 where the two touch, is a caution.
 */
final class IdClose implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-close',
            station: Station::ColorId,
            severity: Severity::Blocker,
            title: 'Two IDs too close',
            measured: 'Distance of two different ID colours: ΔE00 (CIE 142-2001) and Euclid in 8-bit sRGB. Under ΔE00 5 or RGB 32 blocks; under 20, or under 30 where the two touch, is a caution.',
            limit: 5.0,
            limitWords: 'ΔE00 5 or RGB 32 (caution ΔE00 20; 30 where they touch)',
            afterBake: 'two materials are picked as one',
            remedy: 'move one colour',
            source: 'CIE 142-2001 for the distance; the limits are common practice, no published source',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->idColors();
        if (count($ids->colors) < 2) {
            return Outcome::notApplicable($ids->source === 'none' ? 'the asset has no ID colours' : 'there is one ID colour');
        }
        if (count($ids->colors) > 1000) {
            return Outcome::notRun(count($ids->colors).' different colours: these are painted or baked in, no flat IDs');
        }
        $all = array_values($ids->colors);
        $labs = array_map(static fn (IdColor $id): array => $id->color->lab(), $all);
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($all as $i => $one) {
            for ($j = $i + 1, $n = count($all); $j < $n; $j++) {
                $two = $all[$j];
                $delta = DeltaE00::of($labs[$i], $labs[$j]);
                if ($delta >= max(30.0, $limit)) {
                    continue;
                }
                $rgb = $one->color->rgbDistance($two->color);
                $blocks = $delta < $limit || $rgb < 32.0;
                $touch = ! $blocks && $delta >= 20.0 && Touching::of($one, $two, 1e-3 * $measures->asset->diagonal());
                if (! $blocks && $delta >= 20.0 && ! $touch) {
                    continue;
                }
                $findings[] = new Finding(
                    'id-close', $blocks ? Severity::Blocker : Severity::Caution,
                    "{$one->name()} {$one->color->hex()} and {$two->name()} {$two->color->hex()}".($touch ? ', which touch,' : '').' are ΔE00 '.number_format($delta, 1).' apart, RGB '.number_format($rgb, 0).' of 441',
                    'move one of them: ΔE00 20 or more, 30 where they touch',
                    ['part' => $one->parts[0]->part->name, 'other' => $two->parts[0]->part->name, 'file' => $one->parts[0]->path],
                    new Measure($delta, $delta < $limit ? $limit : ($touch ? 30.0 : 20.0), 'dE00', true),
                );
            }
        }

        return Outcome::of($findings);
    }
}
