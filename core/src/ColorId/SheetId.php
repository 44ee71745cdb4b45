<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;

/**
 * One ID of a sheet: what it is called, its color, and the pieces that wear it.
 */
final readonly class SheetId
{
    /**
     * @param  Color|null  $color  null: to be found
     * @param  bool  $pinned  the color stays when all others are spread
     * @param  list<string>  $pieces  keys
     */
    public function __construct(public string $name, public ?Color $color, public bool $pinned, public array $pieces)
    {
    }
}
