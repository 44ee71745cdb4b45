<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Formats\FormatCatalogue;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Low faces with no material, in formats that carry materials, counted as triangles.
 */
final class MaterialMissing implements Check
{
    public function about(): About
    {
        return new About(
            code: 'material-missing',
            station: Station::Intake,
            row: 270,
            severity: Severity::Note,
            title: 'Faces without material',
            measured: 'Low faces with no material, in formats that carry materials, counted as triangles.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'nothing; the engine shows its own stand-in',
            remedy: 'assign a material',
            measures: [Contents::class],
            many: 'have faces without a material',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ($measures->asset->judged(Role::Low) as $part) {
            if (! FormatCatalogue::carriesMaterials($measures->asset->files[$part->file]->scene->format ?? '')) {
                continue;
            }
            $any = true;
            $contents = $measures->ofPart(Contents::class, $part);
            $count = $contents->facesWithoutMaterial ?? 0;
            if ($count > $limit) {
                $findings[] = Finding::onPart('material-missing', Severity::Note, $part, $contents->materials === [] ? "{$part->part->name} has no material" : ($count === 1 ? '1 triangle' : "$count triangles")." of {$part->part->name} have no material", 'assign a material', new Measured((float) $count, $limit, 'count'), $count);
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('the low poly\'s format carries no materials');
    }
}
