<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Formats\Changes;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Rewriter;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use App\Deliveries\HandIn;
use App\Deliveries\Steps;
use App\Deliveries\Store;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Turn;
use App\Deliveries\WrittenIds;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;

/**
 * Writes the files of a derived delivery: those of the one that it is made from, with what is to be mended in them; all or none.
 */
final class WriteFiles extends DeliveryJob
{
    public function name(): string
    {
        return "write:$this->deliveryId:$this->run";
    }

    public function words(): string
    {
        return 'writing the mended files';
    }

    protected function perform(Delivery $delivery): void
    {
        if ($delivery->step !== Step::Write) {
            return;
        }
        $from = $delivery->derived_from === null ? null : Delivery::query()->find($delivery->derived_from);
        if ($from === null || $delivery->changes === null) {
            $this->giveUp('the delivery that this one was to be made from was deleted.');

            return;
        }
        $folder = Store::work('');
        $sink = new FolderSink($folder);
        try {
            $files = $this->write($from, $delivery->changes, $sink, $folder);
            $rows = HandIn::stored($delivery, $files, $from);
            $isTaken = false;
            $this->ifStillWanted(static function (Delivery $delivery) use ($rows, &$isTaken): void {
                // Another worker may have written them meanwhile: its files are the delivery's then.
                if ($delivery->step === Step::Write) {
                    $delivery->files()->createMany($rows);
                    Turn::to($delivery, DeliveryState::Reading, Step::Read);
                    Steps::send($delivery);
                    $isTaken = true;
                }
            });
            if (! $isTaken) {
                array_map(Store::dropFile(...), array_column($rows, 'path'));
            }
        } catch (Unreadable $error) {
            $this->giveUp("the files could not be mended: {$error->getMessage()}");
        } finally {
            $sink->discard();
            Folder::remove($folder);
        }
    }

    /**
     * @param  array{files: array<int, array{names: array<string, string>, moves: array<string, array{float|int, float|int, float|int}>, placed: list<float|int>|null}>, exploded: bool, ids?: array{onto: string, as: string}}  $changes
     * @return list<array{name: string, path: string}>
     *
     * @throws Unreadable when a change cannot be made in a file
     */
    private function write(Delivery $from, array $changes, FolderSink $sink, string $folder): array
    {
        $stored = new StoredDelivery($from);
        $ids = isset($changes['ids']) ? WrittenIds::of($changes['ids']) : null;
        $replaced = [];
        if ($ids !== null) {
            $measures = $stored->computing();
            $ids->write($from, $measures, $stored->givenFiles(), $sink, false);
            // Copies come in the place of ID files that were handed in, IDs on the high poly in that of the high files.
            $replaced = $ids->onto ? WrittenIds::files($measures) : array_values(array_unique(array_map(static fn (RoledPart $part): int => $part->file, $measures->asset->judged(Role::Id))));
        }
        foreach ($stored->givenFiles() as $i => $file) {
            if (in_array($i, $replaced, true)) {
                continue;
            }
            // By the name that it was handed in under, folders of a zip and all.
            Rewriter::write($file->source, isset($changes['files'][$i]) ? Changes::ofArray($changes['files'][$i]) : new Changes, $file->path, $sink);
        }
        foreach ($from->files->whereIn('kind', $changes['exploded'] ? ['side', 'plan'] : ['side']) as $side) {
            if (! $sink->has($side->name)) {
                $stream = $sink->open($side->name);
                fwrite($stream, Store::get($side->path) ?? '');
                fclose($stream);
            }
        }
        $sink->commit();

        return array_map(static fn (string $name): array => ['name' => $name, 'path' => "$folder/$name"], $sink->names());
    }
}
