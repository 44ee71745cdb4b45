<?php

declare(strict_types=1);

namespace Anvil\Formats\Collada;

use Anvil\Geometry\Matrix;

/**
 * A node of the scene, where it stands.
 *
 * @internal
 */
final readonly class PlacedNode
{
    /**
     * @param  int  $number  of its element among all `node` elements of the file
     */
    public function __construct(public int $number, public Matrix $world, public ?self $parent, public ?string $name)
    {
    }
}
