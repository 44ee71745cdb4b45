<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

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
 * Low corners without UVs, a part; the high poly needs none.
 */
final class UvMissing implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-missing',
            station: Station::Surface,
            row: 700,
            severity: Severity::Blocker,
            title: 'Corners without UVs',
            measured: 'Low corners without UVs, a part; the high poly needs none.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'nothing is baked there',
            remedy: 'unwrap the part',
            measures: [Contents::class],
            many: 'have no UVs on some or all corners',
            ofFile: true,
            symptoms: ['empty map', 'no texture'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        $lows = $measures->asset->judged(Role::Low);
        if ($lows === []) {
            return Outcome::notApplicable('there is no low poly');
        }
        foreach ($lows as $part) {
            $contents = $measures->ofPart(Contents::class, $part);
            $missing = $contents->cornersWithoutUv ?? 0;
            if ($missing > 0) {
                $all = $contents->corners;
                $findings[] = new Finding('uv-missing', Severity::Blocker, $missing === $all ? "{$part->part->name} has no UVs" : "{$part->part->name}: $missing of $all corners have no UVs", 'unwrap it, and export with UVs', ['part' => $part->part->name, 'file' => $part->path], new Measured($missing, 0, 'count'), count: $missing);
            }
        }

        return Outcome::of($findings);
    }
}
