<?php

declare(strict_types=1);

namespace Anvil\ColorId;

/**
 * What can wear an ID of its own: a part, a material, a shell, a region, a set, or all of one color.
 */
final readonly class Piece
{
    /**
     * @param  string  $key  the same in the next delivery, as long as names stay
     * @param  string  $name  as it is shown
     * @param  string|null  $shape  of a piece of one part: the part's mesh and which of its pieces this is, so that it is found again under another name
     * @param  list<string>  $parts  names of the high parts that it is of
     * @param  int  $triangles  how many it has
     */
    public function __construct(public string $key, public string $name, public ?string $shape, public array $parts, public int $triangles)
    {
    }
}
