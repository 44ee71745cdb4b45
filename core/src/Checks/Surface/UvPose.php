<?php

declare(strict_types=1);

namespace Anvil\Checks\Surface;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\PoseUvs;
use Anvil\Measures\Measures;
use Anvil\Standard\Limits;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * The low that ships and the low that is baked differ in the UV triangles of a page, whatever the division into parts and the order.
 */
final class UvPose implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-pose',
            station: Station::Surface,
            row: 820,
            severity: Severity::Blocker,
            title: 'Ships with other UVs than it is baked with',
            measured: 'The low that ships (the pose file) and the low that is baked: the greatest distance in UV of a triangle of one to its counterpart on the other, a page at a time, whatever the division into parts and the order. Whole pages apart is the same place.',
            limit: Limits::of('uv-pose'),
            unit: 'share',
            limitWords: '1e-6',
            afterBake: 'the texture sits in the wrong place on the model that ships: wrong texels, shifted or torn detail',
            remedy: 'export both from one unwrap: pose or explode the parts only after the UVs are final',
            measures: [PoseUvs::class],
            symptoms: ['shifted texture', 'torn detail', 'wrong texels'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $pose = $measures->asset->judged(Role::Pose);
        $low = $measures->asset->judged(Role::Low);
        if ($pose === []) {
            return Outcome::notApplicable('what is baked is what ships: there is no pose file');
        }
        if ($low === []) {
            return Outcome::notApplicable('there is no low poly');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        foreach ($measures->ofAsset(PoseUvs::class)->files as $path => $found) {
            if ($found['count'] === 0) {
                continue;
            }
            $count = $found['count'];
            $words = $count === 1 ? 'a UV triangle' : "$count UV triangles";
            if ($found['missing'] === $count) {
                $words = "$words of the low that is baked ".($count === 1 ? 'is' : 'are').' not in it';
            } elseif ($found['missing'] === 0) {
                $words = "$words ".($count === 1 ? 'is' : 'are').' not in the low that is baked';
            } else {
                $words = "$words of one ".($count === 1 ? 'is' : 'are').' not in the other';
            }
            $far = $found['distance'] >= 1.0 ? 'nothing like it on the page' : 'up to '.Words::percent($found['distance']).' of the page away';
            $findings[] = new Finding(
                'uv-pose', Severity::Blocker, "$path ships with other UVs than those that are baked: $words ($far)",
                'export both from one unwrap; pose or explode only after the UVs are final', ['file' => $path],
                new Measured($found['distance'], $limit, 'share'), count: $count, where: $found['where'],
            );
        }

        return Outcome::of($findings);
    }
}
