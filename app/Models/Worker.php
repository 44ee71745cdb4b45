<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A queue worker and the job it holds.
 *
 * @property int $id
 * @property string $machine
 * @property int $pid
 * @property string $born boot and start time of its process
 * @property int|null $job_id
 * @property string|null $step what it does, as its job is named
 * @property string|null $last_words what it said as it died
 * @property Carbon $seen_at when it was known last to be there
 */
final class Worker extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['seen_at' => 'datetime'];
    }
}
