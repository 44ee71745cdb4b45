<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Cage\CageFit;
use Anvil\Checks\Proof\ProofRetouch;
use Anvil\Clearance\SetClearance;
use Anvil\Formats\Png\PngWriter;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\DisplayMesh;
use Anvil\Geometry\Mesh;
use Anvil\Measures\Kind\Pages;
use Anvil\Measures\Kind\ReturnedMaps;
use Anvil\Measures\Measures;
use Anvil\Report\LitMeshes;
use Anvil\Report\UvMeshes;
use Anvil\Report\UvSheet;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Part;

/**
 * Light meshes for the screen: of each file, in its own unit and axes, and two cages of our own in those of the asset: the low poly moved
 * outward by the reach in use, and the fitted one. The length of a JSON header as uint32, the header, then for each part its positions
 * (float32 xyz) and triangles (uint32), in the header's order.
 */
final class DisplayFile
{
    public const SINGLE = 'single';

    public const FITTED = 'fitted';

    public const SURFACE = 'surface';

    public const LIT = 'lit';

    /** Triangles that are shown of a file in any case. */
    private const LEAST = 20_000;

    /** What there may be a file of. */
    public const KINDS = [self::SINGLE, self::FITTED, self::SURFACE, self::LIT];

    /**
     * The light meshes of a file as it was read, in its own unit and axes.
     *
     * @param  list<array{name: string, colors: array<string, string>, all: int, light: Mesh}>  $parts
     */
    public static function writeFile(Delivery $delivery, File $file, array $parts): void
    {
        self::put(self::pathOf($delivery, $file), array_map(static fn (array $one): array => [['name' => $one['name'], 'all' => $one['all']], $one['colors'], $one['light']], $parts));
    }

    /** Where the light meshes of a file lie; made where an earlier version read it. */
    public static function ofFile(Delivery $delivery, File $file): string
    {
        $path = self::pathOf($delivery, $file);
        if (! Store::has($path)) {
            $stored = new StoredDelivery($delivery);
            self::writeFile($delivery, $file, array_values($file->parts->map(static fn (Part $part): array => ['name' => $part->name, 'colors' => $part->colors, 'all' => $part->triangles, 'light' => $stored->shown($part)])->all()));
        }

        return $path;
    }

    private static function pathOf(Delivery $delivery, File $file): string
    {
        return $delivery->folder()."/display/file-$file->id.bin";
    }

    /**
     * The low poly moved outward by the reach in use.
     *
     * @param  Measures  $low  with the meshes of low parts: a cage has a vertex for each of their own
     * @param  array<string, SetClearance>  $clearances  by set
     */
    public static function writeCage(Delivery $delivery, Measures $low, array $clearances): void
    {
        $single = [];
        foreach ($low->asset->sets as $set) {
            $reach = ($clearances[$set->name] ?? null)?->inUse()->out;
            if ($reach !== null) {
                array_push($single, ...self::cage($set, CageFit::single($set, $reach)));
            }
        }
        self::put(self::path($delivery, self::SINGLE), $single);
        // A cage that was fitted at another reach or in other sets is no more the one of this delivery.
        Store::dropFile(self::path($delivery, self::FITTED));
    }

    /** A delivery with the meshes of its low parts alone. */
    public static function low(StoredDelivery $stored): Measures
    {
        $lows = [];
        $rows = $stored->parts();
        foreach ($stored->alone()->asset->parts as $number => $part) {
            if ($part->role === Role::Low) {
                $lows[$rows[$number]->id] = true;
            }
        }

        return $stored->inspection(static fn (Part $part): bool => isset($lows[$part->id]));
    }

