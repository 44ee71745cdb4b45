<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Geometry\Scene;

interface Reader
{
    /**
     * @throws Unreadable
     */
    public function read(Source $source): Scene;
}
