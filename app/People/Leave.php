<?php

declare(strict_types=1);

namespace App\People;

use OpenApi\Attributes as OA;

/**
 * What somebody may be given leave to. Routes name it (`can:decide,delivery`).
 */
#[OA\Schema(schema: 'Leave', type: 'string', enum: ['view', 'mend', 'decide', 'waive', 'sendBack', 'seal', 'delete', 'people'])]
enum Leave: string
{
    /** See assets, and all that was measured and found. */
    case View = 'view';
    /** Hand files in, write mended ones, bake trials. */
    case Mend = 'mend';
    /** Choices: sets, reach, IDs, what is left out or declared. */
    case Decide = 'decide';
    case Waive = 'waive';
    case SendBack = 'sendBack';
    case Seal = 'seal';
    case Delete = 'delete';
    case People = 'people';

    /** The scope that a token needs for it; null: no token has it. */
    public function scope(): ?string
    {
        return match ($this) {
            self::View => 'read',
            self::Mend => 'hand-in',
            self::Decide, self::Waive, self::SendBack, self::Seal => 'decide',
            self::Delete, self::People => null,
        };
    }

    /** Why somebody without it is refused. */
    public function refusal(): string
    {
        return match ($this) {
            self::View, self::Mend => 'this token was not made for that',
            self::Decide => 'an artist does not decide this; ask a technical artist',
            self::Waive => 'an artist waives no findings; ask a technical artist',
            self::SendBack => 'an artist sends nothing back; ask a technical artist',
            self::Seal => 'an artist seals no package; ask a technical artist',
            self::Delete => 'only a lead deletes; ask one',
            self::People => 'only a lead looks after people; ask one',
        };
    }
}
