<?php

declare(strict_types=1);

namespace Anvil\Formats;

use Anvil\Geometry\Scene;
use Anvil\Unreadable;

/**
 * Which reader a file gets, and what is said of files that have none.
 */
final class FormatCatalogue
{
    /** Endings of the files that belong to a mesh file rather than being one. */
    public const SIDE_ENDINGS = ['mtl', 'bin', 'png', 'jpg', 'jpeg', 'webp', 'ktx2', 'tga', 'tif', 'tiff'];

    /** Tells how an exploded layout was moved; it is handed in beside the mesh files. */
    public const EXPLODE_PLAN = 'explode.json';

    /** What a mesh file may carry, in the order in which people miss it. */
    public const CARRIED = ['UVs', 'names of parts', 'unit', 'up axis', 'normals', 'smoothing groups', 'vertex colours', 'materials', 'hierarchy', 'pivots', 'more than one UV set', 'faces of more than three corners', 'more than one part'];

    /** Bytes of a name of a part or material. */
    private const LONGEST_NAME = 4096;

    /** Mesh formats that are closed, or open and not read here: told apart from files that are no meshes at all. */
    private const NOT_READ = ['usdc', 'usdz', 'fbx', 'blend', 'max', 'ma', 'mb', '3ds', 'abc', 'c4d', 'lwo', 'lxo', 'x3d', 'off', '3mf', 'ztl', 'zpr', 'hip', 'hda', 'skp', 'dwg', 'dxf', 'step', 'stp', 'iges', 'igs'];

    /** A pack of mesh files with their side files. */
    private const PACK = 'zip';

    /** @var list<Format>|null */
    private static ?array $all = null;

    /**
     * Every format that is read: the classes `…Format` in the folders beside this one.
     *
     * @return list<Format>
     */
    public static function all(): array
    {
        if (self::$all === null) {
            $found = [];
            foreach (glob(__DIR__.'/*/*Format.php') ?: [] as $path) {
                $class = __NAMESPACE__.'\\'.basename(dirname($path)).'\\'.basename($path, '.php');
                if (is_subclass_of($class, Format::class)) {
                    $found[] = new $class;
                }
            }
            usort($found, static fn (Format $a, Format $b): int => $a->row() <=> $b->row());
            self::$all = $found;
        }

        return self::$all;
    }

    /** The format of files with this ending; null where there is none. */
    public static function of(string $ending): ?Format
    {
        foreach (self::all() as $format) {
            if (isset($format->endings()[strtolower($ending)])) {
                return $format;
            }
        }

        return null;
    }

    /**
     * @return list<string> file endings that hold meshes, in lower case
     */
    public static function endings(): array
    {
        return [...array_merge(...array_map(static fn (Format $format): array => array_map(strval(...), array_keys($format->endings())), self::all())), self::PACK];
    }

    /** Whether a file of this name is a mesh file by its ending; side files are not, and neither is a zip. */
    public static function isMesh(string $name): bool
    {
        return self::of(pathinfo($name, PATHINFO_EXTENSION)) !== null;
    }

    /**
     * @return list<string>
     */
    public static function lacks(string $ending): array
    {
        return self::of($ending)?->lacks() ?? [];
    }

    /**
     * Every format that is read, for the page that says what to export: its ending, its name, what it cannot carry, whether it is
     * written too.
     *
     * @return list<array{ending: string, name: string, lacks: list<string>, isWritten: bool}>
     */
    public static function overview(): array
    {
        $out = [];
        foreach (self::all() as $format) {
            foreach ($format->told() as $ending) {
                $out[] = ['ending' => $ending, 'name' => $format->endings()[$ending] ?? $ending, 'lacks' => $format->lacks(), 'isWritten' => $format->isWritten()];
            }
        }

        return $out;
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
        $format = self::of($ending) ?? throw Unreadable::because(self::refusal($ending));
        if ($source->size() === 0) {
            throw Unreadable::atByte(0, 'the file is empty; export it again');
        }
        self::checkHead($format, $source, $ending);

        $scene = $format->reader()->read($source);
        self::checkNames($scene);

        return $scene->asFloat32();
    }

    /** Longer names than any that a program gives are refused before anything else has to carry them. */
    private static function checkNames(Scene $scene): void
    {
        foreach ($scene->parts as $number => $part) {
            foreach ([['name', $part->name], ...array_map(static fn (string $name): array => ['material', $name], $part->mesh->materials)] as [$what, $name]) {
                if (strlen($name) > self::LONGEST_NAME) {
                    throw Unreadable::because(sprintf('the %s of part %d has %s bytes ("%s…"); names of at most %s are read. Give it a shorter one and export the file again', $what, $number + 1, number_format(strlen($name)), mb_strcut($name, 0, 24, 'UTF-8'), number_format(self::LONGEST_NAME)));
                }
            }
        }
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

        $told = array_map(static fn (array $one): string => ".$one[ending]", self::overview());

        return in_array($ending, self::NOT_READ, true)
            ? "$shown is a format that is not read here; export the same meshes as .glb (names, pivots, normals, UVs, materials, colours, unit) or .obj (names, normals, smoothing groups, UVs, materials); see docs/formats.md"
            : "$shown is no mesh format known here; hand in ".implode(', ', array_slice($told, 0, -1)).' or '.end($told).', or a .zip of these';
    }

    /** A file that begins like another format than its ending says. */
    private static function checkHead(Format $format, Source $source, string $ending): void
    {
        $stream = $source->open();
        $head = (string) fread($stream, 64);
        fclose($stream);
        $is = null;
        foreach (self::all() as $one) {
            $is ??= $one->recognised($head);
        }
        $is ??= match (true) {
            str_starts_with($head, "PK\x03\x04") => 'a zip archive',
            str_starts_with($head, 'Kaydara FBX Binary') => 'a binary FBX',
            str_starts_with($head, 'PXR-USDC') => 'a binary USD (export it as text, .usda)',
            str_starts_with($head, "\xFF\xFE"), str_starts_with($head, "\xFE\xFF") => 'a UTF-16 text file (save it as UTF-8)',
            str_starts_with($head, "\x89PNG") => 'a PNG picture',
            default => null,
        };
        if (! $format->mayBegin($ending, $head, $is)) {
            throw Unreadable::atByte(0, $is === null ? "the file does not begin like .$ending" : "the file is named .$ending but begins like $is");
        }
    }
}
