<?php

declare(strict_types=1);

namespace Anvil\Measures;

/**
 * Where results are kept by the hash of their inputs.
 */
interface MeasureStore
{
    /**
     * @return array{stored: array<mixed>|null, names: array<string, mixed>|null}|null null where it is not known
     */
    public function find(string $key): ?array;

    /**
     * @param  string  $measure  its name
     * @param  array<mixed>|null  $stored
     * @param  array<string, mixed>|null  $names  what the inputs are called, where the hash knows no names
     */
    public function keep(string $key, string $measure, ?array $stored, ?array $names): void;
}
