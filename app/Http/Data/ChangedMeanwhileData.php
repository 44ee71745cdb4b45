<?php

declare(strict_types=1);

namespace App\Http\Data;

use OpenApi\Attributes as OA;

/**
 * Somebody else decided the same since it was loaded; nothing was done.
 */
#[OA\Schema(schema: 'ChangedMeanwhileData', description: 'Somebody else decided the same since it was loaded; nothing was done.', required: ['message', 'changes', 'version'])]
final readonly class ChangedMeanwhileData
{
    /**
     * @param  list<array{who: string, when: string, words: string}>  $changes
     */
    public function __construct(
        #[OA\Property(type: 'string')]
        public string $message,
        #[OA\Property(description: 'the oldest first', type: 'array', items: new OA\Items(type: 'object', required: ['who', 'when', 'words'], properties: [new OA\Property(property: 'who', type: 'string'), new OA\Property(property: 'when', type: 'string'), new OA\Property(property: 'words', description: 'what they did, after the name', type: 'string')]))]
        public array $changes,
        #[OA\Property(description: 'send it again with this one to put it on top', type: 'integer')]
        public int $version,
    ) {
    }
}
