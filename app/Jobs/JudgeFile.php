<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Checks\Catalogue;
use Anvil\Checks\Runner;
use Anvil\Measures\Plan;
use App\Deliveries\Judging;
use App\Deliveries\StoredDelivery;
use App\Models\Delivery;
use App\Models\File;
use App\Models\State\FileState;
use App\Models\State\Step;

/**
 * Measures what a file's own checks read, and tells what they find, while the other files are still being read. Nothing waits for it: what it
 * measures is known later on, and what it tells is told again.
 */
final class JudgeFile extends DeliveryJob
{
    public function __construct(int $deliveryId, int $run, public int $fileId)
    {
        parent::__construct($deliveryId, $run);
    }

    public function name(): string
    {
        return "judge:$this->fileId:$this->run";
    }

    public function words(): string
    {
        return 'checking '.(File::query()->find($this->fileId)->name ?? 'a file');
    }

    protected function perform(Delivery $delivery): void
    {
        $file = $delivery->files()->whereKey($this->fileId)->where('state', FileState::Read)->first();
        if ($file === null || $delivery->step !== Step::Read) {
            return;
        }
        $measures = (new StoredDelivery($delivery))->computingFile($file);
        Plan::of($measures, Runner::measures($measures, Catalogue::ofFile()))->run($measures);
        Judging::files($delivery->fresh() ?? $delivery, $this->run);
    }

    /** What it would have told is told later on. */
    public function giveUp(string $reason): void
    {
    }
}
