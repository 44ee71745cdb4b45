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
use Anvil\Measures\Kind\IslandFacts;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * How far an island sticks out of the integer UV tile that holds its middle, as a share of the tile; an island wholly
 * inside any one tile is inside.
 */
final class UvOutside implements Check
{
    public function about(): About
    {
        return new About(
            code: 'uv-outside',
            station: Station::Surface,
            row: 710,
            severity: Severity::Blocker,
            title: 'Island over the border of a tile',
            measured: 'How far an island sticks out of the integer UV tile that holds its middle, as a share of the tile; an island wholly inside any one tile is inside.',
            limit: 0.000001,
            unit: 'share',
            limitWords: '1e-6',
            afterBake: 'what is outside wraps around or is lost',
            remedy: 'move the island into one tile',
            measures: [IslandFacts::class],
            many: 'have UV islands over the border of a tile',
            ofFile: true,
            symptoms: ['wrapped texture', 'tiling', 'missing texels'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $findings = [];
        $lows = $measures->asset->judged(Role::Low);
        if ($lows === []) {
            return Outcome::notApplicable('there is no low poly');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        foreach ($lows as $part) {
            $worst = 0.0;
            $count = 0;
            $where = [];
            $facts = $measures->ofPart(IslandFacts::class, $part);
            for ($i = 0, $n = $facts->count(); $i < $n; $i++) {
                $over = $facts->over($i);
                if ($over > $limit) {
                    $count++;
                    $worst = max($worst, $over);
                    if (count($where) < 8) {
                        $where[] = $facts->at[$i];
                    }
                }
            }
            if ($count > 0) {
                $findings[] = new Finding('uv-outside', Severity::Blocker, "{$part->part->name}: $count UV ".($count === 1 ? 'island crosses' : 'islands cross').' the border of a tile, by up to '.Words::percent($worst).' of it', 'move or scale the '.($count === 1 ? 'island' : 'islands').' into one tile', ['part' => $part->part->name, 'file' => $part->path], new Measured($worst, $limit, 'share'), count: $count, where: $where);
            }
        }

        return Outcome::of($findings);
    }
}
