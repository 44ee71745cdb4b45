<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Cage\CageFiles;
use Anvil\Cage\CageFit;
use Anvil\Explode\ExplodedFiles;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Measures\Kind\Layout;
use Anvil\Measures\Measures;
use Anvil\Unreadable;
use App\Deliveries\DisplayFile;
use App\Deliveries\IdCut;
use App\Deliveries\Store;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Trial;
use App\Deliveries\WrittenIds;
use App\Deliveries\ZippedFolder;
use App\Models\Delivery;
use App\Models\Output;
use App\Models\State\MakingState;
use RuntimeException;
use Throwable;

/**
 * Writes exploded files or ID files of a delivery into one zip.
 */
final class MakeOutput extends MakingJob
{
    /** Seconds between two words on how far a trial is. */
    private const TOLD_EVERY = 0.7;

    public function __construct(int $deliveryId, public int $outputId)
    {
        parent::__construct($deliveryId);
    }

    public function name(): string
    {
        return "output:$this->outputId";
    }

    public function words(): string
    {
        return 'writing the files';
    }

    protected function row(): ?Output
    {
        return Output::query()->find($this->outputId);
    }

    protected function perform(Delivery $delivery): void
    {
        $output = $this->row();
        if ($output === null || $output->state === MakingState::Done) {
            return;
        }
        if ($output->kind === Trial::KIND && $output->state === MakingState::Failed) {
            // Cancelled before it was begun.
            return;
        }
        $this->turn(MakingState::Making);
        if ($output->kind === Trial::KIND) {
            $this->bake($delivery, $output);

            return;
        }
        $stored = new StoredDelivery($delivery);
        $measures = $stored->computing();
        if ($output->kind === IdCut::KIND) {
            try {
                $this->turn(MakingState::Done, ['error' => null, 'detail' => IdCut::make($delivery, $output, $measures)]);
            } catch (Unreadable $error) {
                $this->turn(MakingState::Failed, ['error' => $error->getMessage()]);
            }

            return;
        }
        $folder = Store::work('');
        $sink = new FolderSink($folder);
        try {
            $detail = match ($output->kind) {
                'exploded' => $this->explode($delivery, $measures, $stored, $sink),
                'ids' => $this->ids($delivery, $output, $measures, $stored, $sink),
                'cage' => $this->cage($delivery, $measures, $sink),
                default => throw new RuntimeException("$output->kind is not written here"),
            };
            $sink->commit();
        } catch (Unreadable $error) {
            $sink->discard();
            $this->turn(MakingState::Failed, ['error' => $error->getMessage()]);

            return;
        } catch (Throwable $error) {
            $sink->discard();
            throw $error;
        }
        $path = $delivery->folder()."/outputs/$output->id.zip";
        $zip = "$folder.zip";
        ZippedFolder::write($folder, $zip);
        Folder::remove($folder);
        [$bytes, $sha256] = [(int) filesize($zip), hash_file('sha256', $zip)];
        Store::take($zip, $path);
        $this->turn(MakingState::Done, [
            'error' => null, 'detail' => $detail, 'path' => $path, 'name' => "{$delivery->asset->key}_$output->kind.zip",
            'bytes' => $bytes, 'sha256' => $sha256,
        ]);
    }

    private function bake(Delivery $delivery, Output $output): void
    {
        $next = 0.0;
        try {
            $detail = Trial::make($delivery, $output, static function (float $done) use ($output, &$next): void {
                if (microtime(true) < $next) {
                    return;
                }
                $next = microtime(true) + self::TOLD_EVERY;
                $row = $output->newQuery()->find($output->id);
                if ($row === null || $row->state === MakingState::Failed) {
                    throw new NotWanted('cancelled meanwhile');
                }
                $row->update(['detail' => [...$row->detail ?? [], 'done' => round($done, 3)]]);
            });
        } catch (NotWanted) {
            return;
        }
        $this->turn(MakingState::Done, ['error' => null, 'detail' => $detail]);
    }

    /**
     * @return array<string, mixed>
     */
    private function explode(Delivery $delivery, Measures $measures, StoredDelivery $stored, FolderSink $sink): array
    {
        $plan = $measures->ofAsset(Layout::class) ?? throw new RuntimeException('no set was measured');
        ExplodedFiles::write($measures->asset, $stored->givenFiles(), $plan, $sink);

        return ['moved' => $plan->moved(), 'proved' => $plan->isProved()];
    }

    /**
     * @return array<string, mixed>
     */
    private function cage(Delivery $delivery, Measures $measures, FolderSink $sink): array
    {
        $fits = CageFit::ofAll($measures->asset, $measures->clearances());
        CageFiles::write($measures->asset, $fits, $sink);
        DisplayFile::writeFitted($delivery, $measures, $fits);

        return ['sets' => array_values(array_map(static fn (CageFit $fit): array => ['set' => $fit->set, 'vertices' => $fit->vertices, 'more' => $fit->more, 'less' => $fit->less, 'wrongShare' => $fit->rays->wrongShare, 'outsideBy' => $fit->rays->outsideBy, 'clean' => $fit->isClean()], $fits))];
    }

    /**
     * @return array<string, mixed>
     */
    private function ids(Delivery $delivery, Output $output, Measures $measures, StoredDelivery $stored, FolderSink $sink): array
    {
        $how = WrittenIds::of($output->detail ?? []);

        return [...$how->toArray(), ...$how->write($delivery, $measures, $stored->givenFiles(), $sink, true)];
    }
}
