<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The Proof station.
 */
#[OA\Schema(schema: 'ProofData', description: 'The Proof station.', required: ['mapSize', 'green', 'pages', 'trials', 'before', 'beforeDelivery', 'beforeNumber', 'maps', 'caged'])]
final readonly class ProofData
{
    /**
     * @param  list<ProofPageData>  $pages
     * @param  list<TrialData>  $trials
     * @param  list<TrialData>  $before
     * @param  list<ReturnedMapData>  $maps
     * @param  list<string>  $caged
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $mapSize,
        #[OA\Property(type: 'string', enum: ['+Y', '-Y'])]
        public string $green,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/ProofPageData'))]
        public array $pages,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/TrialData'))]
        public array $trials,
        #[OA\Property(description: 'trials of the delivery before this one', type: 'array', items: new OA\Items(ref: '#/components/schemas/TrialData'))]
        public array $before,
        #[OA\Property(description: 'its id', type: 'integer', nullable: true)]
        public ?int $beforeDelivery,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $beforeNumber,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/ReturnedMapData'))]
        public array $maps,
        #[OA\Property(description: 'sets with a handed-in cage', type: 'array', items: new OA\Items(type: 'string'))]
        public array $caged,
    ) {
    }
}
