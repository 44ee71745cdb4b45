<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * The reach that every set shares, and how many sets the usual 1 % serves.
 */
#[OA\Schema(schema: 'CommonData', description: 'The reach that every set shares, and how many sets the usual 1 % serves.', required: ['out', 'in', 'usualServes', 'of'])]
final readonly class CommonData
{
    /**
     * @param  list<float>|null  $out
     * @param  list<float>|null  $in
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'), nullable: true)]
        public ?array $out,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number'), nullable: true)]
        public ?array $in,
        #[OA\Property(type: 'integer')]
        public int $usualServes,
        #[OA\Property(type: 'integer')]
        public int $of,
    ) {
    }
}
