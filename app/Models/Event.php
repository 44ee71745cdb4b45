<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * Something that was done.
 *
 * @property int $id
 * @property int|null $asset_id
 * @property int|null $delivery its number
 * @property int|null $person_id
 * @property string $who
 * @property string|null $via the name of the token that did it
 * @property string $words what follows the name
 * @property string|null $area what was decided, each with a space between; null: nothing was
 * @property Carbon $created_at
 */
final class Event extends Model
{
    public const UPDATED_AT = null;

    protected $guarded = [];
}
