<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Geometry\Mesh;
use Anvil\Geometry\Normals;
use Anvil\Geometry\Part;
use Anvil\Geometry\PartFacts;

/**
 * Makes parts of the groups of faces that an OBJ file was read into, each with the vertices, UVs and normals that it uses.
 */
final readonly class ObjParts
{
    /**
     * @param  list<float>  $positions  of the whole file
     * @param  list<float>  $uvs
     * @param  list<float>  $normals
     * @param  array<int, array{float, float, float}>  $colors  vertex → colour
     * @param  bool  $hasSmoothing  whether the file names smoothing groups
     */
    public function __construct(private array $positions, private array $uvs, private array $normals, private array $colors, private bool $hasSmoothing)
    {
    }

    /**
     * @param  list<ObjGroup>  $groups  the first one is named by the file
     * @param  array<string, string>  $colors  of materials
     * @param  list<string>  $cutOut  materials that are masked or blended
     * @param  array<string, string>  $pictures  material → picture
     * @return list<Part>
     */
    public function of(array $groups, array $colors, array $cutOut, array $pictures = []): array
    {
        $parts = [];
        $loose = $this->looseVertices($groups);
        foreach ($groups as $i => $group) {
            if ($group->triangles !== []) {
                $parts[] = $this->part($group, $colors, $cutOut, $pictures, $loose[$i] ?? 0, $i === 0);
            }
        }

        return $parts;
    }

    /**
     * Vertices that no face uses, told of the group under whose name they stand; of the first one where that has no face.
     *
     * @param  list<ObjGroup>  $groups
     * @return array<int, int> group → how many
     */
    private function looseVertices(array $groups): array
    {
        $used = str_repeat("\0", intdiv(count($this->positions), 3));
        $first = null;
        foreach ($groups as $i => $group) {
            foreach ($group->triangles as $v) {
                $used[$v] = "\1";
            }
            $first ??= $group->triangles === [] ? null : $i;
        }
        $out = [];
        if ($first === null || strpos($used, "\0") === false) {
            return $out;
        }
        for ($v = strpos($used, "\0"); $v !== false; $v = strpos($used, "\0", $v + 1)) {
            $at = $first;
            foreach ($groups as $i => $group) {
                if ($group->firstPosition <= $v && $group->triangles !== []) {
                    $at = $i;
                }
            }
            $out[$at] = ($out[$at] ?? 0) + 1;
        }

        return $out;
    }

    /**
     * @param  array<string, string>  $colors
     * @param  list<string>  $cutOut  materials that are masked or blended
     * @param  array<string, string>  $pictures  material → picture
     */
    private function part(ObjGroup $group, array $colors, array $cutOut, array $pictures, int $loose, bool $namedByFile): Part
    {
        [$positions, $triangles, $from] = self::compact($group->triangles, $this->positions, 3);
        $group->triangles = [];
        $vertexColors = [];
        if ($this->colors !== []) {
            foreach ($from ?? array_keys(array_fill(0, intdiv(count($positions), 3), 0)) as $v) {
                array_push($vertexColors, ...($this->colors[$v] ?? [-1.0, -1.0, -1.0]));
            }
            if ($vertexColors === [] || max($vertexColors) < 0.0) {
                $vertexColors = [];
            }
        }
        [$uvs, $triUvs] = $group->triUvs === [] || max($group->triUvs) < 0 ? [[], []] : self::compact($group->triUvs, $this->uvs, 2);
        $group->triUvs = [];
        [$normals, $triNormals] = $group->triNormals === [] || max($group->triNormals) < 0 ? [[], []] : self::compact($group->triNormals, $this->normals, 3);
        $group->triNormals = [];
        $materials = array_values(array_filter($group->materials, static fn (string $name): bool => $name !== ''));
        $number = array_flip($materials);
        $runs = [];
        foreach ($group->runs as [$triangle, $name]) {
            $runs[] = [$triangle, $number[$name] ?? -1];
        }
        $smoothing = [];
        if ($normals === [] && $this->hasSmoothing) {
            foreach ($group->smoothing as $i => [$triangle, $by]) {
                $end = $group->smoothing[$i + 1][0] ?? intdiv(count($triangles), 3);
                for ($t = $triangle; $t < $end; $t++) {
                    $smoothing[] = $by;
                }
            }
        }

        return new Part(
            $group->name,
            new Mesh($positions, $triangles, $uvs, $triUvs, $normals, $triNormals, $vertexColors, $group->faces, $materials, $runs, $smoothing),
            array_intersect_key($colors, $number),
            null,
            new PartFacts(looseVertices: $loose, badNormals: Normals::bad($normals), uvSets: $triUvs === [] ? 0 : 1, namedByFile: $namedByFile, cutOut: array_intersect($materials, $cutOut) !== [], pictures: array_intersect_key($pictures, array_flip($materials))),
        );
    }

    /**
     * Only what is used. A part that uses all of a stretch of the file keeps that stretch as it is; else in the order of first use.
     *
     * @param  list<int>  $numbers
     * @param  list<float>  $values
     * @return array{list<float>, list<int>, list<int>|null} values, new numbers, old number of each new one; null where they are the same
     */
    private static function compact(array $numbers, array $values, int $width): array
    {
        $least = $numbers === [] ? 0 : min($numbers);
        $most = $numbers === [] ? 0 : max($numbers);
        if ($least >= 0 && $numbers !== []) {
            $used = str_repeat("\0", $most - $least + 1);
            foreach ($numbers as $number) {
                $used[$number - $least] = "\1";
            }
            if (strpos($used, "\0") === false) {
                if ($least === 0) {
                    return [$width * ($most + 1) === count($values) ? $values : array_slice($values, 0, $width * ($most + 1)), $numbers, null];
                }
                $shifted = [];
                foreach ($numbers as $number) {
                    $shifted[] = $number - $least;
                }

                return [array_slice($values, $width * $least, $width * ($most - $least + 1)), $shifted, range($least, $most)];
            }
        }
        $map = [];
        $out = [];
        $new = [];
        $from = [];
        $next = 0;
        foreach ($numbers as $old) {
            if ($old < 0) {
                $new[] = -1;

                continue;
            }
            if (! isset($map[$old])) {
                $map[$old] = $next++;
                $from[] = $old;
                for ($k = 0; $k < $width; $k++) {
                    $out[] = $values[$width * $old + $k];
                }
            }
            $new[] = $map[$old];
        }

        return [$out, $new, $from];
    }
}
