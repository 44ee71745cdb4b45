<?php

declare(strict_types=1);

namespace App\Deliveries\Stations;

use App\Http\Data\HandOffData;
use App\Http\Data\SettingData;
use App\Models\Delivery;

/**
 * The settings that go with a hand-off.
 */
final class HandOffPage
{
    public static function of(Delivery $delivery): HandOffData
    {
        return new HandOffData(self::settings($delivery));
    }

    /**
     * @return list<SettingData>
     */
    private static function settings(Delivery $delivery): array
    {
        /** @var list<array{setting: string, value: string, reason: string}> $settings */
        $settings = $delivery->report['settings'] ?? [];

        return array_map(static fn (array $row): SettingData => new SettingData($row['setting'], $row['value'], $row['reason']), $settings);
    }
}
