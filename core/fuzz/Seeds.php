<?php

declare(strict_types=1);

namespace Anvil\Fuzz;

use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\MemorySink;
use ZipArchive;

/**
 * A small whole file of every format, each with all that its reader knows: what the fuzz starts from.
 */
final class Seeds
{
    /**
     * @return array<string, string> name → content
     */
    public static function all(): array
    {
        $sink = new MemorySink;
        GlbWriter::write([new Part('a_low', Shapes::box(1, 2, 3)->mesh(30, [[0, 'steel'], [5, 'brass']]), ['steel' => '#808080'])], 'a.glb', $sink);
        $glb = $sink->content('a.glb');
        $positions = base64_encode(pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0));
        $ply = "element vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty float nx\nproperty float ny\nproperty float nz\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nproperty float s\nproperty float t\nelement face 2\nproperty list uchar int vertex_indices\nproperty uchar flags\nend_header\n";
        $rows = [[0, 0, 0, 0, 0, 1, 255, 0, 0, 0, 0], [1, 0, 0, 0, 0, 1, 0, 255, 0, 1, 0], [1, 1, 0, 0, 0, 1, 0, 0, 255, 1, 1], [0, 1, 0, 0, 0, 1, 9, 9, 9, 0, 1]];
        $text = implode('', array_map(static fn (array $row): string => implode(' ', $row)."\n", $rows))."4 0 1 2 3 1\n3 0 1 2 0\n";
        $binary = static fn (string $f, string $i): string => implode('', array_map(static fn (array $row): string => pack("{$f}6C3{$f}2", ...$row), $rows)).pack("C{$i}4C", 4, 0, 1, 2, 3, 1).pack("C{$i}3C", 3, 0, 1, 2, 0);

