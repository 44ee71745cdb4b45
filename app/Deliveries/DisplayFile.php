<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Cage\CageFit;
use Anvil\Clearance\SetClearance;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\DisplayMesh;
use Anvil\Geometry\Mesh;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;
use App\Models\Delivery;
use App\Models\Part;

/**
 * The light meshes of a delivery's parts, a file a role: the length of a JSON header as uint32, the header, then for each part its
 * positions (float32 xyz) and triangles (uint32), in the header's order. Beside the roles there are two cages of our own: the low
 * poly moved outward by the reach in use, and the fitted one.
 */
final class DisplayFile
{
    public const SINGLE = 'single';

    public const FITTED = 'fitted';

    private const ROLES = [Role::Low, Role::High, Role::Id, Role::Cage];

    /** What there may be a file of. */
    public const KINDS = ['low', 'high', 'id', 'cage', self::SINGLE, self::FITTED];

    /**
     * @param  array<string, SetClearance>  $clearances  by set
     */
    public static function write(Delivery $delivery, StoredDelivery $stored, array $clearances): void
    {
        $asset = $stored->shown()->asset;
        $setOf = [];
        foreach ($asset->sets as $set) {
            foreach ([...$set->low, ...$set->high, ...$set->id, ...$set->cage] as $part) {
                $setOf[spl_object_id($part)] = $set->name;
            }
        }
        foreach (self::ROLES as $role) {
            $parts = [];
            foreach ($asset->parts as $part) {
                if ($part->role === $role) {
                    $parts[] = [$part, $setOf[spl_object_id($part)] ?? null, $part->part->mesh];
                }
            }
            self::put($delivery, $role->value, $parts);
        }
        // A cage has a vertex for each of the low poly's own.
        $lows = [];
        $rows = $stored->parts();
        foreach ($asset->parts as $number => $part) {
            if ($part->role === Role::Low) {
                $lows[$rows[$number]->id] = true;
            }
        }
        $single = [];
        foreach ($stored->inspection(static fn (Part $part): bool => isset($lows[$part->id]))->asset->sets as $set) {
            $reach = ($clearances[$set->name] ?? null)?->inUse()->out;
            if ($reach !== null) {
                array_push($single, ...self::cage($set, CageFit::single($set, $reach)));
            }
        }
        self::put($delivery, self::SINGLE, $single);
        // A cage that was fitted at another reach or in other sets is no more the one of this delivery.
        Store::dropFile(self::path($delivery, self::FITTED));
    }

    /**
     * The mesh that the screen shows in place of a part's own.
     *
     * @param  int  $all  triangles of all parts of its file
     */
    public static function light(Mesh $mesh, int $all): Mesh
    {
        $most = config()->integer('anvil.display_triangles');
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
        self::put($delivery, self::FITTED, $parts);
    }

    /** @param  string  $kind  one of KINDS */
    public static function path(Delivery $delivery, string $kind): string
    {
        return $delivery->folder()."/display/$kind.bin";
    }

    /**
     * @param  list<float>  $positions  side by side with the set's low parts one after the other
     * @return list<array{RoledPart, string, Mesh}>
     */
    private static function cage(BakeSet $set, array $positions): array
    {
        $out = [];
        $at = 0;
        foreach ($set->low as $part) {
            $length = count($part->part->mesh->positions);
            $out[] = [$part, $set->name, $part->part->mesh->withPositions(array_slice($positions, $at, $length))];
            $at += $length;
        }

        return $out;
    }

    /**
     * @param  list<array{RoledPart, string|null, Mesh}>  $parts  part, its set, its mesh
     */
    private static function put(Delivery $delivery, string $kind, array $parts): void
    {
        $all = array_sum(array_map(static fn (array $one): int => $one[2]->triangleCount(), $parts));
        $head = [];
        $body = '';
        foreach ($parts as [$part, $set, $mesh]) {
            $light = self::light($mesh, $all);
            $colors = [];
            foreach ($light->materialRuns as [$triangle, $material]) {
                $colors[] = [$triangle, $part->part->colors[$mesh->materials[$material] ?? ''] ?? null];
            }
            $head[] = [
                'name' => $part->part->name, 'file' => $part->path, 'set' => $set, 'colors' => $colors,
                'vertices' => intdiv(count($light->positions), 3), 'triangles' => intdiv(count($light->triangles), 3), 'all' => $part->part->triangleCount(),
            ];
            $body .= Bytes::packFloats($light->positions).Bytes::packUints($light->triangles);
        }
        $json = json_encode(['parts' => $head], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
        $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
        Store::put(self::path($delivery, $kind), pack('V', strlen($json)).$json.$body);
    }
}
