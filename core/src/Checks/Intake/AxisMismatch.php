<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Turn;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Whether a turn by quarters, about the origin or the high poly's own middle, brings the high surface closer to the low one by
 * half, in degrees.
 */
final class AxisMismatch implements Check
{
    public function about(): About
    {
        return new About(
            code: 'axis-mismatch',
            station: Station::Intake,
            row: 70,
            severity: Severity::Blocker,
            title: 'High turned against low',
            measured: 'Whether a turn by quarters, about the origin or the high poly\'s own middle, brings the high surface closer to the low one by half, in degrees.',
            limit: null,
            unit: 'deg',
            limitWords: 'closer by half',
            afterBake: 'an empty or garbled map: rays meet the wrong sides',
            remedy: 'turn one of the files, or export both with the same up axis',
            measures: [Turn::class],
            symptoms: ['empty map', 'garbled map', 'red patches', 'green patches'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $low = $measures->asset->judged(Role::Low);
        $high = $measures->asset->judged(Role::High);
        if ($low === [] || $high === []) {
            return Outcome::notApplicable('there are not both low and high parts');
        }
        $turn = $measures->quarterTurn();
        if ($turn === null) {
            return Outcome::of([]);
        }

        return Outcome::of([new Finding(
            'axis-mismatch', Severity::Blocker,
            "turned $turn->words, the high poly lies on the low poly: ".Words::percent($turn->after).' of the asset\'s size apart instead of '.Words::percent($turn->before),
            "turn the high poly $turn->words, or export both files with the same up axis",
            ['file' => $high[0]->path], new Measured($turn->degrees, 0.0, 'deg'),
        )]);
    }
}
