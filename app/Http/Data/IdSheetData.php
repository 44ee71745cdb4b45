<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\MakingState;
use OpenApi\Attributes as OA;
use stdClass;

/**
 * The IDs that are to be given, and how far apart they are.
 */
#[OA\Schema(schema: 'IdSheetData', description: 'The IDs that are to be given, and how far apart they are.', required: ['cut', 'version', 'state', 'error', 'by', 'angle', 'allEyes', 'pins', 'ids', 'pieces', 'least', 'leastTouching', 'leastBefore', 'remarks'])]
final readonly class IdSheetData
{
    /**
     * @param  int  $cut  the output in which the high poly is cut
     * @param  int  $version  how often something was decided about the IDs of the asset
     * @param  float  $angle  degrees
     * @param  stdClass  $pins  name of an ID, with `*` → hex
     * @param  list<SheetIdData>  $ids
     * @param  list<IdPieceData>  $pieces
     * @param  list<float|null>  $least  ΔE00 between any two, to the usual eye, then as protan, deutan and tritan vision sees them
     * @param  float|null  $leastTouching  between any two that touch
     * @param  float|null  $leastBefore  the same, had colors been given in order
     * @param  list<string>  $remarks
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $cut,
        #[OA\Property(type: 'integer')]
        public int $version,
        #[OA\Property(ref: '#/components/schemas/MakingState')]
        public MakingState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'string', enum: ['part', 'material', 'shell', 'region', 'set', 'colors'])]
        public string $by,
        #[OA\Property(type: 'number')]
        public float $angle,
        #[OA\Property(type: 'boolean')]
        public bool $allEyes,
        #[OA\Property(type: 'object', additionalProperties: new OA\AdditionalProperties(type: 'string'))]
        public stdClass $pins,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/SheetIdData'))]
        public array $ids,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/IdPieceData'))]
        public array $pieces,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'number', nullable: true))]
        public array $least,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $leastTouching,
        #[OA\Property(type: 'number', nullable: true)]
        public ?float $leastBefore,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $remarks,
    ) {
    }
}
