<?php

declare(strict_types=1);

namespace App\Models;

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
 */
final class Upload extends Model
{
    use HasUuids;

    protected $guarded = [];

    public function path(): string
    {
        return "uploads/$this->id";
    }
}
