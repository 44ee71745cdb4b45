<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A mail that no server was there to take: it lies in the inbox page.
 *
 * @property int $id
 * @property string $to
 * @property string $subject
 * @property string $text
 * @property Carbon|null $read_at
 * @property Carbon $created_at
 */
final class Letter extends Model
{
    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['read_at' => 'datetime'];
    }
}
