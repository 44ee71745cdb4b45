<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measure;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Inspection\Inspection;
use Anvil\Pairing\RoledPart;
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
            severity: Severity::Blocker,
            title: 'Faces turned inside out',
            measured: 'Low triangles wound against their neighbours, in closed shells of negative volume that lie in no other shell, or in open shells whose high faces the other way, counted; on the high a note.',
            limit: 0,
            limitWords: '0',
            afterBake: 'holes, black patches, or the far side baked through',
            remedy: 'turn these faces round',
        );
    }

    public function run(Inspection $inspection): Outcome
    {
        $limit = $inspection->standard->limit('mesh-flipped', 0.0);
        $findings = [];
        foreach ([Role::Low, Role::High] as $role) {
            foreach ($inspection->judged($role) as $part) {
                $health = $inspection->health($part);
                $away = $role === Role::Low ? self::away($inspection, $part) : [];
                $awayCount = array_sum(array_column($away, 'triangles'));
                $count = $health->againstNeighbours + $health->insideOut + $awayCount;
                if ($count <= $limit) {
                    continue;
                }
                $words = [];
                foreach ([[$health->againstNeighbours, 'wound against neighbours'], [$health->insideOut, 'in closed shells turned inside out'], [$awayCount, 'facing away from the high poly']] as [$number, $why]) {
                    if ($number > 0) {
                        $words[] = ($number === 1 ? '1 triangle ' : "$number triangles ").$why;
                    }
                }
                $where = [...$health->flippedWhere, ...array_column($away, 'where')];
                $findings[] = Finding::onPart('mesh-flipped', $role === Role::Low ? Severity::Blocker : Severity::Note, $part, "{$part->part->name} has ".implode(', ', $words), 'turn these faces round', new Measure((float) $count, $limit, 'count'), $count, $where);
            }
        }

        return Outcome::of($findings);
    }

    /**
     * Open shells whose high faces the other way, unless it is the high that is turned inside out.
     *
     * @return list<array{triangles: int, share: float, where: array{float, float, float}}>
     */
    private static function away(Inspection $inspection, RoledPart $part): array
    {
        foreach ($inspection->pairing->ties as $tie) {
            if (($tie->low[0] ?? null) !== $part) {
                continue;
            }
            foreach ($tie->high as $high) {
                if ($inspection->health($high)->insideOut > 0) {
                    return [];
                }
            }

            return $inspection->placeOf($tie)->away ?? [];
        }

        return [];
    }
}
