<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A queue worker and the job it holds, so that the job of a killed one is run again at once.
 *
 * @property int $id
 * @property string $host
 * @property int $pid
 * @property int|null $job_id
 */
final class Worker extends Model
{
    protected $guarded = [];
}
