<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use Anvil\Measures\Measures;
use Anvil\Pairing\PlaceCost;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Standard\Role;
use App\Deliveries\StoredDelivery;
use App\Http\Data\PairingData;
use App\Http\Data\SuggestionData;
use App\Http\Data\TieData;
use App\Http\Data\WholeData;
use App\Models\Delivery;
use App\Models\Part;

/**
 * The ties of a delivery, what is suggested for their names, and whether names can be done without.
 */
final readonly class PairingPage
{
    /** Lone parts for which the nearest on the other side is looked for, of those that place and size give none. */
    private const SEARCHED = 100;

    private Measures $measures;

    private function __construct(private Delivery $delivery)
    {
        $this->measures = (new StoredDelivery($delivery))->alone();
    }

    public static function of(Delivery $delivery): PairingData
    {
        $page = new self($delivery);

        return new PairingData($page->ties(), $page->suggestions(), IntakePage::suffixGuess($delivery->report ?? []), $page->wholeBake());
    }

    /**
     * @return list<TieData>
     */
    private function ties(): array
    {
        $out = [];
        $searched = 0;
        $placeIsMute = $this->measures->asset->pairing->saysNothingOfPlace($this->measures->asset->standard);
        foreach ($this->measures->asset->pairing->ties as $tie) {
            [$candidate, $cost] = [$tie->better === [] ? null : $tie->better[0]->part->name, $tie->betterCost];
            // For the rest the nearest of all, as far as a person will look at them one by one.
            if ($candidate === null && $tie->kind === TieKind::Open && $searched++ < self::SEARCHED) {
                [$candidate, $cost] = $this->candidate($tie);
            }
            $finite = static fn (?float $value): ?float => $value !== null && is_finite($value) ? $value : null;
            $out[] = new TieData($tie->base, $tie->kind->value, $tie->troubles, RoledPart::names($tie->low), RoledPart::names($tie->high), $placeIsMute ? null : $finite($tie->cost), $candidate, $finite($cost), ! $placeIsMute && $tie->isApart() ? $finite($tie->gap()) : null);
        }

        return $out;
    }

    /**
     * The part on the other side that fits a lone one best by place and size.
     *
     * @return array{string|null, float|null}
     */
    private function candidate(Tie $tie): array
    {
        $own = ($tie->low[0] ?? $tie->high[0] ?? null)?->part->bounds();
        $best = [null, null];
        foreach ($this->measures->asset->judged($tie->low === [] ? Role::Low : Role::High) as $other) {
            $box = $other->part->bounds();
            if ($own === null || $box === null) {
                continue;
            }
            $cost = $tie->low === [] ? PlaceCost::of($box, $own) : PlaceCost::of($own, $box);
            if (is_finite($cost) && ($best[1] === null || $cost < $best[1])) {
                $best = [$other->part->name, $cost];
            }
        }

        return $best;
    }

    /**
     * @return list<SuggestionData>
     */
    private function suggestions(): array
    {
        $ids = array_values($this->delivery->files->where('kind', 'mesh')->pluck('id')->all());

        return array_map(static fn ($s): SuggestionData => new SuggestionData($s->part->path, is_int($ids[$s->part->file]) ? $ids[$s->part->file] : 0, $s->part->part->name, $s->rename, $s->reason, $s->confidence), $this->measures->asset->pairing->suggestions);
    }

    private function wholeBake(): ?WholeData
    {
        /** @var array{clean: bool, out: float|int, in: float|int}|null $whole */
        $whole = $this->delivery->report['whole'] ?? null;

        return $whole === null ? null : new WholeData($whole['clean'], (float) $whole['out'], (float) $whole['in']);
    }
}
