<?php

declare(strict_types=1);

namespace App\People;

use OpenApi\Attributes as OA;

/**
 * What somebody is in the studio.
 */
#[OA\Schema(schema: 'Standing', type: 'string', enum: ['artist', 'technical-artist', 'lead'])]
enum Standing: string
{
    case Artist = 'artist';
    case TechnicalArtist = 'technical-artist';
    case Lead = 'lead';

    public function words(): string
    {
        return match ($this) {
            self::Artist => 'artist',
            self::TechnicalArtist => 'technical artist',
            self::Lead => 'lead',
        };
    }

    /**
     * What it gives leave to.
     *
     * @return list<Leave>
     */
    public function leaves(): array
    {
        return match ($this) {
            self::Artist => [Leave::View, Leave::Mend],
            self::TechnicalArtist => [Leave::View, Leave::Mend, Leave::Decide, Leave::Waive, Leave::SendBack, Leave::Seal],
            self::Lead => Leave::cases(),
        };
    }
}
