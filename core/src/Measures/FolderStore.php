<?php

declare(strict_types=1);

namespace Anvil\Measures;

use JsonException;

/**
 * Results in a folder, a file each: what one process measured, another one that is given the same folder need not measure again. Files are written
 * whole or not at all, and one that cannot be read counts as not there.
 */
final readonly class FolderStore implements MeasureStore
{
    public function __construct(private string $folder)
    {
    }

    /**
     * @return array{stored: array<mixed>|null, names: array<string, mixed>|null, measure: string}|null
     */
    public function find(string $key): ?array
    {
        $text = @file_get_contents("$this->folder/$key.json");
        if ($text === false) {
            return null;
        }
        try {
            $kept = json_decode($text, true, 128, JSON_THROW_ON_ERROR);
        } catch (JsonException) {
            return null;
        }
        if (! is_array($kept) || ! array_key_exists('stored', $kept) || ! array_key_exists('names', $kept) || ! is_string($kept['measure'] ?? null)) {
            return null;
        }

        /** @var array{stored: array<mixed>|null, names: array<string, mixed>|null, measure: string} */
        return $kept;
    }

    public function keep(string $key, string $measure, ?array $stored, ?array $names): void
    {
        $text = json_encode(['measure' => $measure, 'stored' => $stored, 'names' => $names], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_INVALID_UTF8_SUBSTITUTE);
        // Under a name of its own first: another process may be reading.
        $path = @tempnam($this->folder, 'part-');
        if ($path !== false && @file_put_contents($path, $text) === strlen($text)) {
            @rename($path, "$this->folder/$key.json");
        }
    }
}
