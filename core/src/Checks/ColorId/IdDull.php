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
use Anvil\Geometry\Color;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Chroma of an ID color in OKLCH; black and white (to ΔE00 5) count as valid.
 */
final class IdDull implements Check
{
    /** ΔE00: nearer than this, a color is taken for black or white. */
    private const SAME = 5.0;

    public function about(): About
    {
        return new About(
            code: 'id-dull',
            station: Station::ColorId,
            row: 630,
            severity: Severity::Caution,
            title: 'Dull ID color',
            measured: 'Chroma of an ID color in OKLCH (B. Ottosson 2020); black and white, to ΔE00 5, count as valid.',
            limit: 0.12,
            unit: 'ratio',
            limitWords: 'OKLCH chroma 0.12',
            afterBake: 'the ID is hard to tell from others and from shading by eye and by picker',
            remedy: 'give it a vivid color',
            measures: [Colors::class],
            many: 'have dull ID colors',
            symptoms: ['color hard to pick'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->ofAsset(Colors::class);
        if ($ids->source === 'none') {
            return Outcome::notApplicable('the asset has no ID colors');
        }
        if (count($ids->colors) > ClosePairs::MOST) {
            return Outcome::notRun(count($ids->colors).' different colors: these are painted or baked in, no flat IDs');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $ends = [Color::of(0, 0, 0), Color::of(255, 255, 255)];
        $findings = [];
        foreach ($ids->colors as $id) {
            $chroma = $id->color->chroma();
            if ($chroma < $limit && min(array_map($id->color->deltaE(...), $ends)) >= self::SAME) {
                $findings[] = Finding::onPart('id-dull', Severity::Caution, $id->parts[0], "{$id->name()} {$id->color->hex()} is dull: OKLCH chroma ".number_format($chroma, 3).", $limit or more is wanted", 'give it a vivid color, black or white', new Measured($chroma, $limit, 'ratio', true));
            }
        }

        return Outcome::of($findings);
    }
}
