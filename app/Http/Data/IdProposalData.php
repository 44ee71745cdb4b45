<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A colour of the most distinct palette.
 */
#[OA\Schema(schema: 'IdProposalData', description: 'A colour of the most distinct palette.', required: ['name', 'hex', 'parts'])]
final readonly class IdProposalData
{
    /**
     * @param  list<string>  $parts
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $hex,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $parts,
    ) {
    }
}
