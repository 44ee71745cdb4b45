<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Kind\Health;
use Anvil\Measures\Kind\NormalSides;
use Anvil\Measures\Kind\Rays;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Low triangles wound against their neighbours, in closed shells of negative volume that lie in no other shell, or in open
 * shells whose high faces the other way, counted; on the high a note.
 */
final class MeshFlipped implements Check
{
    public function about(): About
    {
        return new About(
            code: 'mesh-flipped',
            station: Station::Intake,
            row: 170,
            severity: Severity::Blocker,
            title: 'Faces turned inside out',
            measured: 'Low triangles wound against their neighbours, in closed shells of negative volume that lie in no other shell, or in shells that face away from their high, counted. On the high a blocker for shells that rays from its low meet from behind over half of it, else a note.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'holes, black patches, or the far side baked through',
            remedy: 'turn these faces round',
            measures: [Health::class],
            beside: [Rays::class],
            many: 'have faces turned inside out',
            symptoms: ['hole', 'black patches', 'green or red patches', 'inside out'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ([Role::Low, Role::High] as $role) {
            foreach ($measures->asset->judged($role) as $part) {
                $health = $measures->ofPart(Health::class, $part);
                $away = NormalSides::faced($measures, $part);
                $awayCount = array_sum(array_column($away, 'triangles'));
                $isMet = $role === Role::High && $away !== [];
                // A high shell that its low meets from behind is the same whether or not it encloses something.
                $insideOut = $isMet ? 0 : $health->insideOut;
                $count = $health->againstNeighbours + $insideOut + $awayCount;
                if ($count <= $limit) {
                    continue;
                }
                $words = [];
                foreach ([[$health->againstNeighbours, 'wound against neighbours'], [$insideOut, 'in closed shells turned inside out'], [$awayCount, $isMet ? 'that its low poly meets from behind' : 'facing away from the high poly']] as [$number, $why]) {
                    if ($number > 0) {
                        $words[] = ($number === 1 ? '1 triangle ' : "$number triangles ").$why;
                    }
                }
                $where = [...$health->flippedWhere, ...array_column($away, 'where')];
                $findings[] = Finding::onPart('mesh-flipped', $role === Role::Low || $isMet ? Severity::Blocker : Severity::Note, $part, "{$part->part->name} has ".implode(', ', $words), 'turn these faces round', new Measured((float) $count, $limit, 'count'), $count, $where);
            }
        }

        return Outcome::of($findings);
    }
}
