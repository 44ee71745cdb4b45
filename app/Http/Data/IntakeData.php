<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Intake shows beside the files.
 */
#[OA\Schema(schema: 'IntakeData', description: 'What Intake shows beside the files.', required: ['place', 'suffixGuess'])]
final readonly class IntakeData
{
    public function __construct(
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/PlaceMendData')])]
        public ?PlaceMendData $place,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/SuffixGuessData')])]
        public ?SuffixGuessData $suffixGuess,
    ) {
    }
}
