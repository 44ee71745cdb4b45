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
