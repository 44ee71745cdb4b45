<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Standard\Reach;

/**
 * What the rays of one set meet: the measure that the clearance checks read. Lengths are in the measure of reach.
 */
final readonly class SetClearance
{
    /**
     * @param  float  $d  diagonal of the set's low-poly bounds
     * @param  array{out: float|null, in: float|null}  $firstWrong  null: none up to d
     * @param  Reach|null  $set  the reach that the standard sets; null: the recommended one is in use
     * @param  float  $missShare  share of low area from which no high is met within the reach in use
     * @param  list<array{float, float, float}>  $missWhere
     * @param  float  $shortShare  share of low area whose own high lies outside the reach in use
     * @param  array{float, float, float}|null  $highest  the high point that needs most reach outward
     * @param  array{float, float, float}|null  $deepest
     * @param  list<Bleed>  $bleeds  into which other sets this one's rays go first, greatest first
     * @param  float  $overhang  how far high points lie past the border of an open low
     * @param  float  $texelsOfAll  texels that the whole set covers at the map size; 0 without UVs
     * @param  bool  $coincides  high and low surfaces lie within 1e-4 d of each other both ways
     * @param  array<string, list<float>>  $evidence  rays for the stand, two points each: `miss` from where it begins to where it ends, `wrong` and `short` from the low surface to the hit
     */
    public function __construct(
        public string $name,
        public float $d,
        public int $samples,
        public Reach $needed,
        public array $firstWrong,
        public Reach $recommended,
        public ?Reach $set,
        public float $missShare,
        public array $missWhere,
        public float $shortShare,
        public ?array $highest,
        public ?array $deepest,
        public array $bleeds,
        public float $overhang,
        public float $texelsOfAll,
        public bool $coincides,
        public array $evidence,
        public SetDetails $details = new SetDetails,
    ) {
    }

    /** Whether samples were left out because faces there are turned the wrong way. */
    public function isMasked(): bool
    {
        return $this->details->faced['lowShare'] + $this->details->faced['highShare'] > 0.0;
    }

    public function inUse(): Reach
    {
        return $this->set ?? $this->recommended;
    }

    /**
     * For a store between two processes; `ofArray` takes it back.
     *
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'name' => $this->name, 'd' => $this->d, 'samples' => $this->samples,
            'needed' => $this->needed->toArray(), 'firstWrong' => $this->firstWrong,
            'recommended' => $this->recommended->toArray(), 'set' => $this->set?->toArray(),
            'missShare' => $this->missShare, 'missWhere' => $this->missWhere, 'shortShare' => $this->shortShare,
            'highest' => $this->highest, 'deepest' => $this->deepest,
            'bleeds' => array_map(static fn (Bleed $bleed): array => $bleed->toArray(), $this->bleeds),
            'overhang' => $this->overhang, 'texelsOfAll' => $this->texelsOfAll, 'coincides' => $this->coincides,
            'evidence' => $this->evidence,
            'details' => $this->details->toArray(),
        ];
    }

    /**
     * What was stored of a set whose inputs have other names now and are the same otherwise.
     *
     * @param  array<string, mixed>  $stored  of `toArray`
     * @param  array{set: string, others: list<string>}  $then  the sets, in the order of the inputs
     * @param  array{set: string, others: list<string>}  $now  as many
     * @return array<string, mixed>
     */
    public static function underNames(array $stored, array $then, array $now): array
    {
        /** @var array{bleeds: list<array{other: string, share: float|int, unseenShare: float|int, where: list<array{float, float, float}>}>} $stored */
        $others = array_combine($then['others'], $now['others']);
        $bleeds = [];
        foreach ($stored['bleeds'] as $bleed) {
            $bleeds[] = [...$bleed, 'other' => $others[$bleed['other']] ?? $bleed['other']];
        }
        usort($bleeds, static fn (array $a, array $b): int => [$b['share'], $b['unseenShare'], $a['other']] <=> [$a['share'], $a['unseenShare'], $b['other']]);

        return [...$stored, 'name' => $now['set'], 'bleeds' => $bleeds];
    }

    /**
     * @param  array<string, mixed>  $stored
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{name: string, d: float|int, samples: int, needed: array{out: float|int, in: float|int}, firstWrong: array{out: float|null, in: float|null}, recommended: array{out: float|int, in: float|int}, set: array{out: float|int, in: float|int}|null, missShare: float|int, missWhere: list<array{float, float, float}>, shortShare: float|int, highest: array{float, float, float}|null, deepest: array{float, float, float}|null, bleeds: list<array{other: string, share: float|int, unseenShare: float|int, where: list<array{float, float, float}>}>, overhang: float|int, texelsOfAll: float|int, coincides: bool, evidence: array<string, list<float>>, details?: array<string, mixed>} $stored */
        return new self(
            $stored['name'], (float) $stored['d'], $stored['samples'],
            new Reach((float) $stored['needed']['out'], (float) $stored['needed']['in']), $stored['firstWrong'],
            new Reach((float) $stored['recommended']['out'], (float) $stored['recommended']['in']),
            $stored['set'] === null ? null : new Reach((float) $stored['set']['out'], (float) $stored['set']['in']),
            (float) $stored['missShare'], $stored['missWhere'], (float) $stored['shortShare'], $stored['highest'], $stored['deepest'],
            array_map(static fn (array $bleed): Bleed => new Bleed($bleed['other'], (float) $bleed['share'], (float) $bleed['unseenShare'], $bleed['where']), $stored['bleeds']),
            (float) $stored['overhang'], (float) $stored['texelsOfAll'], $stored['coincides'], $stored['evidence'],
            SetDetails::ofArray($stored['details'] ?? []),
        );
    }
}
