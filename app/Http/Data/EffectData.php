<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What other rules would change on the assets at hand.
 */
#[OA\Schema(schema: 'EffectData', description: 'What other rules would change on the assets at hand.', required: ['assets', 'foretold', 'judged', 'unknown', 'changed', 'nowBlocked', 'nowReady', 'waiversIdle', 'waiversDied', 'codes', 'rows', 'unknownChecks', 'next'])]
final readonly class EffectData
{
    /**
     * @param  list<EffectCodeData>  $codes
     * @param  list<EffectRowData>  $rows
     * @param  list<string>  $unknownChecks  titles of checks that need something measured anew
     */
    public function __construct(
        #[OA\Property(type: 'integer')]
        public int $assets,
        #[OA\Property(type: 'integer')]
        public int $foretold,
        #[OA\Property(type: 'integer')]
        public int $judged,
        #[OA\Property(type: 'integer')]
        public int $unknown,
        #[OA\Property(type: 'integer')]
        public int $changed,
        #[OA\Property(type: 'integer')]
        public int $nowBlocked,
        #[OA\Property(type: 'integer')]
        public int $nowReady,
        #[OA\Property(type: 'integer')]
        public int $waiversIdle,
        #[OA\Property(type: 'integer')]
        public int $waiversDied,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/EffectCodeData'))]
        public array $codes,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/EffectRowData'))]
        public array $rows,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'), description: 'checks that need something measured anew')]
        public array $unknownChecks,
        #[OA\Property(type: 'integer', nullable: true, description: 'what is told goes on after this asset')]
        public ?int $next,
    ) {
    }
}
