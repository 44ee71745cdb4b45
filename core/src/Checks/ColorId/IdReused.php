<?php

declare(strict_types=1);

namespace Anvil\Checks\ColorId;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Materials of the high poly that one ID color is on.
 */
final class IdReused implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-reused',
            station: Station::ColorId,
            row: 640,
            severity: Severity::Note,
            title: 'One ID color on several materials',
            measured: 'Materials of the high poly that one ID color is on; where IDs are in a file of their own, those of the high parts of the same names, as far as these wear one material each.',
            limit: 1.0,
            unit: 'count',
            limitWords: 'one material',
            afterBake: 'two materials are picked as one',
            remedy: 'give each material an ID color of its own, if they are to be told apart',
            measures: [Colors::class],
            symptoms: ['color picked twice'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->ofAsset(Colors::class);
        if ($ids->source === 'none') {
            return Outcome::notApplicable('the asset has no ID colors');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($ids->colors as $id) {
            if (count($id->materials) > $limit) {
                $names = implode(', ', array_slice($id->materials, 0, 4)).(count($id->materials) > 4 ? ' and '.(count($id->materials) - 4).' more' : '');
                $findings[] = Finding::onPart('id-reused', Severity::Note, $id->parts[0], "{$id->color->hex()} is the ID color of ".count($id->materials)." materials: $names", 'give each material an ID color of its own, if they are to be told apart', new Measured(count($id->materials), $limit, 'count'), count: count($id->parts));
            }
        }

        return Outcome::of($findings);
    }
}
