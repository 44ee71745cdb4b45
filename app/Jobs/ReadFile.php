<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile as CoreReadFile;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\MeshStore;
use Anvil\Unreadable;
use App\Deliveries\DisplayFile;
use App\Deliveries\Steps;
use App\Deliveries\Store;
use App\Deliveries\StoredDelivery;
use App\Models\Delivery;
use App\Models\File;
use App\Models\State\FileState;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Number;

/**
 * Reads one file once into the geometry store.
 */
final class ReadFile extends DeliveryJob
{
    /** Triangles up to which a file is judged in the same job: no other one waits long for it. */
    private const AT_ONCE = 300_000;

    private ?JudgeFile $judge = null;

    public function __construct(int $deliveryId, int $run, public int $fileId)
    {
        parent::__construct($deliveryId, $run);
    }

    public function name(): string
    {
        return "read:$this->fileId:$this->run";
    }

    public function words(): string
    {
        return 'reading '.(File::query()->find($this->fileId)->name ?? 'a file');
    }

    public function handle(): void
    {
        parent::handle();
        $this->judge?->handle();
    }

    protected function perform(Delivery $delivery): void
    {
        $file = File::query()->where('delivery_id', $delivery->id)->find($this->fileId);
        if ($file === null || ! $file->state->isOpen()) {
            return;
        }
        $file->update(['state' => FileState::Reading, 'error' => null]);
        $read = CoreReadFile::of(new GivenFile($file->name, null, (new StoredDelivery($delivery))->source($file), $this->tooLarge($file) ?? $this->whatAZipSays($file)));
        $folder = $delivery->folder()."/geometry/$file->id";
        Store::drop($folder);
        $rows = $shown = [];
        $share = $file->bytes / max(1, (int) $delivery->files()->where('kind', 'mesh')->sum('bytes'));
        $triangles = $read->scene?->triangleCount() ?? 0;
        foreach ($read->scene->parts ?? [] as $i => $part) {
            $store = "$folder/$i.yam";
            $bytes = MeshStore::encode($part->mesh);
            Store::put($store, $bytes);
            $shown[] = ['name' => $part->name, 'colors' => $part->colors, 'all' => $part->mesh->triangleCount(), 'light' => DisplayFile::light($part->mesh, $triangles, $share)];
            $rows[] = [
                'delivery_id' => $delivery->id, 'file_id' => $file->id, 'position' => $i, 'name' => $part->name, 'store' => $store, 'hash' => hash('sha256', $bytes),
                'triangles' => $part->mesh->triangleCount(), 'vertices' => $part->mesh->vertexCount(),
                'bounds' => json_encode($part->bounds()?->toArray(), JSON_THROW_ON_ERROR),
                'materials' => json_encode($part->mesh->materials, JSON_THROW_ON_ERROR), 'colors' => json_encode((object) $part->colors, JSON_THROW_ON_ERROR),
                'has_normals' => $part->mesh->hasNormals(), 'has_uvs' => $part->mesh->triUvs !== [],
                'facts' => json_encode($part->facts->toArray(), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
            ];
        }
        DisplayFile::writeFile($delivery, $file, $shown);
        // Rows and state change together, so a job that dies half-way leaves nothing that looks done.
        $this->ifStillWanted(function (Delivery $delivery) use ($file, $read, $rows): void {
            $file->parts()->delete();
            foreach (array_chunk($rows, 500) as $some) {
                DB::table('parts')->insert($some);
            }
            $this->record($file, $read);
            // Where it is the last one, all is judged together at once.
            if ($delivery->files()->where('kind', 'mesh')->whereIn('state', FileState::OPEN)->exists()) {
                $this->judge = new JudgeFile($delivery->id, $this->run, $file->id);
                if (array_sum(array_column($rows, 'triangles')) > self::AT_ONCE) {
                    Queue::pushOn(Steps::queueOf($delivery), $this->judge);
                    $this->judge = null;
                }
            }
        });
    }

    /** What would need more memory than a worker has is told before it is read. */
    private function tooLarge(File $file): ?Unreadable
    {
        $needed = (FormatCatalogue::of(pathinfo($file->name, PATHINFO_EXTENSION))?->memoryToAByte() ?? 0) * $file->bytes;
        $has = config()->integer('anvil.worker_memory');

        return $needed <= $has ? null : Unreadable::because('it is '.Number::fileSize($file->bytes).' and would need about '.Number::fileSize($needed, 1).' of memory to be read; a worker has '.Number::fileSize($has, 1).'. Hand in fewer triangles, export as .glb, or give workers more with ANVIL_WORKER_MEMORY');
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
            return GivenFile::ofZip(Store::local($file->path), null, $folder)[0]->error ?? Unreadable::because('the zip could not be unpacked when it was handed in; hand it in again');
        } finally {
            Folder::remove($folder);
        }
    }

    private function record(File $file, CoreReadFile $read): void
    {
        $file->update([
            'state' => $read->error === null ? FileState::Read : FileState::Unreadable,
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
