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

    /** @var list<int> face of each triangle; empty while every face is a triangle */
    public array $faces = [];

    public int $faceCount = 0;

    /** @var list<string> */
    public array $materials = [];

    /** @var list<array{int, string}> */
    public array $runs = [];

    public ?string $lastMaterial = null;

    /** @var list<array{int, int}> [first triangle, smoothing group] */
    public array $smoothing = [];

    public ?int $lastSmoothing = null;

    /**
     * @param  int  $firstPosition  how many vertices stand before it in the file
     */
    public function __construct(public readonly string $name, public readonly int $firstPosition = 0)
    {
    }

    public function countTriangles(int $count): void
    {
        if ($this->faces !== []) {
            array_push($this->faces, ...range($this->faceCount, $this->faceCount + $count - 1));
        }
        $this->faceCount += $count;
    }

    /** A face of more corners, as so many triangles. */
    public function countPolygon(int $triangles): void
    {
        if ($this->faces === [] && $this->faceCount > 0) {
            $this->faces = range(0, $this->faceCount - 1);
        }
        for ($i = 0; $i < $triangles; $i++) {
            $this->faces[] = $this->faceCount;
        }
        $this->faceCount++;
    }

    public function smoothBy(int $group): void
    {
        $this->smoothing[] = [intdiv(count($this->triangles), 3), $group];
        $this->lastSmoothing = $group;
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
