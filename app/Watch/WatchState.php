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

    public function __construct(private readonly string $path)
    {
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
        $temporary = "$this->path.part";
        file_put_contents($temporary, json_encode((object) $this->known, JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR));
        rename($temporary, $this->path);
    }
}
