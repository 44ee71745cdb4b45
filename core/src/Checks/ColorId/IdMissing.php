<?php

declare(strict_types=1);

namespace Anvil\Checks\ColorId;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\ColorId\IdColors;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Faces without an ID color on ID parts (on high parts where there is no ID file), when the asset has ID colors at
 * all; counted a part.
 */
final class IdMissing implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-missing',
            station: Station::ColorId,
            row: 600,
            severity: Severity::Blocker,
            title: 'Part or face without an ID color',
            measured: 'Faces without an ID color on ID parts (on high parts where there is no ID file), when the asset has ID colors at all; counted a part.',
            limit: 0.0,
            unit: 'count',
            limitWords: '0',
            afterBake: 'the part cannot be picked when texturing',
            remedy: 'give every part an ID color',
            measures: [Colors::class],
            many: 'have triangles without an ID color',
            symptoms: ['color cannot be picked'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->ofAsset(Colors::class);
        if ($ids->source === 'none') {
            return Outcome::notApplicable(IdColors::pictured($measures->asset->judged(Role::High)) ?? 'the asset has no ID colors');
        }
        $findings = [];
        $unread = null;
        foreach ($ids->missing as ['part' => $part, 'without' => $without, 'of' => $of]) {
            $picture = IdColors::pictured([$part]);
            if ($picture !== null) {
                $unread ??= $picture;

                continue;
            }
            $findings[] = new Finding('id-missing', Severity::Blocker, $without === $of ? "{$part->part->name} has no ID color" : "{$part->part->name} has no ID color on $without of its $of triangles", 'give it a color far from all others', ['part' => $part->part->name, 'file' => $part->path], new Measured($without, 0, 'count'), count: $without);
        }

        return Outcome::of($findings, $unread);
    }
}
