<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Standard\Role;
use Anvil\Unreadable;

/**
 * A file after reading: a scene, or why there is none.
 */
final readonly class ReadFile
{
    public function __construct(
        public string $path,
        public ?Role $role,
        public string $sha256,
        public ?Scene $scene,
        public ?Unreadable $error,
    ) {
    }

    public static function of(GivenFile $file): self
    {
        $stream = $file->source->open();
        $hash = hash_init('sha256');
        hash_update_stream($hash, $stream);
        fclose($stream);
        $sha256 = hash_final($hash);
        if ($file->error !== null) {
            return new self($file->path, $file->role, $sha256, null, $file->error);
        }
        try {
            return new self($file->path, $file->role, $sha256, FormatCatalogue::read($file->source), null);
        } catch (Unreadable $error) {
            return new self($file->path, $file->role, $sha256, null, $error);
        }
    }

    public function bounds(): ?Bounds
    {
        return Bounds::union(array_map(static fn (Part $part): ?Bounds => $part->bounds(), $this->scene->parts ?? []));
    }

    /**
     * @return list<string> names of materials in use
     */
    public function materials(): array
    {
        $names = [];
        foreach ($this->scene->parts ?? [] as $part) {
            foreach ($part->mesh->materials as $name) {
                $names[$name] = true;
            }
        }

        return array_map(strval(...), array_keys($names));
    }
}
