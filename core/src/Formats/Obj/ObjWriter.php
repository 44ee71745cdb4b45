<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Formats\Sink;
use Anvil\Geometry\Color;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;

/**
 * Parts to OBJ text: objects, faces (of many corners where the mesh remembers them), UVs, normals, materials.
 */
final class ObjWriter
{
    /**
     * @param  list<Part>  $parts
     * @param  string  $name  with the ending; an MTL of the same name goes with it where a part wears materials
     */
    public static function write(array $parts, string $name, Sink $sink): void
    {
        $out = $sink->open($name);
        $colors = [];
        $anyMaterial = false;
        foreach ($parts as $part) {
            $anyMaterial = $anyMaterial || $part->mesh->materials !== [];
        }
        $library = pathinfo($name, PATHINFO_FILENAME).'.mtl';
        fwrite($out, "# metres\n".($anyMaterial ? "mtllib $library\n" : ''));
        $v = $t = $n = 1;
        foreach ($parts as $part) {
            $mesh = $part->mesh;
            fwrite($out, "o $part->name\n".self::rows('v', $mesh->positions, 3, $mesh->colors).self::rows('vt', $mesh->uvs, 2).self::rows('vn', $mesh->normals, 3));
            self::faces($out, $mesh, $v, $t, $n);
            $v += intdiv(count($mesh->positions), 3);
            $t += intdiv(count($mesh->uvs), 2);
            $n += intdiv(count($mesh->normals), 3);
            foreach ($mesh->materials as $material) {
                $colors[$material] = $part->colors[$material] ?? ($colors[$material] ?? null);
            }
        }
        fclose($out);
        if ($anyMaterial) {
            $out = $sink->open($library);
            foreach ($colors as $material => $hex) {
                fwrite($out, "newmtl $material\n");
                if ($hex !== null) {
                    $color = Color::ofHex($hex);
                    fwrite($out, sprintf("Kd %.6F %.6F %.6F\n", $color->red / 255, $color->green / 255, $color->blue / 255));
                }
                fwrite($out, "\n");
            }
            fclose($out);
        }
    }

    /**
     * @param  list<float>  $values
     * @param  list<float>  $more  three more numbers a row, or empty
     */
    private static function rows(string $tag, array $values, int $width, array $more = []): string
    {
        $rows = [];
        for ($i = 0, $n = count($values); $i < $n; $i += $width) {
            $row = $width === 3 ? sprintf('%s %.6F %.6F %.6F', $tag, $values[$i], $values[$i + 1], $values[$i + 2]) : sprintf('%s %.6F %.6F', $tag, $values[$i], $values[$i + 1]);
            $rows[] = $more === [] ? $row : sprintf('%s %.4F %.4F %.4F', $row, $more[$i], $more[$i + 1], $more[$i + 2]);
        }

        return $rows === [] ? '' : implode("\n", $rows)."\n";
    }

    /**
     * @param  resource  $out
     */
    private static function faces($out, Mesh $mesh, int $v, int $t, int $n): void
    {
        $materials = $mesh->triangleMaterials();
        $wears = -1;
        $rows = [];
        for ($i = 0, $count = $mesh->triangleCount(); $i < $count;) {
            $last = $i;
            while ($mesh->faces !== [] && $last + 1 < $count && $mesh->faces[$last + 1] === $mesh->faces[$i]) {
                $last++;
            }
            // A convex face is a fan: its corners are those of the first triangle and the last one of each next.
            $corners = [3 * $i, 3 * $i + 1, 3 * $i + 2];
            $isFan = true;
            for ($k = $i + 1; $k <= $last; $k++) {
                $isFan = $isFan && $mesh->triangles[3 * $k] === $mesh->triangles[3 * $i] && $mesh->triangles[3 * $k + 1] === $mesh->triangles[3 * $k - 1];
                $corners[] = 3 * $k + 2;
            }
            $loops = $isFan ? [$corners] : array_map(static fn (int $k): array => [3 * $k, 3 * $k + 1, 3 * $k + 2], range($i, $last));
            if ($materials[$i] !== $wears) {
                $wears = $materials[$i];
                $rows[] = 'usemtl '.($mesh->materials[$wears] ?? 'none');
            }
            foreach ($loops as $loop) {
                $row = 'f';
                foreach ($loop as $c) {
                    $uv = $mesh->triUvs[$c] ?? -1;
                    $normal = $mesh->triNormals[$c] ?? -1;
                    $row .= ' '.($v + $mesh->triangles[$c]);
                    if ($uv >= 0 || $normal >= 0) {
                        $row .= '/'.($uv >= 0 ? $t + $uv : '').($normal >= 0 ? '/'.($n + $normal) : '');
                    }
                }
                $rows[] = $row;
            }
            $i = $last + 1;
        }
        fwrite($out, implode("\n", $rows).($rows === [] ? '' : "\n"));
    }
}
