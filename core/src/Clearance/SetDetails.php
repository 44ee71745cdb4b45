<?php

declare(strict_types=1);

namespace Anvil\Clearance;

/**
 * What the rays of a set tell beside its reach: where they go wrong at the reach in use, gaps between the surfaces, what is not seen, what
 * no ray meets, floating shells, details that will lean.
 */
final readonly class SetDetails
{
    /**
     * @param  float  $wrongShare  share of seen low area that takes a wrong hit at the reach in use
     * @param  list<array{float, float, float}>  $wrongWhere
     * @param  float  $gapShare  share of seen low area with nothing that belongs within 2 % of d and no high poly that near
     * @param  list<array{float, float, float}>  $gapWhere
     * @param  list<float>  $buried  of each low part: share of its area that is not seen
     * @param  list<array{part: int, triangles: int, share: float, where: array{float, float, float}}>  $unmet  high shells that hardly any ray meets; part is a number among the high parts
     * @param  list<Floater>  $floaters
     * @param  list<array{part: int, share: float, shift: float, shell: bool, where: list<array{float, float, float}>}>  $leans  of low parts: share of area whose details lean over the limit, the greatest shift as a length, whether a whole high shell leans
     * @param  float  $lowArea  3D area of the low poly
     * @param  array{top: float, miss: list<float>, wrong: list<float>}|null  $curve  shares of low area that miss, and of seen low area that go wrong, at reaches outward from 0 to `top` in equal steps
     */
    public function __construct(
        public float $wrongShare = 0.0,
        public array $wrongWhere = [],
        public float $gapShare = 0.0,
        public array $gapWhere = [],
        public array $buried = [],
        public array $unmet = [],
        public array $floaters = [],
        public array $leans = [],
        public float $lowArea = 0.0,
        public ?array $curve = null,
    ) {
    }

    /** Share of the low area whose misses a floating shell explains. */
    public function explainedMisses(): float
    {
        $sum = 0.0;
        foreach ($this->floaters as $floater) {
            $sum += $floater->isBacked ? 0.0 : $floater->missShare;
        }

        return $sum;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'wrongShare' => $this->wrongShare, 'wrongWhere' => $this->wrongWhere, 'gapShare' => $this->gapShare, 'gapWhere' => $this->gapWhere, 'buried' => $this->buried,
            'unmet' => $this->unmet, 'floaters' => array_map(static fn (Floater $floater): array => $floater->toArray(), $this->floaters), 'leans' => $this->leans, 'lowArea' => $this->lowArea, 'curve' => $this->curve,
        ];
    }

    /**
     * @param  array<string, mixed>  $stored
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{wrongShare?: float|int, wrongWhere?: list<array{float, float, float}>, gapShare?: float|int, gapWhere?: list<array{float, float, float}>, buried?: list<float|int>, unmet?: list<array{part: int, triangles: int, share: float|int, where: array{float, float, float}}>, floaters?: list<array<string, mixed>>, leans?: list<array{part: int, share: float|int, shift: float|int, shell: bool, where: list<array{float, float, float}>}>, lowArea?: float|int, curve?: array{top: float|int, miss: list<float|int>, wrong: list<float|int>}|null} $stored */
        return new self(
            (float) ($stored['wrongShare'] ?? 0), $stored['wrongWhere'] ?? [], (float) ($stored['gapShare'] ?? 0), $stored['gapWhere'] ?? [],
            array_map(floatval(...), $stored['buried'] ?? []),
            array_map(static fn (array $shell): array => ['part' => $shell['part'], 'triangles' => $shell['triangles'], 'share' => (float) $shell['share'], 'where' => $shell['where']], $stored['unmet'] ?? []),
            array_map(Floater::ofArray(...), $stored['floaters'] ?? []),
            array_map(static fn (array $lean): array => ['part' => $lean['part'], 'share' => (float) $lean['share'], 'shift' => (float) $lean['shift'], 'shell' => $lean['shell'], 'where' => $lean['where']], $stored['leans'] ?? []),
            (float) ($stored['lowArea'] ?? 0),
            isset($stored['curve']) ? ['top' => (float) $stored['curve']['top'], 'miss' => array_map(floatval(...), $stored['curve']['miss']), 'wrong' => array_map(floatval(...), $stored['curve']['wrong'])] : null,
        );
    }
}
