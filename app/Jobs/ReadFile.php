<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Formats\Folder;
use Anvil\Formats\Unreadable;
use Anvil\Geometry\MeshStore;
use Anvil\Inspection\GivenFile;
use Anvil\Inspection\ReadFile as CoreReadFile;
use App\Deliveries\StoredDelivery;
use App\Models\Delivery;
use App\Models\File;
use Illuminate\Bus\Batch;
use Illuminate\Support\Facades\Bus;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;

/**
 * Reads one file once into the geometry store.
 */
final class ReadFile extends DeliveryJob
{
    public function __construct(int $deliveryId, public int $fileId)
    {
        parent::__construct($deliveryId);
    }

    /** One job a file; when all are read the delivery is paired. */
    public static function dispatchAll(Delivery $delivery): void
    {
        $id = $delivery->id;
        $jobs = $delivery->files()->where('kind', 'mesh')->pluck('id')->map(fn (mixed $file): self => new self($id, is_int($file) ? $file : 0))->all();
        $batch = Bus::batch($jobs)
            ->name("read delivery $id")
            ->then(function (Batch $batch) use ($id): void {
                PairDelivery::dispatch($id);
            })
            ->dispatch();
        $delivery->update(['batch_id' => $batch->id]);
    }

    protected function perform(Delivery $delivery): void
    {
        $file = $delivery->files->firstWhere('id', $this->fileId);
        if ($file === null) {
            return;
        }
        $file->update(['state' => 'reading', 'error' => null]);
        $read = CoreReadFile::of(new GivenFile($file->name, null, (new StoredDelivery($delivery))->source($file), $this->whatAZipSays($file)));
        $folder = $delivery->folder()."/geometry/$file->id";
        Storage::deleteDirectory($folder);
        $rows = [];
        foreach ($read->scene->parts ?? [] as $i => $part) {
            $store = "$folder/$i.yam";
            $bytes = MeshStore::encode($part->mesh);
            Storage::put($store, $bytes);
            $rows[] = [
                'delivery_id' => $delivery->id, 'file_id' => $file->id, 'position' => $i, 'name' => $part->name, 'store' => $store, 'hash' => hash('sha256', $bytes),
                'triangles' => $part->mesh->triangleCount(), 'vertices' => $part->mesh->vertexCount(),
                'bounds' => json_encode($part->bounds()?->toArray(), JSON_THROW_ON_ERROR),
                'materials' => json_encode($part->mesh->materials, JSON_THROW_ON_ERROR), 'colors' => json_encode((object) $part->colors, JSON_THROW_ON_ERROR),
                'has_normals' => $part->mesh->hasNormals(), 'has_uvs' => $part->mesh->triUvs !== [],
                'facts' => json_encode($part->facts->toArray(), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
            ];
        }
        // Rows and state change together, so a job that dies half-way leaves nothing that looks done.
        DB::transaction(function () use ($file, $read, $rows): void {
            $file->parts()->delete();
            foreach (array_chunk($rows, 500) as $some) {
                DB::table('parts')->insert($some);
            }
            $this->record($file, $read);
        });
    }

    /** A zip that could not be unpacked when it was handed in: why. */
    private function whatAZipSays(File $file): ?Unreadable
    {
        if (strtolower(pathinfo($file->name, PATHINFO_EXTENSION)) !== 'zip') {
            return null;
        }
        $folder = sys_get_temp_dir().'/anvil-'.bin2hex(random_bytes(8));
        mkdir($folder, 0o700);
        try {
            return GivenFile::ofZip(Storage::path($file->path), null, $folder)[0]->error ?? Unreadable::because('the zip could not be unpacked when it was handed in; hand it in again');
        } finally {
            Folder::remove($folder);
        }
    }

    private function record(File $file, CoreReadFile $read): void
    {
        $file->update([
            'state' => $read->error === null ? 'read' : 'unreadable',
            'error' => $read->error?->getMessage(),
            'error_line' => $read->error?->atLine,
            'error_offset' => $read->error?->atOffset,
            'sha256' => $read->sha256,
            'format' => $read->scene?->format,
            'unit' => $read->scene?->unit,
            'up_axis' => $read->scene?->upAxis,
            'remarks' => $read->scene?->remarks,
            'extras' => $read->scene?->extras,
        ]);
    }
}
