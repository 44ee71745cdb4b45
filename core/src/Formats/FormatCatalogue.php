<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Formats\Collada\ColladaReader;
use Anvil\Formats\Gltf\GltfReader;
use Anvil\Formats\Obj\ObjReader;
use Anvil\Formats\Ply\PlyReader;
use Anvil\Formats\Stl\StlReader;
use Anvil\Formats\Usd\UsdaReader;
use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * Which reader a file gets, and what is said of files that have none.
 */
final class FormatCatalogue
{
    /** Endings of the files that belong to a mesh file rather than being one. */
    public const SIDE_ENDINGS = ['mtl', 'bin', 'png', 'jpg', 'jpeg', 'webp', 'ktx2'];

    /** Tells how an exploded layout was moved; it is handed in beside the mesh files. */
    public const EXPLODE_PLAN = 'explode.json';

    /** Formats that are read, and what they carry. */
    private const READ = [
        'glb' => 'binary glTF', 'gltf' => 'glTF', 'obj' => 'OBJ', 'ply' => 'PLY', 'stl' => 'STL', 'dae' => 'COLLADA', 'usda' => 'USD text', 'usd' => 'USD text', 'zip' => 'zip',
    ];

    /** What a mesh file may carry, in the order in which people miss it. */
    public const CARRIED = ['UVs', 'names of parts', 'unit', 'up axis', 'normals', 'smoothing groups', 'vertex colours', 'materials', 'hierarchy', 'pivots', 'more than one UV set', 'faces of more than three corners', 'more than one part'];

    /**
     * What a format cannot carry, of these.
     *
     * @var array<string, list<string>>
     */
    private const LACKS = [
        'glb' => ['smoothing groups', 'faces of more than three corners'],
        'gltf' => ['smoothing groups', 'faces of more than three corners'],
        'obj' => ['unit', 'up axis', 'hierarchy', 'pivots', 'more than one UV set'],
        'dae' => ['smoothing groups'],
        'usda' => ['smoothing groups'],
        'ply' => ['names of parts', 'unit', 'up axis', 'smoothing groups', 'materials', 'hierarchy', 'pivots', 'more than one UV set', 'more than one part'],
        'stl' => ['UVs', 'names of parts', 'unit', 'up axis', 'normals', 'smoothing groups', 'vertex colours', 'materials', 'hierarchy', 'pivots', 'more than one UV set', 'faces of more than three corners', 'more than one part'],
    ];

    /** Mesh formats that are closed, or open and not read here: told apart from files that are no meshes at all. */
    private const NOT_READ = ['usdc', 'usdz', 'fbx', 'blend', 'max', 'ma', 'mb', '3ds', 'abc', 'c4d', 'lwo', 'lxo', 'x3d', 'off', '3mf', 'ztl', 'zpr', 'hip', 'hda', 'skp', 'dwg', 'dxf', 'step', 'stp', 'iges', 'igs'];

    /**
     * @return list<string> file endings that hold meshes, in lower case
     */
    public static function endings(): array
    {
        return array_map(strval(...), array_keys(self::READ));
    }

    /** Whether a file of this name is a mesh file by its ending; side files are not, and neither is a zip. */
    public static function isMesh(string $name): bool
    {
        $ending = strtolower(pathinfo($name, PATHINFO_EXTENSION));

        return $ending !== 'zip' && isset(self::READ[$ending]);
    }

    /**
     * @return list<string>
     */
    public static function lacks(string $format): array
    {
        return self::LACKS[$format] ?? [];
    }

    /**
     * Every format that is read, for the page that says what to export: its ending, its name, what it cannot carry, whether it is
     * written too.
     *
     * @return list<array{ending: string, name: string, lacks: list<string>, isWritten: bool}>
     */
    public static function overview(): array
    {
        return array_map(static fn (string $ending): array => ['ending' => $ending, 'name' => self::READ[$ending], 'lacks' => self::LACKS[$ending], 'isWritten' => $ending !== 'usda'], array_map(strval(...), array_keys(self::LACKS)));
    }

