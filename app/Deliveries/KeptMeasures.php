<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Measures\FolderStore;
use Anvil\Measures\MeasureStore;
use App\Models\State\DeliveryState;
use Illuminate\Support\Facades\DB;

/**
 * What was measured, kept once for all deliveries and assets by the hash of all that it depends on.
 */
final class KeptMeasures implements MeasureStore
{
    private const AT_ONCE = 500;

    /** What nothing refers to is kept so long, in seconds: a delivery that is being planned may still take it. */
    private const UNUSED = 86_400;

    /** @var array<string, array{stored: array<mixed>|null, names: array<string, mixed>|null}> */
    private array $fetched = [];

    /** @var array<string, true> keys that are not there, as far as was asked */
    private array $missing = [];

    /** @param  bool  $isStill  nobody computes what is asked for: what is not there need not be looked for again */
    public function __construct(private readonly bool $isStill = false)
    {
    }

    public function find(string $key): ?array
    {
        if (! isset($this->fetched[$key]) && ! isset($this->missing[$key])) {
            $this->fetch([$key]);
        }

        return $this->fetched[$key] ?? null;
    }

    /**
     * Gets many at once.
     *
     * @param  list<string>  $keys
     */
    public function fetch(array $keys): void
    {
        foreach (array_chunk(array_values(array_unique($keys)), self::AT_ONCE) as $some) {
            $rows = DB::table('measures')->whereIn('key', $some)->get(['key', 'stored', 'names']);
            foreach ($rows as $row) {
                if (is_string($row->key) && is_string($row->stored)) {
                    /** @var array<mixed>|null $stored */
                    $stored = json_decode($row->stored, true, 128, JSON_THROW_ON_ERROR);
                    /** @var array<string, mixed>|null $names */
                    $names = is_string($row->names) ? json_decode($row->names, true, 128, JSON_THROW_ON_ERROR) : null;
                    $this->fetched[$row->key] = ['stored' => $stored, 'names' => $names];
                }
            }
            foreach (self::folder() === null ? [] : $some as $key) {
                $kept = isset($this->fetched[$key]) ? null : self::takeOver($key);
                if ($kept !== null) {
                    $this->fetched[$key] = $kept;
                }
            }
            foreach ($this->isStill ? $some : [] as $key) {
                if (! isset($this->fetched[$key])) {
                    $this->missing[$key] = true;
                }
            }
        }
    }

    /**
     * Which of these are kept.
     *
     * @param  list<string>  $keys
     * @return array<string, true>
     */
    public static function known(array $keys): array
    {
        $out = [];
        foreach (array_chunk(array_values(array_unique($keys)), self::AT_ONCE) as $some) {
            foreach (DB::table('measures')->whereIn('key', $some)->pluck('key') as $key) {
                if (is_string($key)) {
                    $out[$key] = true;
                }
            }
            foreach (self::folder() === null ? [] : $some as $key) {
                if (! isset($out[$key]) && self::takeOver($key) !== null) {
                    $out[$key] = true;
                }
            }
        }

        return $out;
    }

    public function keep(string $key, string $measure, ?array $stored, ?array $names): void
    {
        self::folder()?->keep($key, $measure, $stored, $names);
        self::insert($key, $measure, $stored, $names);
    }

    /** What the command line kept, where both are given one folder (`anvil.measures`). */
    private static function folder(): ?FolderStore
    {
        $folder = config('anvil.measures');

        return is_string($folder) && $folder !== '' ? new FolderStore($folder) : null;
    }

    /**
     * @return array{stored: array<mixed>|null, names: array<string, mixed>|null}|null
     */
    private static function takeOver(string $key): ?array
    {
        $kept = self::folder()?->find($key);
        if ($kept !== null) {
            self::insert($key, $kept['measure'], $kept['stored'], $kept['names']);
        }

        return $kept;
    }

    /**
     * @param  array<mixed>|null  $stored
     * @param  array<string, mixed>|null  $names
     */
    private static function insert(string $key, string $measure, ?array $stored, ?array $names): void
    {
        $json = static fn (mixed $value): string => json_encode($value, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_INVALID_UTF8_SUBSTITUTE | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);
        // Two workers that measure the same at one time come to the same: the first is kept.
        DB::table('measures')->insertOrIgnore(['key' => $key, 'measure' => $measure, 'stored' => $json($stored), 'names' => $names === null ? null : $json($names)]);
    }

    /**
     * Clears away what no delivery refers to.
     *
     * @param  int  $unused  kept at least so long, in seconds
     * @return int how many
     */
    public static function prune(int $unused = self::UNUSED): int
    {
        // The keys of a delivery that is being measured are not all known yet.
        if (DB::table('deliveries')->whereNotIn('state', array_map(static fn (DeliveryState $state): string => $state->value, DeliveryState::OVER))->exists()) {
            return 0;
        }

        return DB::delete('delete from measures where kept_at <= now() - interval ? second and not exists (select 1 from tasks where tasks.`key` = measures.`key`)', [$unused]);
    }
}