        return [
            'a.obj' => "# a quay\nmtllib a.mtl\no a_low\nv 0 0 0 1 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 .5e0\nvt 0 0\nvt 1 0 0\nvt 1 1\nvn 0 0 1\ns 1\nusemtl steel\nf 1/1/1 2/2/1 3/3/1 4/1/1\ns off\ng b_low\nf -4//-1 -3//-1 \\\n -2//-1\nf 1 2 3\nl 1 2\np 1\n",
            'a.glb' => $glb,
            'a.gltf' => '{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"a_low","mesh":0,"rotation":[0,0,0.7071068,0.7071068],"children":[1]},{"mesh":0,"scale":[1,2,-1]}],"meshes":[{"name":"m","primitives":[{"attributes":{"POSITION":0},"indices":1,"material":0,"mode":4}]}],"materials":[{"name":"steel","pbrMetallicRoughness":{"baseColorFactor":[1,0,0,1]}}],"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]},{"bufferView":1,"componentType":5123,"count":3,"type":"SCALAR","sparse":{"count":1,"indices":{"bufferView":1,"componentType":5123},"values":{"bufferView":1,"byteOffset":2}}}],"bufferViews":[{"buffer":0,"byteLength":36,"byteStride":12},{"buffer":1,"byteLength":6}],"buffers":[{"byteLength":36,"uri":"data:application/octet-stream;base64,'.$positions.'"},{"byteLength":6,"uri":"data:application/octet-stream;base64,'.base64_encode(pack('v3', 0, 1, 2)).'"}]}',
            'text.ply' => "ply\nformat ascii 1.0\ncomment a quay\n$ply$text",
            'little.ply' => "ply\nformat binary_little_endian 1.0\n$ply".$binary('g', 'V'),
            'big.ply' => "ply\nformat binary_big_endian 1.0\n$ply".$binary('G', 'N'),
            'text.stl' => "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nfacet normal 0 0 -1\nouter loop\nvertex 0 0 0\nvertex 0 1e0 0\nvertex 1 0 0\nendloop\nendfacet\nendsolid a\n",
            'binary.stl' => str_pad('a quay', 80).pack('V', 2).pack('g12v', 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0).pack('g12v', 0, 0, 1, 0, 0, 1, 1, 0, 1, 0, 1, 1, 0),
            'a.zip' => self::zip(),
            'a.dae' => self::dae(),
            'a.usda' => "#usda 1.0\n(\n    metersPerUnit = 0.01\n    upAxis = \"Z\"\n)\n\ndef Xform \"quay\"\n{\n    double3 xformOp:translate = (1, 2, 3)\n    uniform token[] xformOpOrder = [\"xformOp:translate\"]\n\n    def Mesh \"a_low\" (\n        prepend apiSchemas = [\"MaterialBindingAPI\"]\n    )\n    {\n        int[] faceVertexCounts = [4, 3]\n        int[] faceVertexIndices = [0, 1, 2, 3, 0, 1, 2]\n        point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]\n        normal3f[] normals = [(0, 0, 1), (0, 0, 1), (0, 0, 1), (0, 0, 1)] (\n            interpolation = \"vertex\"\n        )\n        texCoord2f[] primvars:st = [(0, 0), (1, 0), (1, 1), (0, 1)] (\n            interpolation = \"vertex\"\n        )\n        int[] primvars:st:indices = [0, 1, 2, 3]\n        rel material:binding = </quay/steel>\n        def GeomSubset \"part\"\n        {\n            uniform token elementType = \"face\"\n            int[] indices = [1]\n            rel material:binding = </quay/steel>\n        }\n    }\n\n    def Material \"steel\"\n    {\n    }\n}\n",
        ];
    }

    private static function zip(): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-seed');
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::OVERWRITE);
        $zip->addFromString('quay/a_low.obj', "o a_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        $zip->addFromString('quay/a.mtl', "newmtl steel\n");
        $zip->addFromString('b_high.stl', str_repeat('solid ', 40));
        // The hour of packing would make another seed of it every time.
        foreach ([0, 1, 2] as $i) {
            $zip->setMtimeIndex($i, 1_600_000_000);
        }
        $zip->close();
        $bytes = (string) file_get_contents($path);
        unlink($path);

        return $bytes;
    }

    private static function dae(): string
    {
        $source = static fn (string $id, string $values, int $stride, string $names): string => "<source id=\"$id\"><float_array id=\"$id-a\" count=\"".count(explode(' ', $values))."\">$values</float_array><technique_common><accessor source=\"#$id-a\" count=\"".intdiv(count(explode(' ', $values)), $stride)."\" stride=\"$stride\">".implode('', array_map(static fn (string $name): string => "<param name=\"$name\" type=\"float\"/>", str_split($names))).'</accessor></technique_common></source>';

        return "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<COLLADA xmlns=\"http://www.collada.org/2005/11/COLLADASchema\" version=\"1.4.1\">\n<asset><unit name=\"centimeter\" meter=\"0.01\"/><up_axis>Z_UP</up_axis></asset>\n<library_effects><effect id=\"e\"><profile_COMMON><technique sid=\"c\"><lambert><diffuse><color>1 0 0 1</color></diffuse></lambert></technique></profile_COMMON></effect></library_effects><library_materials><material id=\"m\" name=\"steel\"><instance_effect url=\"#e\"/></material></library_materials>\n<library_geometries><geometry id=\"g\" name=\"a\"><mesh>"
            .$source('p', '0 0 0 1 0 0 1 1 0 0 1 0', 3, 'XYZ').$source('n', '0 0 1', 3, 'XYZ').$source('t', '0 0 1 0 1 1', 2, 'ST')
            .'<vertices id="v"><input semantic="POSITION" source="#p"/></vertices><polylist count="2" material="s"><input semantic="VERTEX" source="#v" offset="0"/><input semantic="NORMAL" source="#n" offset="1"/><input semantic="TEXCOORD" source="#t" offset="2" set="0"/><vcount>4 3</vcount><p>0 0 0 1 0 1 2 0 2 3 0 0 0 0 0 1 0 1 2 0 2</p></polylist><polygons count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2 3</p></polygons></mesh></geometry></library_geometries>'
            ."\n<library_visual_scenes><visual_scene id=\"sc\"><node id=\"n1\" name=\"a_low\"><matrix>1 0 0 1 0 1 0 2 0 0 1 3 0 0 0 1</matrix><instance_geometry url=\"#g\"><bind_material><technique_common><instance_material symbol=\"s\" target=\"#m\"/></technique_common></bind_material></instance_geometry><node name=\"b_low\"><rotate>0 0 1 90</rotate><scale>1 2 1</scale><instance_geometry url=\"#g\"/></node></node></visual_scene></library_visual_scenes><scene><instance_visual_scene url=\"#sc\"/></scene></COLLADA>\n";
    }
}
