<?php

declare(strict_types=1);

namespace App\Models;

use App\Models\State\TaskState;
use Illuminate\Database\Eloquent\Model;

/**
 * One measure of one subject of a delivery, as its plan has it.
 *
 * @property int $id
 * @property int $delivery_id
 * @property int $wave those of one need what earlier ones gave
 * @property int $bundle done together, by one job
 * @property string $measure its name
 * @property string $subject key of what it is of
 * @property TaskState $state
 * @property string|null $key under which the result lies in `measures`
 * @property bool $reused it lay there already
 */
final class Task extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['state' => TaskState::class, 'reused' => 'boolean'];
    }
}
