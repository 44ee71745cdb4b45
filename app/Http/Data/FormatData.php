<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A format that is read.
 */
#[OA\Schema(schema: 'FormatData', description: 'A format that is read.', required: ['ending', 'name', 'carries', 'written'])]
final readonly class FormatData
{
    /**
     * @param  list<string>  $carries
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $ending,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $carries,
        #[OA\Property(type: 'boolean')]
        public bool $written,
    ) {
    }
}
