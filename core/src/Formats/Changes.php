<?php

declare(strict_types=1);

namespace Anvil\Formats;

/**
 * What is to change in a file: names and places of parts, and nothing else.
 */
final readonly class Changes
{
    /**
     * @param  array<string, string>  $names  part name → new name
     * @param  array<string, array{float, float, float}>  $moves  part name (the old one) → translation in file units
     */
    public function __construct(public array $names = [], public array $moves = [])
    {
    }
}
