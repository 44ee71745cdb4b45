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
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Measures;
use Anvil\Pairing\Tie;
use Anvil\Standard\Severity;

/**
 * Share of the surface, of two high parts of one base, that lies on the other within 0.1 % of d and faces alike; the lesser of
 * both ways.
 */
final class HighDoubled implements Check
{
    public function about(): About
    {
        return new About(
            code: 'high-doubled',
            station: Station::Intake,
            row: 130,
            severity: Severity::Blocker,
            title: 'Two high parts on each other',
            measured: 'Share of the surface, of two high parts of one base, that lies on the other within 0.1 % of the set\'s size and faces alike; the lesser of both ways.',
            limit: 0.5,
            unit: 'share',
            limitWords: '50 %',
            afterBake: 'noise where the two surfaces fight: an old and a new delivery together',
            remedy: 'delete the older of the two',
            measures: [Places::class],
            symptoms: ['noise', 'checkerboard', 'flicker', 'z-fighting'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ($measures->asset->pairing->ties as $tie) {
            $any = $any || count($tie->high) > 1;
            foreach ($measures->placeOf($tie)->doubled ?? [] as $double) {
                if ($double['share'] > $limit) {
                    $findings[] = new Finding('high-doubled', Severity::Blocker, "{$double['first']} and {$double['second']} are the same surface over ".Words::percent($double['share']).' of their area: an old and a new delivery together', "delete {$double['first']} or {$double['second']}, whichever is older", ['part' => $double['first'], 'file' => self::fileOf($tie, $double['first']), 'other' => $double['second']], new Measured($double['share'], $limit, 'share'), where: $double['where'] === null ? [] : [$double['where']]);
                }
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no base has several high parts');
    }

    private static function fileOf(Tie $tie, string $name): string
    {
        foreach ($tie->high as $part) {
            if ($part->part->name === $name) {
                return $part->path;
            }
        }

        return $tie->high[0]->path;
    }
}
