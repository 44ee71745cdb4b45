<?php

declare(strict_types=1);

namespace Anvil\Changes;

use Anvil\Standard\Role;

/**
 * What became of a part since the last delivery.
 */
final readonly class PartChange
{
    /** In the order in which they are told. */
    public const STATES = ['same', 'renamed', 'moved', 'reshaped', 're-unwrapped', 're-shaded', 'recoloured', 'added', 'gone'];

    /**
     * @param  string  $name  now; of one that is gone, then
     * @param  string|null  $was  its name then, where that was another
     * @param  non-empty-list<string>  $states  of `STATES`
     * @param  array<string, float>  $measure  `distance` (of the middle of its bounds, length), `turn` (deg), `factor`, `greatest` (how far its surface went at most, length),
     *                                         `share` (of its area that went, 0–1), `triangles` and `wasTriangles` where they differ, `uvShare`, `shadingShare`, `colorShare` (of its triangles, 0–1)
     */
    public function __construct(public string $name, public ?string $was, public ?Role $role, public array $states, public array $measure = [])
    {
    }

    public function is(string ...$states): bool
    {
        return array_intersect($this->states, $states) !== [];
    }

    /** How far its surface went at most, in file units. */
    public function greatest(): float
    {
        return $this->measure['greatest'] ?? 0.0;
    }

    /**
     * @return array{name: string, was?: string, role: string|null, state: list<string>, measure?: array<string, float>} as `anvil:changes --json` prints it
     */
    public function toArray(): array
    {
        return [
            'name' => $this->name, ...($this->was === null ? [] : ['was' => $this->was]), 'role' => $this->role?->value, 'state' => $this->states,
            ...($this->measure === [] ? [] : ['measure' => array_map(static fn (float $value): float => (float) sprintf('%.9g', $value), $this->measure)]),
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        $text = static fn (string $key): ?string => is_string($stored[$key] ?? null) ? $stored[$key] : null;
        $states = array_values(array_filter(is_array($stored['state'] ?? null) ? $stored['state'] : [], is_string(...)));
        $measure = [];
        foreach (is_array($stored['measure'] ?? null) ? $stored['measure'] : [] as $key => $value) {
            $measure[(string) $key] = is_int($value) || is_float($value) ? (float) $value : 0.0;
        }

        return new self($text('name') ?? '', $text('was'), Role::tryFrom($text('role') ?? ''), $states === [] ? ['same'] : $states, $measure);
    }
}
