<?php

declare(strict_types=1);

namespace Anvil\Formats;

use RuntimeException;

/**
 * A folder on a local disk, filled under a temporary name beside it and moved into place whole.
 */
final class FolderSink implements Sink
{
    private readonly string $temporary;

    /** @var list<string> */
    private array $names = [];

    /**
     * @throws RuntimeException when the folder holds something and `force` is not given, or cannot be made
     */
    public function __construct(private readonly string $folder, bool $force = false)
    {
        if (is_file($folder)) {
            throw new RuntimeException("$folder is a file, not a folder");
        }
        if (! $force && is_dir($folder) && count(scandir($folder) ?: []) > 2) {
            throw new RuntimeException("$folder is not empty; give a new folder, or --force to write into this one");
        }
        $parent = dirname($folder);
        if (! is_dir($parent) && ! @mkdir($parent, 0o777, true)) {
            throw new RuntimeException("the folder $parent cannot be made");
        }
        $this->temporary = rtrim($folder, '/').'.part-'.bin2hex(random_bytes(4));
        if (! @mkdir($this->temporary)) {
            throw new RuntimeException("$parent cannot be written to");
        }
    }

    public function open(string $name)
    {
        $path = "$this->temporary/$name";
        if (in_array('..', explode('/', $name), true) || str_starts_with($name, '/')) {
            throw new RuntimeException("$name would be written outside the folder");
        }
        if (! is_dir(dirname($path))) {
            mkdir(dirname($path), 0o777, true);
        }
        if (in_array($name, $this->names, true)) {
            throw new RuntimeException("two files would be written as $name");
        }
        $this->names[] = $name;
        $stream = @fopen($path, 'wb');
        if ($stream === false) {
            throw new RuntimeException("$name cannot be written");
        }

        return $stream;
    }

    public function has(string $name): bool
    {
        return in_array($name, $this->names, true);
    }

    /**
     * @return list<string>
     */
    public function names(): array
    {
        return $this->names;
    }

    public function commit(): void
    {
        if (is_dir($this->folder) && count(scandir($this->folder) ?: []) <= 2) {
            rmdir($this->folder);
        }
        if (! is_dir($this->folder)) {
            rename($this->temporary, $this->folder);

            return;
        }
        foreach ($this->names as $name) {
            if (! is_dir(dirname("$this->folder/$name"))) {
                mkdir(dirname("$this->folder/$name"), 0o777, true);
            }
            rename("$this->temporary/$name", "$this->folder/$name");
        }
        $this->discard();
    }

    public function discard(): void
    {
        Folder::remove($this->temporary);
    }
}
