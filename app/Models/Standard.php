<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Standard\Standard as Rules;
use Database\Factories\StandardFactory;
use Illuminate\Database\Eloquent\Factories\HasFactory;
use Illuminate\Database\Eloquent\Model;

/**
 * A studio's rules, as the standard's file has them.
 *
 * @property int $id
 * @property string $name
 * @property string $rules JSON
 * @property int $version
 * @property string $changed_by
 */
final class Standard extends Model
{
    /** @use HasFactory<StandardFactory> */
    use HasFactory;

    protected $guarded = [];

    public function parsed(): Rules
    {
        return Rules::ofJson($this->rules);
    }
}
