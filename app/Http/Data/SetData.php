<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\SetState;
use OpenApi\Attributes as OA;

/**
 * A bake set with what its rays met.
 */
#[OA\Schema(schema: 'SetData', description: 'A bake set with what its rays met.', required: ['name', 'state', 'error', 'low', 'high', 'diagonal', 'samples', 'needed', 'firstWrong', 'recommended', 'reach', 'inUse', 'missShare', 'bleeds', 'overhang', 'highest', 'bases', 'onItself', 'wrongShare', 'curveTop', 'curveMiss', 'curveWrong', 'shades', 'byHand', 'reused', 'bounds'])]
final readonly class SetData
{
    /**
     * @param  list<string>  $low
     * @param  list<string>  $high
     * @param  list<BleedData>  $bleeds
     * @param  list<float>  $highest
     * @param  list<string>  $bases
     * @param  list<float>  $curveMiss
     * @param  list<float>  $curveWrong
     * @param  list<ShadeData>  $shades
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(ref: '#/components/schemas/SetState')]
        public SetState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $low,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $high,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $diagonal,
        #[OA\Property(type: 'integer')]
        public int $samples,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $needed,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $firstWrong,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $recommended,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/ReachData')])]
        public ?ReachData $reach,
        #[OA\Property(ref: '#/components/schemas/ReachData')]
        public ReachData $inUse,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $missShare,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/BleedData'))]
        public array $bleeds,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $overhang,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $highest,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $bases,
        #[OA\Property(type: 'boolean')]
        public bool $onItself,
        #[OA\Property(type: 'number')]
        public float $wrongShare,
        #[OA\Property(description: 'the reach outward that the last value of the curves stands for; the first stands for 0', type: 'number')]
        public float $curveTop,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $curveMiss,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'))]
        public array $curveWrong,
        #[OA\Property(description: 'who stands over it, greatest first', type: 'array', items: new OA\Items(ref: '#/components/schemas/ShadeData'))]
        public array $shades,
        #[OA\Property(description: 'its reach was set for this asset', type: 'boolean')]
        public bool $byHand,
        #[OA\Property(description: 'nothing of it changed: what its rays met is known from before', type: 'boolean')]
        public bool $reused,
        #[OA\Property(description: 'of its low and high parts', nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/BoundsData')])]
        public ?BoundsData $bounds,
    ) {
    }
}
