<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measure;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Geometry\Mesh;
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
            severity: Severity::Blocker,
            title: 'Normals that point inward',
            measured: 'Low corner normals over 90° off their face, as a share of the part\'s area; each corner stands for a third of its triangle.',
            limit: 0.005,
            limitWords: '0.5 %',
            afterBake: 'the far side baked through, or a normal map that is inside out: every ray starts the wrong way',
            remedy: 'recompute the normals from the faces, or flip them',
            readsRays: true,
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ($measures->asset->judged(Role::Low) as $part) {
            if ($part->part->mesh->triNormals === []) {
                continue;
            }
            $any = true;
            [$share, $where] = self::inverted($part->part->mesh, self::turned($measures, $part));
            if ($share > $limit) {
                $findings[] = Finding::onPart('normals-inverted', Severity::Blocker, $part, 'on '.Words::percent($share)." of {$part->part->name} its normals point to the inner side of their faces", 'recompute the normals from the faces, or flip them', new Measure($share, $limit, 'share'), null, $where);
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no low part has normals');
    }

    /**
     * Triangles that `mesh-flipped` tells: there it is the faces that are turned, not the normals.
     *
     * @return array<int, true>
     */
    private static function turned(Measures $measures, RoledPart $part): array
    {
        $health = $measures->health($part);
        $out = $health->turned;
        $shells = $health->insideOutShells;
        foreach (MeshFlipped::faced($measures)[spl_object_id($part)] ?? [] as $shell) {
            $shells[$health->shellOf($shell['first'])] = true;
        }
        for ($t = 0, $count = $shells === [] ? 0 : $part->part->mesh->triangleCount(); $t < $count; $t++) {
            if (isset($shells[$health->shellOf($t)])) {
                $out[$t] = true;
            }
        }

        return $out;
    }

    /**
     * @param  array<int, true>  $without  triangles
     * @return array{float, list<array{float, float, float}>} share of area, places
     */
    private static function inverted(Mesh $mesh, array $without): array
    {
        $p = $mesh->positions;
        $n = $mesh->normals;
        $all = $inverted = 0.0;
        $where = [];
        for ($i = 0, $count = count($mesh->triangles); $i < $count; $i += 3) {
            [$a, $b, $c] = [3 * $mesh->triangles[$i], 3 * $mesh->triangles[$i + 1], 3 * $mesh->triangles[$i + 2]];
            $ux = $p[$b] - $p[$a];
            $uy = $p[$b + 1] - $p[$a + 1];
            $uz = $p[$b + 2] - $p[$a + 2];
            $vx = $p[$c] - $p[$a];
            $vy = $p[$c + 1] - $p[$a + 1];
            $vz = $p[$c + 2] - $p[$a + 2];
            $x = $uy * $vz - $uz * $vy;
            $y = $uz * $vx - $ux * $vz;
            $z = $ux * $vy - $uy * $vx;
            $area = sqrt($x * $x + $y * $y + $z * $z);
            $all += $area;
            for ($k = 0; $k < 3 && ! isset($without[intdiv($i, 3)]); $k++) {
                $at = 3 * ($mesh->triNormals[$i + $k] ?? -1);
                if ($at >= 0 && $n[$at] * $x + $n[$at + 1] * $y + $n[$at + 2] * $z < 0.0) {
                    $inverted += $area / 3;
                    if ($k === 0 && count($where) < 40) {
                        $where[] = [($p[$a] + $p[$b] + $p[$c]) / 3, ($p[$a + 1] + $p[$b + 1] + $p[$c + 1]) / 3, ($p[$a + 2] + $p[$b + 2] + $p[$c + 2]) / 3];
                    }
                }
            }
        }

        return [$all > 0.0 ? $inverted / $all : 0.0, $where];
    }
}
