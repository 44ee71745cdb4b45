<?php

declare(strict_types=1);

namespace Anvil\Checks\Handoff;

use Anvil\Changes\PartChange;
use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Changed;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Parts of the last delivery that are not in this one, neither under their name and role nor under another name with the same shape.
 */
final class PartGone implements Check
{
    public function about(): About
    {
        return new About(
            code: 'part-gone',
            station: Station::HandOff,
            row: 930,
            severity: Severity::Caution,
            title: 'Part gone since the last delivery',
            measured: 'Parts of the last delivery that are not in this one, neither under their name and role nor under another name with the same shape.',
            limit: null,
            limitWords: 'none',
            afterBake: 'its surface is missing from the maps, or keeps those of the last bake',
            remedy: 'export it as well, or go on where it was taken out on purpose',
            measures: [Changed::class],
            many: 'are gone since the last delivery',
            symptoms: ['missing part', 'lost in export'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $reason = self::notCompared($measures);
        if ($reason !== null) {
            return Outcome::notApplicable($reason);
        }
        $side = $measures->asset->sideToCome();
        $findings = [];
        foreach ($measures->ofAsset(Changed::class) as $change) {
            if ($change->is('gone') && ($side === null || $change->role !== $side)) {
                $what = $change->role?->words() ?? 'no role';
                $findings[] = new Finding('part-gone', Severity::Caution, "$change->name ($what) was in the last delivery and is not in this one", 'export it as well, or go on where it was taken out on purpose', ['part' => $change->name]);
            }
        }

        return Outcome::of($findings);
    }

    /** Why nothing is held against the last delivery; null where it is. */
    public static function notCompared(Measures $measures): ?string
    {
        return match (true) {
            $measures->asset->last === null => 'there is no delivery before this one',
            $measures->asset->last->isSource => 'this delivery was made from the last one here',
            $measures->assembled !== null => 'an exploded layout is held against what it was before, not against the last delivery',
            default => null,
        };
    }

    /**
     * @return array<string, PartChange> role and name → what became of it
     */
    public static function changes(Measures $measures): array
    {
        $out = [];
        foreach ($measures->ofAsset(Changed::class) as $change) {
            $out["{$change->role?->value} $change->name"] = $change;
        }

        return $out;
    }
}
