<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Asset\Asset;
use Anvil\Clearance\SetClearance;
use Anvil\ColorId\IdColors;
use Anvil\Rays\SetSurfaces;
use Closure;

/**
 * What a trial bake needs to know of an asset beside its meshes.
 */
final readonly class TrialInputs
{
    /**
     * @param  array<string, SetClearance>  $clearances  by set
     * @param  array<string, string>  $notMeasured  set → why its rays were not shot
     * @param  array<string, SetSurfaces>  $surfaces  of sets for which they are made already
     * @param  Closure(): IdColors  $ids
     * @param  Closure(): array<string, array{float, float, float}>  $vectors  of the exploded layout, by set
     */
    public function __construct(public Asset $asset, public array $clearances, public array $notMeasured, public array $surfaces, public Closure $ids, public Closure $vectors)
    {
    }
}
