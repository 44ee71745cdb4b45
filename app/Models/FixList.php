<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * Causes of a delivery that were sent back to an artist to be mended.
 *
 * @property int $id
 * @property int $asset_id
 * @property int $delivery_id
 * @property int|null $person_id who is to mend it
 * @property string $to
 * @property string $by
 * @property string|null $note
 * @property list<array{code: string, severity: string, message: string, remedy: string, afterBake: string, station: string, findings: list<array{subject: array<string, string>, message: string, remedy: string, measure: array{value: float, limit: float, unit: string, least?: bool}|null, where: list<float>, severity: string, count: int|null}>}> $causes as they stood
 * @property Carbon $created_at
 * @property Delivery $delivery
 */
final class FixList extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['causes' => 'array'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }
}
