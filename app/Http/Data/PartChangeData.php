<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What became of a part since the last delivery.
 */
#[OA\Schema(schema: 'PartChangeData', description: 'What became of a part since the last delivery.', required: ['name', 'was', 'role', 'states', 'words'])]
final readonly class PartChangeData
{
    /**
     * @param  list<string>  $states
     * @param  list<string>  $words
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $was,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $role,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $states,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $words,
    ) {
    }
}
