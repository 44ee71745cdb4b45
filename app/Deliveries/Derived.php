<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Formats\Changes;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Rewriter;
use Anvil\Unreadable;
use App\Models\Delivery;
use App\Models\Upload;
use Throwable;

/**
 * A delivery made of another one with something mended in its files: all of them or nothing; the old one stays as it is.
 */
final readonly class Derived
{
    public function __construct(private HandIn $handIn)
    {
    }

    /**
     * @param  array<int, Changes>  $changes  mesh file number → what changes in it
     * @param  string  $because  what was mended, in words
     * @param  bool  $exploded  whether a layout that was exploded still is
     *
     * @throws Unreadable when a change cannot be made in a file
     */
    public function deliver(Delivery $from, array $changes, string $because, bool $exploded = true): Delivery
    {
        $stored = new StoredDelivery($from);
        $folder = Store::work('');
        $sink = new FolderSink($folder);
        $uploads = [];
        try {
            foreach ($stored->givenFiles() as $i => $file) {
                // By the name that it was handed in under, folders of a zip and all.
                Rewriter::write($file->source, $changes[$i] ?? new Changes, $file->path, $sink);
            }
            foreach ($from->files->whereIn('kind', $exploded ? ['side', 'plan'] : ['side']) as $side) {
                if (! $sink->has($side->name)) {
                    $stream = $sink->open($side->name);
                    fwrite($stream, Store::get($side->path) ?? '');
                    fclose($stream);
                }
            }
            $sink->commit();
            Store::here()->makeDirectory('uploads');
            foreach ($sink->names() as $name) {
                $bytes = (int) filesize("$folder/$name");
                $upload = Upload::query()->create(['name' => $name, 'bytes' => $bytes, 'received' => $bytes, 'uploaded_by' => config()->string('anvil.user')]);
                $uploads[] = $upload;
                rename("$folder/$name", Store::here()->path($upload->path()));
            }

            return $this->handIn->deliver($uploads, $from->asset, null, $from, $because);
        } catch (Throwable $error) {
            foreach ($uploads as $upload) {
                Store::here()->delete($upload->path());
                $upload->delete();
            }
            throw $error;
        } finally {
            $sink->discard();
            Folder::remove($folder);
        }
    }
}
