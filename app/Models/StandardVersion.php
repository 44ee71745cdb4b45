<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Standard\Standard as Rules;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * One version of a standard, as it was.
 *
 * @property int $id
 * @property int $standard_id
 * @property int $version
 * @property string $name
 * @property string $rules JSON
 * @property string $changed_by
 * @property string|null $reason
 * @property Carbon $created_at
 */
final class StandardVersion extends Model
{
    public const UPDATED_AT = null;

    protected $guarded = [];

    public function parsed(): Rules
    {
        return Rules::ofJson($this->rules);
    }

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['created_at' => 'datetime'];
    }
}
