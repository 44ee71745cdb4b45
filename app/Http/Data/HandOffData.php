<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * What Hand-off shows beside the packages.
 */
#[OA\Schema(schema: 'HandOffData', description: 'What Hand-off shows beside the packages.', required: ['settings', 'waivers', 'shades', 'leftOut', 'legend', 'pages', 'along'])]
final readonly class HandOffData
{
    /**
     * @param  list<SettingData>  $settings
     * @param  list<WaiverData>  $waivers  the newest first
     * @param  list<array{set: string, by: string, share: float, wanted: bool}>  $shades
     * @param  list<string>  $leftOut  parts
     * @param  list<array{name: string, hex: string, parts: list<string>}>  $legend
     * @param  list<array{page: string, texels: int, share: float}>  $pages  what is left to paint
     * @param  list<AlongData>  $along  what can go along with a package
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/SettingData'))]
        public array $settings,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/WaiverData'))]
        public array $waivers,
        #[OA\Property(type: 'array', items: new OA\Items(required: ['set', 'by', 'share', 'wanted'], properties: [new OA\Property(property: 'set', type: 'string'), new OA\Property(property: 'by', type: 'string'), new OA\Property(property: 'share', type: 'number'), new OA\Property(property: 'wanted', type: 'boolean')], type: 'object'))]
        public array $shades,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $leftOut,
        #[OA\Property(type: 'array', items: new OA\Items(required: ['name', 'hex', 'parts'], properties: [new OA\Property(property: 'name', type: 'string'), new OA\Property(property: 'hex', type: 'string'), new OA\Property(property: 'parts', type: 'array', items: new OA\Items(type: 'string'))], type: 'object'))]
        public array $legend,
        #[OA\Property(type: 'array', items: new OA\Items(required: ['page', 'texels', 'share'], properties: [new OA\Property(property: 'page', type: 'string'), new OA\Property(property: 'texels', type: 'integer'), new OA\Property(property: 'share', type: 'number')], type: 'object'))]
        public array $pages,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/AlongData'))]
        public array $along,
    ) {
    }
}
