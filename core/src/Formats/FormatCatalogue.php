<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Formats\Gltf\GltfReader;
use Anvil\Formats\Obj\ObjReader;
use Anvil\Geometry\Scene;

/**
 * Which reader a file gets, and what is said of files that have none.
 */
final class FormatCatalogue
{
    /** Endings of the files that belong to a mesh file rather than being one. */
    public const SIDE_ENDINGS = ['mtl', 'bin', 'png', 'jpg', 'jpeg', 'webp', 'ktx2'];

    /** Mesh formats that are not read, so that they are told apart from files that are no meshes at all. */
    private const NOT_READ = ['ply', 'stl', 'dae', 'usda', 'usd', 'usdc', 'usdz', 'fbx', 'blend', 'max', 'ma', 'mb', '3ds', 'abc', 'c4d', 'lwo', 'x3d', 'off', 'zip'];

    /**
     * @return list<string> file endings, in lower case
     */
    public static function endings(): array
    {
        return ['obj', 'glb', 'gltf'];
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
            default => throw Unreadable::because(self::refusal($ending)),
        };
        if ($source->size() === 0) {
            throw Unreadable::atByte(0, 'the file is empty; export it again');
        }
        self::checkHead($source, $ending);

        return $reader->read($source);
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
            ? "$shown is a format that is not read yet; export the same meshes as .glb (names, normals, UVs, materials, unit) or .obj (names, normals, UVs, materials)"
            : "$shown is no mesh format known here; hand in .glb, .gltf or .obj";
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
            str_starts_with(ltrim($head), '<?xml') => 'an XML file',
            str_starts_with($head, '#usda') => 'a USD text file',
            str_starts_with($head, "\xFF\xFE"), str_starts_with($head, "\xFE\xFF") => 'a UTF-16 text file (save it as UTF-8)',
            str_starts_with($head, "\x89PNG") => 'a PNG picture',
            default => null,
        };
        $fits = match ($ending) {
            'glb' => $is === 'a binary glTF (.glb)',
            'gltf' => $is === null && str_starts_with(ltrim($head), '{') || str_starts_with($head, "\xEF\xBB\xBF"),
            default => $is === null,
        };
        if (! $fits) {
            throw Unreadable::atByte(0, $is === null ? "the file does not begin like .$ending" : "the file is named .$ending but begins like $is");
        }
    }
}
