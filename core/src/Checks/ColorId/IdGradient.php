<?php

declare(strict_types=1);

namespace Anvil\Checks\ColorId;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Blends;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Share of a part's area in triangles whose corners have different vertex colors, where that blend is wider than a pixel at the map size.
 */
final class IdGradient implements Check
{
    public function about(): About
    {
        return new About(
            code: 'id-gradient',
            station: Station::ColorId,
            row: 650,
            severity: Severity::Caution,
            title: 'ID colors blend into each other',
            measured: 'Share of a part\'s area in triangles whose corners have different vertex colors, where that blend is wider than 1 px at the map size, by the texel density of the low parts of its set. As a note, and alone: vertex colors of which less than 90 % of the area is in triangles of one color, or more than 256, are painted or scanned and no IDs.',
            limit: 0.005,
            unit: 'share',
            limitWords: '0.5 %',
            afterBake: 'soft borders between IDs, with colors that belong to neither',
            remedy: 'split the vertices along the borders, or give IDs by material',
            measures: [Blends::class],
            beside: [Colors::class],
            many: 'have ID colors that blend into each other',
            symptoms: ['soft borders of an ID map'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ids = $measures->ofAsset(Colors::class);
        $painted = [];
        foreach ($ids->painted as ['part' => $part, 'share' => $share]) {
            $painted[] = Finding::onPart(
                'id-gradient', Severity::Note, $part, "{$part->part->name} has painted or scanned vertex colors, not used as IDs (".Words::percent($share).' of its surface is in blends)',
                'no action needed; if these colors are IDs, give each triangle one color, or set "vertexColors":"ids" in the choices', new Measured($share, $this->about()->limitBy($measures->asset->standard), 'share'),
            );
        }
        if ($painted !== [] && $ids->source !== 'vertex colours') {
            return Outcome::of($painted);
        }
        if (! in_array($ids->source, ['id file', 'vertex colours'], true)) {
            return Outcome::notApplicable($ids->source === 'none' ? 'the asset has no ID colors' : 'the IDs are materials, which do not blend');
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = $painted;
        $without = array_map(static fn (array $one): RoledPart => $one['part'], $ids->painted);
        $unknown = null;
        $parts = $measures->asset->judged($ids->source === 'id file' ? Role::Id : Role::High);
        $any = false;
        foreach ($measures->ofAsset(Blends::class) as $number => $blend) {
            $part = $parts[$number];
            if (in_array($part, $without, true)) {
                continue;
            }
            $any = true;
            if ($blend['share'] === null) {
                $unknown ??= $part->part->name;

                continue;
            }
            if ($blend['share'] > $limit) {
                $findings[] = Finding::onPart('id-gradient', Severity::Caution, $part, 'vertex colors of '.$part->part->name.' blend into each other over '.Words::percent($blend['share']).' of its surface, up to '.Words::pixels($blend['widest']).' wide', 'split the vertices along the borders ("Write ID files" does), or give IDs by material', new Measured($blend['share'], $limit, 'share'));
            }
        }
        if (! $any) {
            return Outcome::notApplicable('no ID colors are vertex colors');
        }

        return Outcome::of($findings, $unknown === null ? null : "how wide blends on $unknown are in pixels is not known: its low part has no UVs");
    }
}
