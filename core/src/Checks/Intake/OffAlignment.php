<?php

declare(strict_types=1);

namespace Anvil\Checks\Intake;

use Anvil\Asset\Asset;
use Anvil\Checks\About;
use Anvil\Checks\Check;
use Anvil\Checks\Finding;
use Anvil\Checks\Measured;
use Anvil\Checks\Outcome;
use Anvil\Checks\Station;
use Anvil\Checks\Words;
use Anvil\Measures\Kind\Contents;
use Anvil\Measures\Kind\Places;
use Anvil\Measures\Kind\Turn;
use Anvil\Measures\Measures;
use Anvil\Place\Offset;
use Anvil\Standard\Limits;
use Anvil\Standard\Severity;

/**
 * Offset of a low part against its high, by its surfaces, side against side: shift, turn or scale, whichever moves the part
 * most, as a share of d. A caution above a fifth of the limit.
 */
final class OffAlignment implements Check
{
    public function about(): About
    {
        return new About(
            code: 'off-alignment',
            station: Station::Intake,
            row: 80,
            severity: Severity::Blocker,
            title: 'Low and high do not lie on each other',
            measured: 'Offset of a low part against its high, by its surfaces, side against side: shift, turn or scale, whichever moves the part most, as a share of the set\'s size. A caution above a fifth of the limit.',
            limit: Limits::of('off-alignment'),
            unit: 'share',
            limitWords: '0.5 % of the set\'s size (caution above 0.1 %)',
            afterBake: 'smears along edges and detail baked off its place',
            remedy: 'move the high poly onto the low poly by the vector given',
            source: 'side-against-side medians; P. J. Huber, Robust Statistics, 1981, for their uncertainty',
            caution: 0.001,
            measures: [Places::class],
            beside: [Contents::class, Turn::class],
            many: 'do not lie on their high part',
            symptoms: ['smear', 'offset detail', 'doubled edge', 'shifted detail'],
        );
    }

    public function run(Measures $measures): Outcome
    {
        $limit = $this->about()->limitBy($measures->asset->standard);
        $caution = $measures->asset->standard->cautionOf('off-alignment') ?? 0.2 * $limit;
        $findings = [];
        $measured = $waiting = 0;
        $reason = null;
        foreach ($measures->asset->sets as $set) {
            foreach ($measures->asset->tiesOf($set) as $tie) {
                $place = $measures->placeOf($tie);
                if ($place === null) {
                    $waiting += $measures->unplaced($set) !== null ? 1 : 0;
                    $reason ??= $measures->unplaced($set);

                    continue;
                }
                $measured++;
                $offset = $place->offset;
                if ($offset === null || $offset->share() <= $caution) {
                    continue;
                }
                $low = $tie->low[0];
                [$words, $remedy] = self::words($offset, $low->part->name, $place->high, $measures->asset);
                $severity = $offset->share() > $limit ? Severity::Blocker : Severity::Caution;
                $findings[] = Finding::onTie('off-alignment', $severity, $low, $place->high, $words, $remedy, new Measured($offset->share(), $severity === Severity::Blocker ? $limit : $caution, 'share'));
            }
        }
        if ($measured === 0 && $waiting === 0) {
            return Outcome::notApplicable('no low part has its high part');
        }

        return Outcome::of($findings, $measured === 0 ? "surfaces were not held against each other: $reason" : null);
    }

    /**
     * @return array{string, string} what is off, what mends it
     */
    private static function words(Offset $offset, string $low, string $high, Asset $asset): array
    {
        $share = Words::percent($offset->share());
        $unseen = $offset->hidden === [] ? '' : ' ('.implode(', ', $offset->hidden).' cannot be told on this shape)';
        $vector = Words::vector(array_map(static fn (float $v): float => -$v, $offset->shift), $asset);

        return match ($offset->kind()) {
            'turn' => ["$high is turned by ".Words::degrees($offset->degrees).' about ('.implode(', ', array_map(static fn (float $v): string => sprintf('%.3f', $v), $offset->axis)).") against $low: up to $share of the set's size$unseen", "turn $high back by that angle about the middle of $low"],
            'scale' => ["$high is ".sprintf('%.4g', $offset->scale)." times the size of $low: up to $share of the set's size$unseen", "scale $high by ".sprintf('%.5g', 1 / $offset->scale)." about the middle of $low"],
            default => ["$high lies $share of the set's size off $low$unseen", "move $high by $vector"],
        };
    }
}
