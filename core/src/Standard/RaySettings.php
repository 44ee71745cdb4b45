<?php

declare(strict_types=1);

namespace Anvil\Standard;

/**
 * How rays are shot (METHODS, "Rays").
 */
final readonly class RaySettings
{
    /**
     * @param  bool  $smooth  directions averaged over all faces at a vertex; false: the file's own normals
     * @param  bool  $cageLength  directions keep the length that interpolation gives; false: made unit
     * @param  bool  $backFaces  whether back faces stop rays too
     * @param  int  $count  samples an asset
     * @param  bool  $setsKeptApart  whether each set meets only its own high poly
     */
    public function __construct(
        public bool $smooth = true,
        public bool $cageLength = true,
        public bool $backFaces = false,
        public int $count = 65536,
        public bool $setsKeptApart = true,
    ) {
    }
}
