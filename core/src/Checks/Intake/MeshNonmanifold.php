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
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Low edges with over two faces, and vertices where separate fans of faces meet, counted on welded vertices.
 */
final class MeshNonmanifold implements Check
{
    public function about(): About
    {
        return new About(
            code: 'mesh-nonmanifold',
            station: Station::Intake,
            row: 160,
            severity: Severity::Caution,
            title: 'Edges of three faces, loose fans',
            measured: 'Low edges with over two faces, and vertices where separate fans of faces meet, counted on welded vertices.',
            limit: 0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'wrong shading along the edge; cages tear there',
            remedy: 'split the faces off, or delete the inner one',
            measures: [Health::class],
            many: 'have edges of three or more faces, or loose fans',
            ofFile: true,
            symptoms: ['dark edge', 'shading error', 'torn cage'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->asset->judged(Role::Low) as $part) {
            $health = $measures->ofPart(Health::class, $part);
            $count = $health->manyFaced + $health->fans;
            if ($count > $limit) {
                $words = [];
                if ($health->manyFaced > 0) {
                    $words[] = $health->manyFaced === 1 ? '1 edge with over two faces' : "$health->manyFaced edges with over two faces";
                }
                if ($health->fans > 0) {
                    $words[] = $health->fans === 1 ? '1 vertex that joins separate fans' : "$health->fans vertices that join separate fans";
                }
                $findings[] = Finding::onPart('mesh-nonmanifold', Severity::Caution, $part, "{$part->part->name} has ".implode(' and ', $words), 'split the faces off, or delete the inner one', new Measured((float) $count, $limit, 'count'), $count, [...$health->manyFacedWhere, ...$health->fansWhere]);
            }
        }

        return Outcome::of($findings);
    }
}
