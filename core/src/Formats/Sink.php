<?php

declare(strict_types=1);

namespace Anvil\Formats;

/**
 * Where written files go. Nothing is seen there before `commit`.
 */
interface Sink
{
    /**
     * @param  string  $name  a plain name or a path below the sink
     * @return resource a writable binary stream
     */
    public function open(string $name);

    public function commit(): void;

    public function discard(): void;
}
