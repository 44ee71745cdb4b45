<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Standard\Reach;

/**
 * What the rays of a set tell beside its reach: where they go wrong at the reach in use, gaps between the surfaces, what is not seen, what
 * no ray meets, floating shells, details that will lean.
 */
final readonly class SetDetails
{
    /**
     * @param  float  $wrongShare  share of seen low area that takes a wrong hit at the reach in use
     * @param  list<array{float, float, float}>  $wrongWhere
     * @param  array{gap: list<float>, near: list<float>, where: list<array{float, float, float}>}  $gaps  shares of seen low area, a low part, with no high poly within 2 % of d: not met by what belongs, and met within the reach
     * @param  list<float>  $buried  of each low part: share of its area that is not seen
     * @param  list<array{part: int, triangles: int, share: float, where: array{float, float, float}}>  $unmet  high shells that hardly any ray meets; part is a number among the high parts
     * @param  list<Floater>  $floaters
     * @param  list<array{part: int, share: float, shift: float, samples: int, shell: bool, where: list<array{float, float, float}>}>  $leans  of low parts: share of area whose details lean over the limit, the greatest shift as a length, whether a whole high shell leans
     * @param  float  $lowArea  3D area of the low poly
     * @param  array{top: float, miss: list<float>, wrong: list<float>}|null  $curve  shares of low area that miss, and of seen low area that go wrong, at reaches outward from 0 to `top` in equal steps
     * @param  float  $effective  samples of one weight that say as much as those of the seen area
     * @param  float|null  $bestShare  share of seen low area that is clipped, missed or goes wrong at the best reach, where no span is open
     * @param  Reach|null  $best  that reach
     * @param  float  $unseenMisses  share of low area that misses and is not seen
     * @param  list<float>  $missesByPart  share of seen low area that misses, a low part
     * @param  array{out: float, in: float, left: float}  $ending  the reach at which misses end, and the share of seen low area that none ends
     * @param  list<array{part: int, share: float, where: list<array{float, float, float}>}>  $margins  of low parts: share of the part past its high's outline
     * @param  float  $tellingMisses  samples of one weight that say as much as those on which misses and margins were counted: more than `effective` where these alone were in doubt
     * @param  float  $tellingBest  likewise for `bestShare`
     * @param  array{low: list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>, high: list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>, lowShare: float, highShare: float}  $faced  shells that face the wrong way, and the shares of samples that were left out for faces that do
     * @param  list<array{part: int, share: float, samples: float, where: list<array{float, float, float}>}>  $grazing  of low parts: share of the seen area where rays run along the surface, and the samples of one weight that tell it
     */
    public function __construct(
        public float $wrongShare = 0.0,
        public array $wrongWhere = [],
        public array $gaps = ['gap' => [], 'near' => [], 'where' => []],
        public array $buried = [],
        public array $unmet = [],
        public array $floaters = [],
        public array $leans = [],
        public float $lowArea = 0.0,
        public ?array $curve = null,
        public float $effective = 0.0,
        public ?float $bestShare = null,
        public ?Reach $best = null,
        public float $unseenMisses = 0.0,
        public array $missesByPart = [],
        public array $ending = ['out' => 0.0, 'in' => 0.0, 'left' => 0.0],
        public array $margins = [],
        public float $tellingMisses = 0.0,
        public float $tellingBest = 0.0,
        public array $faced = ['low' => [], 'high' => [], 'lowShare' => 0.0, 'highShare' => 0.0],
        public array $grazing = [],
    ) {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        /** @var array<string, mixed> $all */
        $all = get_object_vars($this);

        return [...$all, 'floaters' => array_map(static fn (Floater $floater): array => $floater->toArray(), $this->floaters), 'best' => $this->best === null ? null : ['out' => $this->best->out, 'in' => $this->best->in]];
    }

    /**
     * @param  array<string, mixed>  $stored
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{wrongShare: float|int, wrongWhere: list<array{float, float, float}>, gaps: array{gap: list<float|int>, near: list<float|int>, where: list<array{float, float, float}>}, buried: list<float|int>, unmet: list<array{part: int, triangles: int, share: float|int, where: array{float, float, float}}>, floaters: list<array<string, mixed>>, leans: list<array{part: int, share: float|int, shift: float|int, samples: int, shell: bool, where: list<array{float, float, float}>}>, lowArea: float|int, curve: array{top: float|int, miss: list<float|int>, wrong: list<float|int>}|null, effective: float|int, bestShare: float|int|null, best: array{out: float|int, in: float|int}|null, unseenMisses: float|int, missesByPart: list<float|int>, ending: array{out: float|int, in: float|int, left: float|int}, margins: list<array{part: int, share: float|int, where: list<array{float, float, float}>}>, tellingMisses: float|int, tellingBest: float|int, grazing: list<array{part: int, share: float|int, samples: float|int, where: list<array{float, float, float}>}>, faced: array{low: list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>, high: list<array{part: int, triangles: int, first: int, where: array{float, float, float}}>, lowShare: float|int, highShare: float|int}} $stored */
        $stored += (new self)->toArray();

        return new self(
            (float) $stored['wrongShare'], $stored['wrongWhere'], ['gap' => array_map(floatval(...), $stored['gaps']['gap']), 'near' => array_map(floatval(...), $stored['gaps']['near']), 'where' => $stored['gaps']['where']],
            array_map(floatval(...), $stored['buried']),
            array_map(static fn (array $shell): array => ['part' => $shell['part'], 'triangles' => $shell['triangles'], 'share' => (float) $shell['share'], 'where' => $shell['where']], $stored['unmet']),
            array_map(Floater::ofArray(...), $stored['floaters']),
            array_map(static fn (array $lean): array => ['part' => $lean['part'], 'share' => (float) $lean['share'], 'shift' => (float) $lean['shift'], 'samples' => $lean['samples'], 'shell' => $lean['shell'], 'where' => $lean['where']], $stored['leans']),
            (float) $stored['lowArea'],
            $stored['curve'] === null ? null : ['top' => (float) $stored['curve']['top'], 'miss' => array_map(floatval(...), $stored['curve']['miss']), 'wrong' => array_map(floatval(...), $stored['curve']['wrong'])],
            (float) $stored['effective'], $stored['bestShare'] === null ? null : (float) $stored['bestShare'], $stored['best'] === null ? null : new Reach((float) $stored['best']['out'], (float) $stored['best']['in']),
            (float) $stored['unseenMisses'], array_map(floatval(...), $stored['missesByPart']), array_map(floatval(...), $stored['ending']),
            array_map(static fn (array $one): array => ['part' => $one['part'], 'share' => (float) $one['share'], 'where' => $one['where']], $stored['margins']),
            (float) $stored['tellingMisses'], (float) $stored['tellingBest'],
            ['low' => $stored['faced']['low'], 'high' => $stored['faced']['high'], 'lowShare' => (float) $stored['faced']['lowShare'], 'highShare' => (float) $stored['faced']['highShare']],
            array_map(static fn (array $one): array => ['part' => $one['part'], 'share' => (float) $one['share'], 'samples' => (float) $one['samples'], 'where' => $one['where']], $stored['grazing']),
        );
    }
}
