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
use Anvil\Standard\Severity;

/**
 * Characters in a part's name that are control characters, outside ASCII, or blanks; and its length over 64.
 */
final class NameUnsafe implements Check
{
    public function about(): About
    {
        return new About(
            code: 'name-unsafe',
            station: Station::Intake,
            row: 140,
            severity: Severity::Caution,
            title: 'Name that programs trip over',
            measured: 'Characters in a part\'s name that are control characters, outside ASCII, or blanks; and its length over 64.',
            limit: 64,
            unit: 'count',
            limitWords: 'ASCII without blanks, 64 characters',
            afterBake: 'the part is not found, or is renamed without a word, by the next program',
            remedy: 'rename it',
            many: 'have names that programs trip over',
            ofFile: true,
        );
    }

    public function run(Measures $measures): Outcome
    {
        $most = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->asset->judged() as $part) {
            $name = $part->part->name;
            $troubles = [];
            if (preg_match('/[\x00-\x1f\x7f]/', $name) === 1) {
                $troubles[] = 'control characters';
            }
            if (preg_match('/[^\x00-\x7f]/', $name) === 1) {
                $troubles[] = 'characters outside ASCII';
            }
            if (preg_match('/^ | $/', $name) === 1) {
                $troubles[] = 'a blank at its end';
            } elseif (str_contains($name, ' ')) {
                $troubles[] = 'a blank inside';
            }
            $length = mb_strlen($name);
            if ($length > $most) {
                $troubles[] = "$length characters";
            }
            if ($troubles !== []) {
                $shown = (string) preg_replace('/[\x00-\x1f\x7f]/', '?', $name);
                $findings[] = Finding::onPart('name-unsafe', Severity::Caution, $part, "\"$shown\" has ".implode(', ', $troubles), 'rename it in plain letters, digits and _', $length > $most ? new Measured((float) $length, $most, 'count') : null);
            }
        }

        return Outcome::of($findings);
    }
}
