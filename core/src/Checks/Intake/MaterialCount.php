<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Materials in use on the low poly against the pages (sets of textures) of the standard.
 */
final class MaterialCount implements Check
{
    public function about(): About
    {
        return new About(
            code: 'material-count',
            station: Station::Intake,
            row: 250,
            severity: Severity::Blocker,
            title: 'Materials against pages',
            measured: 'Materials in use on the low poly against the pages (sets of textures) of the standard.',
            limit: null,
            unit: 'count',
            limitWords: 'the standard\'s pages; unset',
            afterBake: 'parts of the map are missing, or a page too many',
            remedy: 'merge materials, or raise the pages of the standard',
            measures: [Contents::class],
            symptoms: ['missing texture'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $pages = $measures->asset->standard->pages;
        if ($pages === null) {
            return Outcome::notApplicable('the standard sets no number of pages');
        }
        $names = [];
        $file = null;
        foreach ($measures->asset->judged(Role::Low) as $part) {
            $file ??= $part->path;
            foreach ($measures->ofPart(Contents::class, $part)->materials as $name) {
                $names[$name] = true;
            }
        }
        if ($file === null) {
            return Outcome::notApplicable('there is no low poly');
        }
        if (count($names) <= $pages) {
            return Outcome::of([]);
        }

        return Outcome::of([new Finding('material-count', Severity::Blocker, 'the low poly wears '.count($names)." materials for $pages ".($pages === 1 ? 'page' : 'pages').': '.implode(', ', array_slice(array_keys($names), 0, 12)), "leave $pages, one a page", ['file' => $file], new Measured(count($names), $pages, 'count'), count: count($names))]);
    }
}
