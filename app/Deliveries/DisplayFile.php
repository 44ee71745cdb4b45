<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Geometry\Bytes;
use Anvil\Geometry\DisplayMesh;
use Anvil\Inspection\Inspection;
use Anvil\Standard\Role;
use App\Models\Delivery;
use Illuminate\Support\Facades\Storage;

/**
 * The light meshes of a delivery's parts, a file a role: the length of a JSON header as uint32, the header, then for each part its
 * positions (float32 xyz) and triangles (uint32), in the header's order.
 */
final class DisplayFile
{
    public const ROLES = [Role::Low, Role::High, Role::Id];

    public static function write(Delivery $delivery, Inspection $inspection): void
    {
        $setOf = [];
        foreach ($inspection->sets as $set) {
            foreach ([...$set->low, ...$set->high, ...$set->id] as $part) {
                $setOf[spl_object_id($part)] = $set->name;
            }
        }
        $most = config()->integer('anvil.display_triangles');
        foreach (self::ROLES as $role) {
            $parts = array_values(array_filter($inspection->parts, static fn ($part): bool => $part->role === $role));
            $all = array_sum(array_map(static fn ($part): int => $part->part->mesh->triangleCount(), $parts));
            $head = [];
            $body = '';
            foreach ($parts as $part) {
                $mesh = $part->part->mesh;
                $light = DisplayMesh::of($mesh, $all <= $most ? $mesh->triangleCount() : max(16, (int) ($most * $mesh->triangleCount() / $all)));
                $colors = [];
                foreach ($light->materialRuns as [$triangle, $material]) {
                    $colors[] = [$triangle, $part->part->colors[$mesh->materials[$material] ?? ''] ?? null];
                }
                $head[] = [
                    'name' => $part->part->name, 'file' => $part->path, 'set' => $setOf[spl_object_id($part)] ?? null, 'colors' => $colors,
                    'vertices' => intdiv(count($light->positions), 3), 'triangles' => intdiv(count($light->triangles), 3), 'all' => $mesh->triangleCount(),
                ];
                $body .= Bytes::packFloats($light->positions).Bytes::packUints($light->triangles);
            }
            $json = json_encode(['parts' => $head], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
            $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
            Storage::put(self::path($delivery, $role), pack('V', strlen($json)).$json.$body);
        }
    }

    public static function path(Delivery $delivery, Role $role): string
    {
        return $delivery->folder()."/display/$role->value.bin";
    }
}
