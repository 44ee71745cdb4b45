<?php

declare(strict_types=1);

namespace App\Http\Data;

use App\Models\State\DeliveryState;
use OpenApi\Attributes as OA;

/**
 * What bar, rail, stand and findings show of a delivery.
 */
#[OA\Schema(schema: 'DeliveryData', description: 'What bar, rail, stand and findings show of a delivery.', required: ['mark', 'version', 'id', 'number', 'assetId', 'assetName', 'state', 'error', 'verdict', 'blockers', 'cautions', 'notes', 'handedInAt', 'handedInBy', 'checkedAt', 'derivedFrom', 'madeByWords', 'progress', 'standard', 'unit', 'stations', 'files', 'parts', 'sets', 'findings', 'causes', 'checks', 'explode', 'outputs', 'packages', 'exploded', 'sentBack', 'judgedBy'])]
final readonly class DeliveryData
{
    /**
     * @param  list<StationData>  $stations
     * @param  list<FileData>  $files
     * @param  list<PartData>  $parts
     * @param  list<SetData>  $sets
     * @param  list<FindingData>  $findings
     * @param  list<CauseData>  $causes
     * @param  list<CheckData>  $checks
     * @param  list<OutputData>  $outputs
     * @param  list<PackageData>  $packages
     */
    public function __construct(
        #[OA\Property(description: 'another one once anything of the delivery changed', type: 'string')]
        public string $mark,
        #[OA\Property(description: 'the number of the last decision about the asset: a decision that is sent with it in the header X-Anvil-Version is refused with 409 where somebody else decided the same since', type: 'integer')]
        public int $version,
        #[OA\Property(type: 'integer')]
        public int $id,
        #[OA\Property(type: 'integer')]
        public int $number,
        #[OA\Property(type: 'integer')]
        public int $assetId,
        #[OA\Property(type: 'string')]
        public string $assetName,
        #[OA\Property(ref: '#/components/schemas/DeliveryState')]
        public DeliveryState $state,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $error,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $verdict,
        #[OA\Property(type: 'integer')]
        public int $blockers,
        #[OA\Property(type: 'integer')]
        public int $cautions,
        #[OA\Property(type: 'integer')]
        public int $notes,
        #[OA\Property(type: 'string')]
        public string $handedInAt,
        #[OA\Property(type: 'string')]
        public string $handedInBy,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $checkedAt,
        #[OA\Property(type: 'integer', nullable: true)]
        public ?int $derivedFrom,
        #[OA\Property(type: 'string', nullable: true)]
        public ?string $madeByWords,
        #[OA\Property(ref: '#/components/schemas/ProgressData')]
        public ProgressData $progress,
        #[OA\Property(ref: '#/components/schemas/StandardData')]
        public StandardData $standard,
        #[OA\Property(description: 'of all lengths; null where neither the files nor the standard say one', type: 'string', nullable: true)]
        public ?string $unit,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/StationData'))]
        public array $stations,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FileData'))]
        public array $files,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/PartData'))]
        public array $parts,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/SetData'))]
        public array $sets,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FindingData'))]
        public array $findings,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/CauseData'))]
        public array $causes,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/CheckData'))]
        public array $checks,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/ExplodeData')])]
        public ?ExplodeData $explode,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/OutputData'))]
        public array $outputs,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/PackageData'))]
        public array $packages,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/ExplodedData')])]
        public ?ExplodedData $exploded,
        #[OA\Property(nullable: true, oneOf: [new OA\Schema(ref: '#/components/schemas/FixStateData')])]
        public ?FixStateData $sentBack,
        #[OA\Property(type: 'integer', nullable: true, description: 'version of the standard that it was judged by')]
        public ?int $judgedBy,
    ) {
    }
}
