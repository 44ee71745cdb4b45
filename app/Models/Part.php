<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A part of a file; its mesh is in the geometry store.
 *
 * @property int $id
 * @property int $delivery_id
 * @property int $file_id
 * @property int $position
 * @property string $name
 * @property string $store path on the storage disk
 * @property string|null $hash of the stored mesh
 * @property int $triangles
 * @property int $vertices
 * @property array{min: array{float, float, float}, max: array{float, float, float}}|null $bounds
 * @property list<string> $materials
 * @property array<string, string> $colors
 * @property bool $has_normals
 * @property bool $has_uvs
 * @property array<string, mixed>|null $facts
 */
final class Part extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /**
     * @return array<string, string>
     */
    protected function casts(): array
    {
        return ['bounds' => 'array', 'materials' => 'array', 'colors' => 'array', 'has_normals' => 'boolean', 'has_uvs' => 'boolean', 'facts' => 'array'];
    }
}
