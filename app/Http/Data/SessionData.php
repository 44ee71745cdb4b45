<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Who is signed in; where nobody is, who may be with the demo.
 */
#[OA\Schema(schema: 'SessionData', description: 'Who is signed in; where nobody is, who may be with the demo.', required: ['me', 'crew', 'isFresh'])]
final readonly class SessionData
{
    /**
     * @param  list<CrewData>  $crew
     */
    public function __construct(
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/MeData')])]
        public ?MeData $me,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/CrewData'))]
        public array $crew,
        #[OA\Property(type: 'boolean')]
        public bool $isFresh,
    ) {
    }
}
