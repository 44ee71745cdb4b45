<?php

declare(strict_types=1);

namespace App\Models;

use Anvil\Standard\Standard as Rules;
use Database\Factories\StandardFactory;
use Illuminate\Database\Eloquent\Factories\HasFactory;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A studio's rules, as the standard's file has them. Each version of them is kept.
 *
 * @property int $id
 * @property string $name
 * @property string $rules JSON
 * @property int $version
 * @property string $changed_by
 * @property Carbon $updated_at
 */
final class Standard extends Model
{
    /** @use HasFactory<StandardFactory> */
    use HasFactory;

    protected $guarded = [];

    /** Why it is changed, kept with the version that this makes. */
    public ?string $reason = null;

    protected static function booted(): void
    {
        self::saved(static function (self $standard): void {
            // What the database fills in is not known to a row that was just made.
            $version = $standard->version ?? 1;
            StandardVersion::query()->updateOrInsert(['standard_id' => $standard->id, 'version' => $version], ['name' => $standard->name, 'rules' => $standard->rules, 'changed_by' => $standard->changed_by, 'reason' => $standard->reason]);
        });
    }

    /**
     * @return HasMany<StandardVersion, $this>
     */
    public function versions(): HasMany
    {
        return $this->hasMany(StandardVersion::class)->orderByDesc('version');
    }

    /**
     * @return HasMany<Asset, $this>
     */
    public function assets(): HasMany
    {
        return $this->hasMany(Asset::class)->orderBy('name');
    }

    public function parsed(): Rules
    {
        return Rules::ofJson($this->rules);
    }

    /** Rules as they are kept. */
    public static function text(Rules $rules): string
    {
        return json_encode($rules->toArray(), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR);
    }
}
