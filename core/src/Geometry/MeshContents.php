<?php

declare(strict_types=1);

namespace Anvil\Geometry;

/**
 * What a mesh holds, counted: what a check asks of it without looking at a triangle.
 */
final readonly class MeshContents
{
    /**
     * @param  int  $corners  three a triangle
     * @param  list<string>  $materials
     * @param  int|null  $cornersWithoutUv  of the corners; null, as all that follow, where it was not asked for
     * @param  int|null  $cornersWithoutNormal  of the corners
     * @param  int|null  $facesWithoutMaterial  triangles
     * @param  array<string, float>|null  $areas  3D area by material, in square file units
     * @param  float|null  $area  in all
     * @param  float|null  $uvArea  in squares of the page
     */
    private function __construct(
        public int $triangles,
        public int $vertices,
        public int $corners,
        public array $materials,
        public bool $hasUvs,
        public bool $hasNormals,
        public bool $hasAllNormals,
        public bool $hasSmoothing,
        public ?int $cornersWithoutUv,
        public ?int $cornersWithoutNormal,
        public ?int $facesWithoutMaterial,
        public ?array $areas,
        public ?float $area,
        public ?float $uvArea,
    ) {
    }

    /** @param  bool  $whole  whether what is without, and areas, are asked for: they take a look at every triangle */
    public static function of(Mesh $mesh, bool $whole): self
    {
        $corners = count($mesh->triangles);
        $withoutUv = $withoutNormal = $withoutMaterial = $areas = $area = $uvArea = null;
        if ($whole) {
            $withoutUv = $mesh->cornersWithoutUv();
            $withoutNormal = $mesh->triNormals === [] ? $corners : count(array_keys($mesh->triNormals, -1, true));
            $uvArea = $mesh->uvArea();
            $area = 0.0;
            $withoutMaterial = 0;
            $areas = [];
            $of = $mesh->triangleMaterials();
            foreach ($mesh->triangleAreas() as $t => $one) {
                $area += $one;
                $name = $mesh->materials[$of[$t]] ?? null;
                $withoutMaterial += $of[$t] === -1 || $mesh->materials === [] ? 1 : 0;
                if ($name !== null) {
                    $areas[$name] = ($areas[$name] ?? 0.0) + $one;
                }
            }
        }

        return new self(
            $mesh->triangleCount(), $mesh->vertexCount(), $corners, $mesh->materials, $mesh->triUvs !== [], $mesh->triNormals !== [], $mesh->hasNormals(), $mesh->smoothing !== [],
            $withoutUv, $withoutNormal, $withoutMaterial, $areas, $area, $uvArea,
        );
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return [
            'triangles' => $this->triangles, 'vertices' => $this->vertices, 'corners' => $this->corners, 'materials' => $this->materials, 'hasUvs' => $this->hasUvs,
            'hasNormals' => $this->hasNormals, 'hasAllNormals' => $this->hasAllNormals, 'hasSmoothing' => $this->hasSmoothing, 'cornersWithoutUv' => $this->cornersWithoutUv,
            'cornersWithoutNormal' => $this->cornersWithoutNormal, 'facesWithoutMaterial' => $this->facesWithoutMaterial, 'areas' => $this->areas, 'area' => $this->area, 'uvArea' => $this->uvArea,
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{triangles: int, vertices: int, corners: int, materials: list<string>, hasUvs: bool, hasNormals: bool, hasAllNormals: bool, hasSmoothing: bool, cornersWithoutUv: int|null, cornersWithoutNormal: int|null, facesWithoutMaterial: int|null, areas: array<string, float>|null, area: float|null, uvArea: float|null} $stored */
        return new self(
            $stored['triangles'], $stored['vertices'], $stored['corners'], $stored['materials'], $stored['hasUvs'], $stored['hasNormals'], $stored['hasAllNormals'], $stored['hasSmoothing'],
            $stored['cornersWithoutUv'], $stored['cornersWithoutNormal'], $stored['facesWithoutMaterial'], $stored['areas'], $stored['area'], $stored['uvArea'],
        );
    }
}
