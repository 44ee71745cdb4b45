<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

/**
 * A part of an OBJ file while it is read: numbers count over the whole file.
 *
 * @internal
 */
final class ObjGroup
{
    /** @var list<int> */
    public array $triangles = [];

    /** @var list<int> */
    public array $triUvs = [];

    /** @var list<int> */
    public array $triNormals = [];

    /** @var list<int> */
    public array $faces = [];

    public int $faceCount = 0;

    /** @var list<string> */
    public array $materials = [];

    /** @var list<array{int, string}> */
    public array $runs = [];

    public ?string $lastMaterial = null;

    public function __construct(public readonly string $name)
    {
    }

    public function useMaterial(string $name): void
    {
        if (! in_array($name, $this->materials, true)) {
            $this->materials[] = $name;
        }
        $this->runs[] = [intdiv(count($this->triangles), 3), $name];
        $this->lastMaterial = $name;
    }
}
