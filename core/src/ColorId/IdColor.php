<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Color;
use Anvil\Pairing\RoledPart;

/**
 * One ID: a colour, what it is called (material or part names), and the parts that wear it.
 */
final readonly class IdColor
{
    /**
     * @param  list<string>  $names
     * @param  list<RoledPart>  $parts
     * @param  list<string>  $materials  that the high poly wears there, as far as that can be told
     */
    public function __construct(public Color $color, public array $names, public array $parts, public array $materials = [])
    {
    }

    public function name(): string
    {
        return $this->names[0] ?? $this->color->hex();
    }
}
