<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The ID colours of an asset, and the palette that would be most distinct.
 */
#[OA\Schema(schema: 'IdsData', description: 'The ID colours of an asset, and the palette that would be most distinct.', required: ['source', 'colors', 'missing', 'least', 'proposal', 'proposalLeast'])]
final readonly class IdsData
{
    /**
     * @param  list<IdColorData>  $colors
     * @param  list<string>  $missing
     * @param  list<IdProposalData>  $proposal
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $source,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/IdColorData'))]
        public array $colors,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $missing,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $least,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/IdProposalData'))]
        public array $proposal,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $proposalLeast,
    ) {
    }
}
