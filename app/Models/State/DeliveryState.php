<?php

declare(strict_types=1);

namespace App\Models\State;

use OpenApi\Attributes as OA;

/**
 * How far a delivery has come.
 */
#[OA\Schema(schema: 'DeliveryState', type: 'string')]
enum DeliveryState: string
{
    case Writing = 'writing';
    case Reading = 'reading';
    case Measuring = 'measuring';
    case Checking = 'checking';
    case Done = 'done';
    case Failed = 'failed';
    case Cancelled = 'cancelled';

    /** States that nothing goes on in. */
    public const OVER = [self::Done, self::Failed, self::Cancelled];

    public function isOver(): bool
    {
        return in_array($this, self::OVER, true);
    }
}
