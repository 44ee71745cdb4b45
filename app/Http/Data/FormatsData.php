<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Which formats are read, what each carries, and which are not.
 */
#[OA\Schema(schema: 'FormatsData', description: 'Which formats are read, what each carries, and which are not.', required: ['carried', 'formats', 'notRead'])]
final readonly class FormatsData
{
    /**
     * @param  list<string>  $carried
     * @param  list<FormatData>  $formats
     * @param  list<string>  $notRead
     */
    public function __construct(
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $carried,
        #[OA\Property(type: 'array', items: new OA\Items(ref: '#/components/schemas/FormatData'))]
        public array $formats,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'string'))]
        public array $notRead,
    ) {
    }
}
