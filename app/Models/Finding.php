<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * What a check found on a delivery.
 *
 * @property int $id
 * @property int $delivery_id
 * @property int $position
 * @property string $code
 * @property string $station
 * @property string $severity
 * @property string $message
 * @property string $remedy
 * @property array<string, string> $subject
 * @property array{value: float, limit: float, unit: string, least?: bool}|null $measure `least`: less is worse
 * @property int|null $texels
 * @property int|null $count
 * @property list<array{float, float, float}> $where
 * @property bool $waived
 * @property string|null $key what it is about
 * @property int|null $cause its number among the causes of the delivery's report
 */
final class Finding extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['subject' => 'array', 'measure' => 'array', 'where' => 'array', 'waived' => 'boolean'];
    }
}
