<?php

declare(strict_types=1);

namespace App\Models;

use App\Models\State\FileState;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A file of a delivery: a mesh file, or a side file that one names.
 *
 * @property int $id
 * @property int $delivery_id
 * @property int $position
 * @property string $name
 * @property string $path on the storage disk
 * @property string $kind mesh, side, plan, map, or a map that another took the place of: replaced
 * @property string|null $role chosen by a person; else the names tell; of a map its kind, where its name does not tell
 * @property string|null $page of a map, where its name does not tell
 * @property int $bytes
 * @property FileState $state
 * @property string|null $error
 * @property int|null $error_line
 * @property int|null $error_offset
 * @property string|null $sha256
 * @property string|null $format
 * @property string|null $unit
 * @property string|null $up_axis
 * @property list<string>|null $remarks
 * @property list<string>|null $extras
 * @property Delivery $delivery
 * @property Collection<int, Part> $parts
 */
final class File extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['state' => FileState::class, 'remarks' => 'array', 'extras' => 'array'];
    }

    /**
     * @return BelongsTo<Delivery, $this>
     */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }

    /**
     * @return HasMany<Part, $this>
     */
    public function parts(): HasMany
    {
        return $this->hasMany(Part::class)->orderBy('position');
    }
}
