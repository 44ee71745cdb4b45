<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\FileSource;
use Anvil\Formats\Source;

/**
 * A stored file that is fetched only when it is read.
 */
final readonly class StoredSource implements Source
{
    public function __construct(private string $path, private string $name, private int $bytes)
    {
    }

    public function name(): string
    {
        return $this->name;
    }

    public function size(): int
    {
        return $this->bytes;
    }

    public function open()
    {
        return (new FileSource(Store::local($this->path), $this->name))->open();
    }

    public function side(string $name): ?Source
    {
        return null;
    }
}
