<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A map that came back from a baker.
 */
#[OA\Schema(schema: 'ReturnedMapData', description: 'A map that came back from a baker.', required: ['file', 'number', 'name', 'kind', 'page', 'width', 'height', 'bits', 'tag', 'error', 'median', 'turn', 'greenInverted', 'srgb', 'differsShare', 'codes', 'size'])]
final readonly class ReturnedMapData
{
    /**
     * @param  list<string>  $codes
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $file,
        #[OA\Property(description: 'its place among the maps that were judged; -1: not judged yet', type: 'integer')]
        public int $number,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $kind,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $page,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $width,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $height,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $bits,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $tag,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(description: 'distance in the way that fits best: degrees, Delta E, or 0 to 1', type: 'number', nullable: true)]
        public ?float $median,
        #[OA\Property(type: 'string')]
        public string $turn,
        #[OA\Property(type: 'boolean')]
        public bool $greenInverted,
        #[OA\Property(type: 'boolean')]
        public bool $srgb,
        #[OA\Property(type: 'number')]
        public float $differsShare,
        #[OA\Property(description: 'of its findings', type: 'array', items: new OA\Items(type: 'string'))]
        public array $codes,
        #[OA\Property(description: 'px of its preview; 0: none', type: 'integer')]
        public int $size,
    ) {
    }
}
