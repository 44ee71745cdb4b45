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

    /** Whether a delivery of this state may come into another: on with what is done of it, over at any time, and once that is so, anew. */
    public function mayBecome(self $next): bool
    {
        if ($this->isOver()) {
            return in_array($next, [self::Writing, self::Reading, self::Measuring], true);
        }
        $goesOn = match ($this) {
            self::Writing => [self::Reading],
            self::Reading => [self::Reading, self::Measuring],
            // A choice that is made meanwhile, or a file that comes, begins it anew.
            self::Measuring => [self::Reading, self::Measuring, self::Checking],
            self::Checking => [self::Reading, self::Measuring, self::Done],
            default => [],
        };

        return in_array($next, [...$goesOn, self::Failed, self::Cancelled], true);
    }

    public function isOver(): bool
    {
        return in_array($this, self::OVER, true);
    }
}
