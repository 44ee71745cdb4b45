<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A UV island.
 */
#[OA\Schema(schema: 'UvIslandData', description: 'A UV island.', required: ['part', 'page', 'key', 'triangles', 'density', 'stretch', 'gap', 'seen', 'turned', 'mirrored', 'meant', 'overlaps', 'box'])]
final readonly class UvIslandData
{
    /**
     * @param  list<float>  $box
     */
    public function __construct(
        #[OA\Property(description: 'its low part, by its place among the parts', type: 'integer')]
        public int $part,
        #[OA\Property(type: 'integer')]
        public int $page,
        #[OA\Property(description: 'by what it is known over deliveries, within its part', type: 'string')]
        public string $key,
        #[OA\Property(type: 'integer')]
        public int $triangles,
        #[OA\Property(description: 'px to a unit of length', type: 'number')]
        public float $density,
        #[OA\Property(description: '1 for none; 0 where it has no area', type: 'number')]
        public float $stretch,
        #[OA\Property(description: 'px to the nearest other island; null: far off', type: 'number', nullable: true)]
        public ?float $gap,
        #[OA\Property(description: 'share of its area', type: 'number')]
        public float $seen,
        #[OA\Property(description: 'degrees from upright; null where the surface has no up', type: 'number', nullable: true)]
        public ?float $turned,
        #[OA\Property(type: 'boolean')]
        public bool $mirrored,
        #[OA\Property(description: 'declared to lie on others', type: 'boolean')]
        public bool $meant,
        #[OA\Property(type: 'boolean')]
        public bool $overlaps,
        #[OA\Property(description: 'u and v of its least and greatest corner', type: 'array', items: new OA\Items(type: 'number'))]
        public array $box,
    ) {
    }
}
