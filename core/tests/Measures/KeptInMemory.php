<?php

declare(strict_types=1);

namespace Anvil\Tests\Measures;

use Anvil\Measures\MeasureStore;

/** What was measured, as the application's database keeps it: through JSON. */
final class KeptInMemory implements MeasureStore
{
    /** @var array<string, string> */
    public array $kept = [];

    /** @var list<string> names of the measures that were computed since this was emptied */
    public array $computed = [];

    public function find(string $key): ?array
    {
        if (! isset($this->kept[$key])) {
            return null;
        }

        /** @var array{stored: array<mixed>|null, names: array<string, mixed>|null} */
        return json_decode($this->kept[$key], true, 128, JSON_THROW_ON_ERROR);
    }

    public function keep(string $key, string $measure, ?array $stored, ?array $names): void
    {
        $this->computed[] = $measure;
        $this->kept[$key] = json_encode(['stored' => $stored, 'names' => $names], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
    }

    /**
     * A way in through which measures that another store has are kept here, instead of being computed anew. What is asked of this store itself is
     * answered from what came in that way so far.
     */
    public function fedBy(?MeasureStore $other): MeasureStore
    {
        return $other === null ? $this : new class($this, $other) implements MeasureStore
        {
            public function __construct(private readonly KeptInMemory $memory, private readonly MeasureStore $other)
            {
            }

            public function find(string $key): ?array
            {
                $found = $this->memory->find($key) ?? $this->other->find($key);
                if ($found !== null && ! isset($this->memory->kept[$key])) {
                    $this->memory->kept[$key] = json_encode($found, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
                }

                return $found;
            }

            public function keep(string $key, string $measure, ?array $stored, ?array $names): void
            {
                $this->memory->keep($key, $measure, $stored, $names);
                $this->other->keep($key, $measure, $stored, $names);
            }
        };
    }

    /**
     * @return array<string, int> measure → how often it was computed
     */
    public function counts(): array
    {
        $counts = array_count_values($this->computed);
        ksort($counts);
        $this->computed = [];

        return $counts;
    }
}