    /**
     * The UV pages: what is known of them, and the low poly with its UVs (`UvMeshes`).
     *
     * @param  Measures  $low  with the meshes of low parts
     */
    public static function writeSurface(Delivery $delivery, Measures $low, UvSheet $sheet): void
    {
        $meshes = UvMeshes::of($low);
        self::putAll(self::path($delivery, self::SURFACE), $meshes->head, $meshes->body);
        Store::put(self::sheetPath($delivery), json_encode($sheet->toArray(), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /**
     * The Proof station: the low poly as it is shaded (`LitMeshes`), the retouch mask of each page and its areas, and maps that came back with how far each is off.
     *
     * @param  Measures  $measures  what was measured
     * @param  Measures  $low  with the meshes of low parts
     */
    public static function writeProof(Delivery $delivery, Measures $measures, Measures $low): void
    {
        $meshes = LitMeshes::of($low);
        self::putAll(self::path($delivery, self::LIT), $meshes->head, $meshes->body);
        $pages = $measures->ofAsset(Pages::class);
        $out = [];
        foreach ($pages === [] ? [] : ProofRetouch::pages($measures) as $number => [$mask, $sets]) {
            Store::put(self::proofPath($delivery, "retouch-$number.png"), $mask->png());
            $out[] = ['name' => $mask->page, 'file' => $pages[$number]['file'], 'inside' => $mask->inside, 'texels' => $mask->texels, 'share' => $mask->share(), 'sets' => $sets, 'areas' => $mask->areas];
        }
        $maps = [];
        foreach ($measures->asset->maps === [] ? [] : $measures->ofAsset(ReturnedMaps::class) as $number => $map) {
            $maps[] = array_diff_key($map->toArray(), ['preview' => 0, 'difference' => 0]);
            if ($map->size > 0) {
                Store::put(self::proofPath($delivery, "map-$number.png"), self::picture($map->size, PngWriter::RGB, 3, $map->preview));
                Store::put(self::proofPath($delivery, "difference-$number.png"), self::picture($map->size, PngWriter::GREY, 1, $map->difference));
            }
        }
        Store::put(self::proofPath($delivery, 'proof.json'), json_encode(['pages' => $out, 'maps' => $maps], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE));
    }

    private static function picture(int $size, int $color, int $channels, string $packed): string
    {
        return PngWriter::image($size, $size, $color, 8, false, str_split((string) gzuncompress($packed), max(1, $channels * $size)));
    }

    public static function proofPath(Delivery $delivery, string $name): string
    {
        return $delivery->folder()."/display/proof/$name";
    }

    public static function sheetPath(Delivery $delivery): string
    {
        return $delivery->folder().'/display/surface.json';
    }

    /**
     * The mesh that the screen shows in place of a part's own.
     *
     * @param  int  $all  triangles of all parts of its file
     * @param  float  $share  of its file in what may be shown of the delivery
     */
    public static function light(Mesh $mesh, int $all, float $share = 1.0): Mesh
    {
        $most = max(self::LEAST, $share * config()->integer('anvil.display_triangles'));
        $light = DisplayMesh::of($mesh, $all <= $most ? $mesh->triangleCount() : max(16, (int) ($most * $mesh->triangleCount() / $all)));

        return new Mesh($light->positions, $light->triangles, materials: $mesh->materials, materialRuns: $light->materialRuns);
    }

    /**
     * @param  array<string, CageFit>  $fits  by set
     */
    public static function writeFitted(Delivery $delivery, Measures $measures, array $fits): void
    {
        $parts = [];
        foreach ($measures->asset->sets as $set) {
            if (isset($fits[$set->name])) {
                array_push($parts, ...self::cage($set, $fits[$set->name]->positions));
            }
        }
        self::put(self::path($delivery, self::FITTED), $parts);
    }

    /**
     * The high poly in pieces, each under its number, in the frame of the asset.
     *
     * @param  list<array{int, string, Mesh}>  $pieces  number, part, mesh
     */
    public static function writePieces(string $path, array $pieces): void
    {
        $all = array_sum(array_map(static fn (array $piece): int => $piece[2]->triangleCount(), $pieces));
        self::put($path, array_map(static fn (array $piece): array => [['name' => $piece[1], 'piece' => $piece[0], 'all' => $piece[2]->triangleCount()], [], self::light($piece[2], $all)], $pieces));
    }

    /** @param  string  $kind  one of KINDS */
    public static function path(Delivery $delivery, string $kind): string
    {
        return $delivery->folder()."/display/$kind.bin";
    }

    /**
     * @param  list<float>  $positions  side by side with the set's low parts one after the other
     * @return list<array{array{name: string, all: int}, array<string, string>, Mesh}>
     */
    private static function cage(BakeSet $set, array $positions): array
    {
        $out = [];
        $at = 0;
        foreach ($set->low as $part) {
            $length = count($part->part->mesh->positions);
            $mesh = $part->part->mesh->withPositions(array_slice($positions, $at, $length));
            $out[] = [['name' => $part->part->name, 'all' => $mesh->triangleCount()], [], self::light($mesh, $mesh->triangleCount())];
            $at += $length;
        }

        return $out;
    }

    /**
     * @param  list<array{array{name: string, all: int, piece?: int}, array<string, string>, Mesh}>  $parts  what is said of it, colors by material, its light mesh
     */
    private static function put(string $path, array $parts): void
    {
        $head = [];
        $body = '';
        foreach ($parts as [$said, $ofMaterial, $light]) {
            $colors = [];
            foreach ($light->materialRuns as [$triangle, $material]) {
                $colors[] = [$triangle, $ofMaterial[$light->materials[$material] ?? ''] ?? null];
            }
            $head[] = [...$said, 'colors' => $colors, 'vertices' => intdiv(count($light->positions), 3), 'triangles' => intdiv(count($light->triangles), 3)];
            $body .= Bytes::packFloats($light->positions).Bytes::packUints($light->triangles);
        }
        self::putAll($path, $head, $body);
    }

    /**
     * @param  list<array<string, mixed>>  $head  of each part
     */
    private static function putAll(string $path, array $head, string $body): void
    {
        $json = json_encode(['parts' => $head], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
        $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
        Store::put($path, pack('V', strlen($json)).$json.$body);
    }
}
