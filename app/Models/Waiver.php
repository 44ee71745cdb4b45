<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Standard\Waiver as Rule;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A person's written acceptance of one finding of an asset.
 *
 * @property int $id
 * @property int $asset_id
 * @property int|null $delivery_id where it was given
 * @property string $code
 * @property array<string, string> $subject
 * @property array{value: float, limit: float, unit: string, least?: bool}|null $measure that was accepted
 * @property string $message of the finding
 * @property string $reason
 * @property Carbon|null $until its last day
 * @property int|null $person_id
 * @property string $by
 * @property Carbon|null $withdrawn_at
 * @property string|null $withdrawn_by
 * @property Carbon|null $ended_at
 * @property Carbon $created_at
 * @property Delivery|null $delivery
 */
final class Waiver extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['subject' => 'array', 'measure' => 'array', 'until' => 'date', 'withdrawn_at' => 'datetime', 'ended_at' => 'datetime'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }

    /** As the core applies it. */
    public function rule(): Rule
    {
        return new Rule($this->code, $this->subject, $this->measure === null ? null : (float) $this->measure['value'], $this->by, $this->reason, $this->until?->toDateString());
    }

    public function isOver(): bool
    {
        return $this->until !== null && $this->until->toDateString() < now()->toDateString();
    }
}
