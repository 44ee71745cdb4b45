<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Geometry\Scene;
use Anvil\Unreadable;

interface Reader
{
    /**
     * @throws Unreadable
     */
    public function read(Source $source): Scene;
}
