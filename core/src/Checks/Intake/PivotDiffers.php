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
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Severity;

/**
 * Distance between the node origins of a low part and its high part, as a share of d.
 */
final class PivotDiffers implements Check
{
    public function about(): About
    {
        return new About(
            code: 'pivot-differs',
            station: Station::Intake,
            row: 110,
            severity: Severity::Note,
            title: 'Pivots of a pair apart',
            measured: 'Distance between the node origins of a low part and its high part, as a share of the set\'s size.',
            limit: 0.001,
            unit: 'share',
            limitWords: '0.1 % of the set\'s size',
            afterBake: 'nothing in the maps; exploded or animated pieces come apart',
            remedy: 'set both pivots to the same place',
            many: 'have their pivot elsewhere than their high part',
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $findings = [];
        $any = false;
        foreach ($measures->asset->pairing->ties as $tie) {
            $low = $tie->low[0] ?? null;
            $origin = $low === null ? null : self::origin($measures, $low);
            $d = $low?->part->bounds()?->diagonal() ?? 0.0;
            if ($low === null || $origin === null || $d <= 0.0 || $tie->kind === TieKind::Crossed) {
                continue;
            }
            foreach ($tie->high as $high) {
                $other = self::origin($measures, $high);
                if ($other === null) {
                    continue;
                }
                $any = true;
                $share = sqrt(($origin[0] - $other[0]) ** 2 + ($origin[1] - $other[1]) ** 2 + ($origin[2] - $other[2]) ** 2) / $d;
                if ($share > $limit) {
                    $findings[] = Finding::onTie('pivot-differs', Severity::Note, $low, $high->part->name, "the pivots of {$low->part->name} and {$high->part->name} are ".Words::percent($share).' of the set\'s size apart', 'set both pivots to the same place', new Measured($share, $limit, 'share'), [$origin, $other]);
                    break;
                }
            }
        }

        return $any ? Outcome::of($findings) : Outcome::notApplicable('no pair has nodes with origins on both sides');
    }

    /**
     * @return array{float, float, float}|null
     */
    private static function origin(Measures $measures, RoledPart $part): ?array
    {
        $placement = $part->part->facts->placement;

        return $placement === null ? null : $measures->asset->frames[$part->file]->times($placement)->origin();
    }
}
