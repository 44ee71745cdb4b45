<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Pairing shows beside the parts.
 */
#[OA\Schema(schema: 'PairingData', description: 'What Pairing shows beside the parts.', required: ['ties', 'suggestions', 'suffixGuess', 'wholeBake'])]
final readonly class PairingData
{
    /**
     * @param  list<TieData>  $ties
     * @param  list<SuggestionData>  $suggestions
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/TieData'))]
        public array $ties,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/SuggestionData'))]
        public array $suggestions,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/SuffixGuessData')])]
        public ?SuffixGuessData $suffixGuess,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/WholeData')])]
        public ?WholeData $wholeBake,
    ) {
    }
}
