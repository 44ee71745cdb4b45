<?php

declare(strict_types=1);

namespace Anvil\Inspection;

use Anvil\Formats\Source;
use Anvil\Standard\Role;

/**
 * A file handed in: as it was named, and the role that its prefix gives it.
 */
final readonly class GivenFile
{
    public function __construct(public string $path, public ?Role $role, public Source $source)
    {
    }
}
