<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use Anvil\Standard\Reach;
use App\Http\Data\ClearanceData;
use App\Http\Data\CommonData;
use App\Models\Delivery;

/**
 * The reach that all sets of a delivery share.
 */
final class ClearancePage
{
    public static function of(Delivery $delivery): ClearanceData
    {
        return new ClearanceData(self::common($delivery));
    }

    private static function common(Delivery $delivery): CommonData
    {
        $serves = $of = 0;
        foreach ($delivery->sets as $set) {
            $c = $set->measured();
            if ($c !== null) {
                $of++;
                $usual = 0.01 * $c->d;
                $serves += $usual >= $c->needed->out && $usual < ($c->firstWrong['out'] ?? INF) ? 1 : 0;
            }
        }
        /** @var array{out?: list<float>|null, in?: list<float>|null} $common */
        $common = $delivery->report['common'] ?? [];
        // An open end is kept as −1: JSON has no infinity, and null already says that there is no common reach.
        $open = static function (?array $span): ?array {
            return $span === null ? null : array_map(static fn (mixed $end): float => is_numeric($end) ? (float) $end : -1.0, array_values($span));
        };

        return new CommonData($open($common['out'] ?? null), $open($common['in'] ?? null), $serves, $of);
    }
}
