<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Standard\Role;
use Closure;

/**
 * A part as it was in the last delivery. Its mesh is fetched only where it is compared.
 */
final readonly class LastPart
{
    /**
     * @param  string  $hash  of its mesh where it stood
     * @param  array<string, string>  $colors  material → `#RRGGBB`
     * @param  Closure(): Mesh  $mesh  in the frame of all parts
     */
    public function __construct(
        public string $name,
        public ?Role $role,
        public string $base,
        public string $hash,
        public int $triangles,
        public ?Bounds $bounds,
        public array $colors,
        private Closure $mesh,
    ) {
    }

    public function mesh(): Mesh
    {
        return ($this->mesh)();
    }
}
