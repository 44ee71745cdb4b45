<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A sealed hand-off package.
 *
 * @property int $id
 * @property int $delivery_id
 * @property string $state waiting, sealing, done or failed
 * @property string|null $error
 * @property string|null $name
 * @property string|null $path
 * @property int|null $bytes
 * @property string|null $sha256
 * @property string $sealed_by
 * @property Carbon $created_at
 * @property Delivery $delivery
 */
final class Package extends Model
{
    protected $guarded = [];

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }
}
