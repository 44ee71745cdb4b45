<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Geometry\Matrix;

/**
 * What is to change in a file: names and places of parts, or the place of everything in it, and nothing else.
 */
final readonly class Changes
{
    /**
     * @param  array<string, string>  $names  part name → new name
     * @param  array<string, array{float, float, float}>  $moves  part name (the old one) → translation in file units
     * @param  Matrix|null  $placed  a turn or a uniform scale of the whole file about its origin
     */
    public function __construct(public array $names = [], public array $moves = [], public ?Matrix $placed = null)
    {
    }

    /**
     * For a store; `ofArray` takes it back.
     *
     * @return array{names: array<string, string>, moves: array<string, array{float, float, float}>, placed: list<float>|null}
     */
    public function toArray(): array
    {
        return ['names' => $this->names, 'moves' => $this->moves, 'placed' => $this->placed?->m];
    }

    /**
     * @param  array{names: array<string, string>, moves: array<string, array{float|int, float|int, float|int}>, placed: list<float|int>|null}  $stored
     */
    public static function ofArray(array $stored): self
    {
        return new self(
            $stored['names'], array_map(static fn (array $by): array => [(float) $by[0], (float) $by[1], (float) $by[2]], $stored['moves']),
            $stored['placed'] === null ? null : Matrix::of(array_map(floatval(...), $stored['placed'])),
        );
    }

    /** What happens to the one part of a file that holds no more. */
    public function matrixFor(string $part): ?Matrix
    {
        $move = $this->moves[$part] ?? null;
        if ($move === null || $move === [0.0, 0.0, 0.0]) {
            return $this->placed;
        }
        $moved = Matrix::ofTrs($move, [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0]);

        return $this->placed === null ? $moved : $moved->times($this->placed);
    }
}
