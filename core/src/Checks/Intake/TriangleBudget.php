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
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Triangles of all low parts against the standard's budget.
 */
final class TriangleBudget implements Check
{
    public function about(): About
    {
        return new About(
            code: 'triangle-budget',
            station: Station::Intake,
            row: 240,
            severity: Severity::Caution,
            title: 'Over the triangle budget',
            measured: 'Triangles of all low parts against the standard\'s budget.',
            limit: null,
            unit: 'count',
            limitWords: 'the standard\'s, unset by default',
            afterBake: 'nothing in the maps',
            remedy: 'reduce the low poly, or raise the budget in the standard',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $budget = $measures->asset->standard->limitOf('triangle-budget') ?? $measures->asset->standard->triangleBudget;
        if ($budget === null) {
            return Outcome::notApplicable('the standard sets no triangle budget');
        }
        $low = $measures->asset->judged(Role::Low);
        $count = array_sum(array_map(static fn (RoledPart $part): int => $part->part->triangleCount(), $low));
        if ($low === [] || $count <= $budget) {
            return Outcome::of([]);
        }

        return Outcome::of([new Finding('triangle-budget', Severity::Caution, 'the low poly has '.number_format($count).' triangles; the budget is '.number_format((float) $budget), 'take '.number_format($count - $budget).' triangles off, or raise the budget in the standard', ['file' => $low[0]->path], new Measured((float) $count, (float) $budget, 'count'), null, $count)]);
    }
}
