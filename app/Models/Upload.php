<?php

declare(strict_types=1);

namespace App\Models;

use App\People\Who;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Concerns\HasUuids;
use Illuminate\Database\Eloquent\Model;

/**
 * A file on its way in; its bytes so far are on the storage disk.
 *
 * @property string $id
 * @property string $name
 * @property int $bytes
 * @property int $received
 * @property string $uploaded_by
 * @property int|null $person_id
 */
final class Upload extends Model
{
    use HasUuids;

    protected $guarded = [];

    /**
     * Those that were begun by who asks.
     *
     * @return Builder<self>
     */
    public static function own(): Builder
    {
        return self::query()->where('person_id', Who::person()?->id);
    }

    public function path(): string
    {
        return "uploads/$this->id";
    }
}
