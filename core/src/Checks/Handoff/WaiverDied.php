<?php

declare(strict_types=1);

namespace Anvil\Checks\Handoff;

use Anvil\Checks\About;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\OfResults;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Measures\Measures;
use Anvil\Standard\Severity;

/**
 * Waivers whose finding is there and measures worse than what was accepted: they hold no more.
 */
final class WaiverDied implements OfResults
{
    public function about(): About
    {
        return new About(
            code: 'waiver-died',
            station: Station::HandOff,
            row: 950,
            severity: Severity::Caution,
            title: 'Waiver died',
            measured: 'The value of a finding that was waived, where it is worse now than the value that was accepted.',
            limit: null,
            limitWords: 'the value that was accepted',
            afterBake: 'worse than what somebody agreed to',
            remedy: 'mend the finding, or have it waived again at its new value',
            many: 'are worse than what was waived',
            symptoms: ['accepted before', 'got worse'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        return Outcome::notApplicable('nothing is waived');
    }

    public function ofResults(array $results, array $waivers): Outcome
    {
        if ($waivers === []) {
            return Outcome::notApplicable('nothing is waived');
        }
        $about = Catalogue::about();
        $findings = [];
        foreach ($results as $result) {
            foreach ($result->findings as $finding) {
                $waiver = $finding->outgrown($waivers);
                if ($waiver === null || $finding->measure === null || $waiver->value === null) {
                    continue;
                }
                $unit = $finding->measure->unit;
                [$now, $then] = [self::words($finding->measure->value, $unit), self::words($waiver->value, $unit)];
                $findings[] = new Finding(
                    'waiver-died', Severity::Caution, 'The waiver by '.$waiver->by.' held up to '.$then.', and it is '.$now.' now ('.($about[$finding->code]->title ?? $finding->code).'): '.$finding->message,
                    'mend the finding, or have it waived again at its new value', $finding->subject, new Measured($finding->measure->value, $waiver->value, $unit),
                );
            }
        }

        return Outcome::of($findings);
    }

    private static function words(float $value, string $unit): string
    {
        return match ($unit) {
            'share' => sprintf('%.3g', 100 * $value).' %',
            'deg' => sprintf('%.3g', $value).'°',
            'dE00' => sprintf('%.3g', $value).' ΔE00',
            'px' => sprintf('%.3g', $value).' px',
            'ratio' => sprintf('%.4g', $value).'×',
            default => sprintf('%.4g', $value),
        };
    }
}