    /**
     * @return list<string> endings of mesh formats that are known and not read
     */
    public static function notRead(): array
    {
        return self::NOT_READ;
    }

    /** Whether a material can stand in such a file. */
    public static function carriesMaterials(string $format): bool
    {
        return ! in_array('materials', self::lacks($format), true);
    }

    /**
     * @throws Unreadable
     */
    public static function read(Source $source): Scene
    {
        $ending = strtolower(pathinfo($source->name(), PATHINFO_EXTENSION));
        $reader = match ($ending) {
            'obj' => new ObjReader,
            'glb', 'gltf' => new GltfReader,
            'ply' => new PlyReader,
            'stl' => new StlReader,
            'dae' => new ColladaReader,
            'usda', 'usd' => new UsdaReader,
            default => throw Unreadable::because(self::refusal($ending)),
        };
        if ($source->size() === 0) {
            throw Unreadable::atByte(0, 'the file is empty; export it again');
        }
        self::checkHead($source, $ending);

        return $reader->read($source)->asFloat32();
    }

    /** @param  string  $name  of a file, folders and all */
    public static function isExplodePlan(string $name): bool
    {
        return strtolower(basename($name)) === self::EXPLODE_PLAN;
    }

    /** What is said of a file with this ending, when it cannot be read; null when it can. */
    public static function refusalOf(string $ending): ?string
    {
        return in_array($ending, self::endings(), true) ? null : self::refusal($ending);
    }

    private static function refusal(string $ending): string
    {
        $shown = $ending === '' ? 'a file without an ending' : '.'.mb_strimwidth(mb_scrub($ending), 0, 12, '…');

        return in_array($ending, self::NOT_READ, true)
            ? "$shown is a format that is not read here; export the same meshes as .glb (names, pivots, normals, UVs, materials, colours, unit) or .obj (names, normals, smoothing groups, UVs, materials); see docs/formats.md"
            : "$shown is no mesh format known here; hand in .glb, .gltf, .obj, .dae, .usda, .ply or .stl, or a .zip of these";
    }

    /** A file that begins like another format than its ending says. */
    private static function checkHead(Source $source, string $ending): void
    {
        $stream = $source->open();
        $head = (string) fread($stream, 64);
        fclose($stream);
        $is = match (true) {
            str_starts_with($head, 'glTF') => 'a binary glTF (.glb)',
            str_starts_with($head, "PK\x03\x04") => 'a zip archive',
            str_starts_with($head, 'Kaydara FBX Binary') => 'a binary FBX',
            str_starts_with($head, "ply\n"), str_starts_with($head, "ply\r") => 'a PLY',
            str_starts_with(ltrim($head, "\xEF\xBB\xBF \t\r\n"), '<?xml') => 'an XML file',
            str_starts_with($head, '#usda') => 'a USD text file',
            str_starts_with($head, 'PXR-USDC') => 'a binary USD (export it as text, .usda)',
            str_starts_with($head, "\xFF\xFE"), str_starts_with($head, "\xFE\xFF") => 'a UTF-16 text file (save it as UTF-8)',
            str_starts_with($head, "\x89PNG") => 'a PNG picture',
            default => null,
        };
        $fits = match ($ending) {
            'glb' => $is === 'a binary glTF (.glb)',
            'gltf' => $is === null && str_starts_with(ltrim($head), '{') || str_starts_with($head, "\xEF\xBB\xBF"),
            'ply' => $is === 'a PLY',
            'dae' => $is === 'an XML file' || $is === null && str_starts_with(ltrim($head, "\xEF\xBB\xBF \t\r\n"), '<'),
            'usda', 'usd' => $is === 'a USD text file',
            default => $is === null,
        };
        if (! $fits) {
            throw Unreadable::atByte(0, $is === null ? "the file does not begin like .$ending" : "the file is named .$ending but begins like $is");
        }
    }
}
