<?php

declare(strict_types=1);

namespace App\Watch;

/**
 * What a watch knows of the assets in its folder, kept outside of it: over a stop it goes on where it was.
 *
 * @phpstan-type Known array{content: string, asset: int|null, delivery: int|null, reported: string|null, refused: string|null, handing: bool}
 */
final class WatchState
{
    /** @var array<string, Known> by asset */
    private array $known = [];

    /** @var array<string, list<string>> path of a report → SHA-256 of what was written there, and of what was before it */
    private array $written = [];

    public function __construct(private readonly string $path)
    {
        $reports = is_file("$path.reports") ? json_decode((string) file_get_contents("$path.reports"), true) : null;
        foreach (is_array($reports) ? $reports : [] as $report => $sums) {
            $this->written[(string) $report] = is_array($sums) ? array_values(array_filter($sums, is_string(...))) : [];
        }
        $text = is_file($path) ? file_get_contents($path) : false;
        $kept = $text === false ? null : json_decode($text, true);
        foreach (is_array($kept) ? $kept : [] as $name => $one) {
            if (is_array($one) && is_string($one['content'] ?? null)) {
                $this->known[(string) $name] = [
                    'content' => $one['content'], 'asset' => is_int($one['asset'] ?? null) ? $one['asset'] : null, 'delivery' => is_int($one['delivery'] ?? null) ? $one['delivery'] : null,
                    'reported' => is_string($one['reported'] ?? null) ? $one['reported'] : null, 'refused' => is_string($one['refused'] ?? null) ? $one['refused'] : null, 'handing' => ($one['handing'] ?? false) === true,
                ];
            }
        }
    }

    /**
     * @return Known|null
     */
    public function of(string $name): ?array
    {
        return $this->known[$name] ?? null;
    }

    /**
     * @return list<string>
     */
    public function names(): array
    {
        return array_map(strval(...), array_keys($this->known));
    }

    /**
     * @param  Known|null  $one  null: nothing is known of it any more
     */
    public function put(string $name, ?array $one): void
    {
        if ($one === null) {
            unset($this->known[$name]);
        } else {
            $this->known[$name] = $one;
        }
        self::write($this->path, $this->known);
    }

    /** Whether a report that lies there is as this watch wrote it; nobody else's file is ever replaced. */
    public function isOwn(string $path): bool
    {
        return ! file_exists($path) || (isset($this->written[$path]) && ! is_link($path) && in_array(@hash_file('sha256', $path), $this->written[$path], true));
    }

    /** What is about to be written as a report: known before it is there, so that a stop in between leaves nothing that is taken for somebody else's. */
    public function writes(string $path, string $text): void
    {
        $this->written[$path] = array_slice([hash('sha256', $text), ...$this->written[$path] ?? []], 0, 2);
        self::write("$this->path.reports", $this->written);
    }

    /**
     * @param  array<string, mixed>  $what
     */
    private static function write(string $path, array $what): void
    {
        file_put_contents("$path.part", json_encode((object) $what, JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR));
        rename("$path.part", $path);
    }
}
