<?php

declare(strict_types=1);

namespace App\People;

use OpenApi\Attributes as OA;
use Symfony\Component\HttpKernel\Exception\HttpException;

#[OA\Response(response: 'ChangedMeanwhile', description: 'Somebody else decided the same since it was loaded; nothing was done', content: new OA\JsonContent(ref: '#/components/schemas/ChangedMeanwhileData'))]
#[OA\Parameter(parameter: 'Version', name: Decisions::HEADER, in: 'header', description: '`version` of the delivery as it was loaded; without it the last one who decides is right', schema: new OA\Schema(type: 'integer'))]
/**
 * Somebody else decided the same since it was loaded: nothing of what was asked is done, until it is asked for on top of that.
 */
final class ChangedMeanwhile extends HttpException
{
    /**
     * @param  list<array{who: string, when: string, words: string}>  $changes  the oldest first
     * @param  int  $version  to ask on top of
     */
    private function __construct(string $message, public readonly array $changes, public readonly int $version)
    {
        parent::__construct(409, $message);
    }

    /**
     * @param  non-empty-list<array{who: string, when: string, words: string}>  $changes  the oldest first
     * @param  int  $version  to ask on top of
     */
    public static function by(array $changes, int $version): self
    {
        $last = $changes[count($changes) - 1];

        return new self("{$last['who']} changed this after you loaded it: {$last['words']}. Your change is not saved yet: send it again on top of version $version, or load the page again", $changes, $version);
    }
}
