<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Unreadable;

/**
 * A file handed in, with the files beside it that it may name.
 */
interface Source
{
    /** The file's own name, without folders. */
    public function name(): string;

    /** In bytes. */
    public function size(): int;

    /**
     * @return resource a readable binary stream at byte 0
     *
     * @throws Unreadable
     */
    public function open();

    /**
     * A side file by the name that the main file gives it; null when there is none.
     *
     * @throws Unreadable when the name leaves the folder of the main file
     */
    public function side(string $name): ?Source;
}
