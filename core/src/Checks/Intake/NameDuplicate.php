<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Severity;

/**
 * Parts of one name in one file, or in two files of one role.
 */
final class NameDuplicate implements Check
{
    public function about(): About
    {
        return new About(
            code: 'name-duplicate',
            station: Station::Intake,
            row: 120,
            severity: Severity::Blocker,
            title: 'Two parts of one name',
            measured: 'Parts of one name in one file, or in two files of one role.',
            limit: null,
            unit: 'count',
            limitWords: '0',
            afterBake: 'one of the two is baked twice or not at all',
            remedy: 'rename one of them or join them',
            many: 'share a name with another part',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $groups = [];
        $duplicates = $measures->asset->duplicates();
        foreach (array_filter($measures->asset->judged(), static fn (RoledPart $part): bool => isset($duplicates[spl_object_id($part)])) as $part) {
            $groups[($part->role->value ?? 'file '.$part->file)."\0".$part->part->name][] = $part;
        }
        $findings = [];
        foreach ($groups as $parts) {
            $files = array_values(array_unique(array_map(static fn (RoledPart $part): string => basename($part->path), $parts)));
            $findings[] = new Finding('name-duplicate', Severity::Blocker, "{$parts[0]->part->name} is the name of ".count($parts).' parts in '.implode(' and ', $files), 'rename all but one, or join them into one part', ['part' => $parts[0]->part->name, 'file' => $parts[count($parts) - 1]->path], new Measured(count($parts), 1, 'count'), count: count($parts));
        }

        return Outcome::of($findings);
    }
}
