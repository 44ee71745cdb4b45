<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * A part.
 */
#[OA\Schema(schema: 'PartData', description: 'A part.', required: ['name', 'file', 'fileId', 'role', 'base', 'triangles', 'vertices', 'materials', 'set', 'hasNormals', 'hasUvs'])]
final readonly class PartData
{
    /**
     * @param  list<string>  $materials
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $file,
        #[OA\Property(type: 'integer')]
        public int $fileId,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $role,
        #[OA\Property(type: 'string')]
        public string $base,
        #[OA\Property(type: 'integer')]
        public int $triangles,
        #[OA\Property(type: 'integer')]
        public int $vertices,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $materials,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $set,
        #[OA\Property(type: 'boolean')]
        public bool $hasNormals,
        #[OA\Property(type: 'boolean')]
        public bool $hasUvs,
    ) {
    }
}
