<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\FileState;
use OpenApi\Attributes as OA;

/**
 * A file of a delivery.
 */
#[OA\Schema(schema: 'FileData', description: 'A file of a delivery.', required: ['id', 'name', 'kind', 'role', 'roleBy', 'bytes', 'state', 'error', 'errorLine', 'errorOffset', 'sha256', 'format', 'unit', 'upAxis', 'parts', 'triangles', 'vertices', 'materials', 'bounds', 'inFrame', 'remarks', 'extras', 'cannotCarry', 'rolesOfParts', 'frame'])]
final readonly class FileData
{
    /**
     * @param  list<string>  $materials
     * @param  list<string>  $remarks
     * @param  list<string>  $extras
     * @param  list<string>  $cannotCarry
     * @param  list<string>  $rolesOfParts
     * @param  list<float>|null  $frame
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'string')]
        public string $name,
        #[OA\Property(type: 'string')]
        public string $kind,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $role,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $roleBy,
        #[OA\Property(type: 'integer')]
        public int $bytes,
        #[OA\Property(ref: '#/components/schemas/FileState')]
        public FileState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $errorLine,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $errorOffset,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $sha256,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $format,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $unit,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $upAxis,
        #[OA\Property(type: 'integer')]
        public int $parts,
        #[OA\Property(type: 'integer')]
        public int $triangles,
        #[OA\Property(type: 'integer')]
        public int $vertices,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $materials,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/BoundsData')])]
        public ?BoundsData $bounds,
        #[OA\Property(description: 'the same box in the low file\'s unit and axes', nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/BoundsData')])]
        public ?BoundsData $inFrame,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $remarks,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $extras,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $cannotCarry,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $rolesOfParts,
        #[OA\Property(description: 'from its own unit and axes to those that all files are shown in, column by column; null where it has these', type: 'array', nullable: true, items: new OA\Items(type: 'number'))]
        public ?array $frame,
    ) {
    }
}
