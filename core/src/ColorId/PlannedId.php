<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;

/**
 * An ID as it will be written.
 */
final readonly class PlannedId
{
    /**
     * @param  list<Piece>  $pieces
     */
    public function __construct(public string $name, public Color $color, public bool $pinned, public array $pieces)
    {
    }

    /**
     * @return list<string> names of the high parts that wear it
     */
    public function parts(): array
    {
        return array_values(array_unique(array_merge(...array_map(static fn (Piece $piece): array => $piece->parts, $this->pieces))));
    }
}
