<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Unreadable;
use Closure;

/**
 * A file on a local disk. Side files are looked for in its own folder and below, never above or elsewhere.
 */
final readonly class FileSource implements Source
{
    /**
     * @param  array<string, string|Closure(): string>|null  $sides  side-file names → paths, or what fetches them, where they are kept under other names; then only these are seen
     */
    public function __construct(public string $path, private ?string $name = null, private ?array $sides = null)
    {
    }

    public function name(): string
    {
        return $this->name ?? basename($this->path);
    }

    public function size(): int
    {
        return (int) @filesize($this->path);
    }

    public function open()
    {
        $stream = is_file($this->path) ? @fopen($this->path, 'rb') : false;
        if ($stream === false) {
            throw Unreadable::because("{$this->name()} cannot be opened");
        }

        return $stream;
    }

    public function side(string $name): ?Source
    {
        $name = str_replace('\\', '/', $name);
        if (str_contains($name, "\0") || str_starts_with($name, '/') || preg_match('#^[a-zA-Z]:|^[a-z]+://#', $name) === 1 || in_array('..', explode('/', $name), true)) {
            throw Unreadable::because('it names a side file outside its own folder: "'.self::shown($name).'"; keep side files beside it');
        }
        if ($this->sides !== null) {
            $path = $this->sides[$name] ?? $this->sides[basename($name)] ?? null;

            return $path === null ? null : new self($path instanceof Closure ? $path() : $path, basename($name), []);
        }
        $path = dirname($this->path).'/'.$name;
        $real = realpath($path);
        $folder = realpath(dirname($this->path));
        // A link inside the folder that points out of it is no side file either.
        if ($real === false || $folder === false || ! is_file($real) || ! str_starts_with($real, rtrim($folder, '/').'/')) {
            return null;
        }

        return new self($real);
    }

    private static function shown(string $name): string
    {
        return mb_strimwidth(mb_scrub((string) preg_replace('/[\x00-\x1f]/', '?', $name)), 0, 80, '…');
    }
}
