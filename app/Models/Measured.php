<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Clearance\SetClearance;
use Anvil\Measures\Kind\Rays;
use Illuminate\Database\Eloquent\Model;

/**
 * What was measured, by the hash of all that it depends on; written by `KeptMeasures`.
 *
 * @property string $key
 * @property string $measure
 * @property array<string, mixed>|null $stored
 * @property array<string, mixed>|null $names
 */
final class Measured extends Model
{
    protected $table = 'measures';

    protected $primaryKey = 'key';

    protected $keyType = 'string';

    public $incrementing = false;

    public $timestamps = false;

    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['stored' => 'array', 'names' => 'array'];
    }

    /**
     * @param  array<string, mixed>|null  $names  what its inputs are called now
     */
    public function rays(?array $names): ?SetClearance
    {
        if ($this->stored === null || isset($this->stored['reason'])) {
            return null;
        }
        /** @var array<string, mixed> $stored */
        $stored = $this->names === null || $names === null ? $this->stored : (new Rays)->renamed($this->stored, $this->names, $names);

        return SetClearance::ofArray($stored);
    }
}
