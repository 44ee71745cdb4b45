<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What was decided about an asset's sets, and the bases there are.
 */
#[OA\Schema(schema: 'BoardData', description: 'What was decided about an asset\'s sets, and the bases there are.', required: ['sets', 'leftOut', 'bakedOnItself', 'detachable', 'occlusion', 'shading'])]
final readonly class BoardData
{
    /**
     * @param  list<NamedSetData>  $sets
     * @param  list<string>  $leftOut
     * @param  list<string>  $bakedOnItself
     * @param  list<string>  $detachable
     * @param  string  $occlusion  own, all or named
     * @param  list<NamedSetData>  $shading  where named: set and those that shade it
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/NamedSetData'))]
        public array $sets,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $leftOut,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $bakedOnItself,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $detachable,
        #[OA\Property(description: 'own: each set shades only itself; all: all shade each other; named: as in shading', type: 'string', enum: ['own', 'all', 'named'])]
        public string $occlusion,
        #[OA\Property(description: 'where named: a set and, as patterns, those that shade it', type: 'array', items: new OA\Items(ref: '#/components/schemas/NamedSetData'))]
        public array $shading,
    ) {
    }
}
