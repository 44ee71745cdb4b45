<?php

declare(strict_types=1);

namespace Demo;

use Anvil\Geometry\Part;

/**
 * A prop of the harbour signal station: its low and high parts, and how it is handed in.
 */
final readonly class DemoAsset
{
    /**
     * @param  list<Part>  $low
     * @param  list<Part>  $high
     * @param  string  $format  `obj` or `glb`
     * @param  string|null  $standard  JSON; null for the built-in standard
     */
    public function __construct(public string $name, public string $file, public array $low, public array $high, public string $format, public ?string $standard = null)
    {
    }
}
