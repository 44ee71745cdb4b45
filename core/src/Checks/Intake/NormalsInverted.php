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
use Anvil\Measures\Kind\Health;
use Anvil\Measures\Kind\NormalSides;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Share of a low part's area whose corner normals look over 90° away from their face; each corner stands for a third of its triangle.
 */
final class NormalsInverted implements Check
{
    public function about(): About
    {
        return new About(
            code: 'normals-inverted',
            station: Station::Intake,
            row: 230,
            severity: Severity::Blocker,
            title: 'Normals that point inward',
            measured: 'Low corner normals over 90° off their face, as a share of the part\'s area; each corner stands for a third of its triangle.',
            limit: 0.005,
            unit: 'share',
            limitWords: '0.5 %',
            afterBake: 'the far side baked through, or a normal map that is inside out: every ray starts the wrong way',
            remedy: 'recompute the normals from the faces, or flip them',
            measures: [NormalSides::class],
            beside: [Health::class, Rays::class],
            many: 'have normals that point inward',
            symptoms: ['inside out', 'green or red patches', 'inverted'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        $turned = [];
        foreach ($measures->asset->judged(Role::Low) as $part) {
            $found = $measures->ofPart(NormalSides::class, $part);
            $share = $found->share;
            if ($share === null) {
                continue;
            }
            $any = true;
            if ($share > $limit) {
                $findings[] = Finding::onPart('normals-inverted', Severity::Blocker, $part, 'on '.Words::percent($share)." of {$part->part->name} its normals point to the inner side of their faces", 'recompute the normals from the faces, or flip them', new Measured($share, $limit, 'share'), null, $found->where);
            } elseif ($this->isTurned($measures, $part)) {
                $turned[] = $part->part->name;
            }
        }
        if ($turned !== []) {
            return Outcome::of($findings, 'flip the faces that mesh-flipped reports first: '.implode(', ', $turned));
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no low part has normals');
    }

    private function isTurned(Measures $measures, RoledPart $part): bool
    {
        $health = $measures->ofPart(Health::class, $part);

        return $health->againstNeighbours + $health->insideOut > 0 || NormalSides::faced($measures, $part) !== [];
    }
}
