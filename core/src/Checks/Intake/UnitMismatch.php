<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Place\SizeFactor;
use Anvil\Standard\Limits;
use Anvil\Standard\Role;
use Anvil\Standard\Severity;

/**
 * Diagonal of all high parts over that of all low parts, as a ratio.
 */
final class UnitMismatch implements Check
{
    public function about(): About
    {
        return new About(
            code: 'unit-mismatch',
            station: Station::Intake,
            row: 60,
            severity: Severity::Blocker,
            title: 'High and low differ in size',
            measured: 'Diagonal of all high parts over that of all low parts, as a ratio.',
            limit: Limits::of('unit-mismatch'),
            unit: 'ratio',
            limitWords: 'outside 0.5 to 2',
            afterBake: 'an empty or smeared map: rays never meet the high poly',
            remedy: 'scale one of the files',
            symptoms: ['empty map', 'black map', 'smear'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $ratio = $measures->asset->sizeRatio();
        if ($ratio === null) {
            return Outcome::notApplicable('there are not both low and high parts');
        }
        if (! $measures->asset->differsInSize()) {
            return Outcome::of([]);
        }
        $limit = $this->about()->limitBy($measures->asset->standard);
        $high = $measures->asset->judged(Role::High)[0];
        $factor = SizeFactor::likely($ratio);
        $cause = match ($factor) {
            10.0 => 'millimetres against centimetres', 100.0 => 'centimetres against metres', 1000.0 => 'millimetres against metres',
            2.54 => 'inches against centimetres', 39.3701 => 'inches against metres', 25.4 => 'inches against millimetres', 30.48 => 'feet against centimetres', 12.0 => 'feet against inches', default => null,
        };
        $shown = self::shown(max($ratio, 1 / $ratio));
        $size = $ratio > 1 ? "$shown times the size of the low poly" : "1/$shown the size of the low poly";
        $by = $factor ?? max($ratio, 1 / $ratio);
        $remedy = 'scale the high poly by '.($ratio > 1 ? '1/' : '').self::shown($by).($cause === null ? '' : ' or export both in one unit');

        return Outcome::of([new Finding('unit-mismatch', Severity::Blocker, "the high poly is $size".($cause === null ? '' : ": likely $cause, a factor of ".self::shown($by)), $remedy, ['file' => $high->path], new Measured($ratio, $ratio > 1 ? $limit : 1 / $limit, 'ratio'))]);
    }

    private static function shown(float $value): string
    {
        return (string) (float) sprintf('%.4g', $value);
    }
}
