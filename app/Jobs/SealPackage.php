<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Checks\Runner;
use Anvil\Handoff\Package as CorePackage;
use Anvil\Measures\NotKnown;
use Anvil\Report\Report;
use App\Deliveries\Store;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Waivers;
use App\Models\Delivery;
use App\Models\Package;
use App\Models\State\MakingState;

/**
 * Seals a ready delivery into a package and reads it back.
 */
final class SealPackage extends MakingJob
{
    public function __construct(int $deliveryId, public int $packageId)
    {
        parent::__construct($deliveryId);
    }

    public function name(): string
    {
        return "seal:$this->packageId";
    }

    public function words(): string
    {
        return 'sealing the package';
    }

    protected function row(): ?Package
    {
        return Package::query()->find($this->packageId);
    }

    protected function perform(Delivery $delivery): void
    {
        $package = $this->row();
        if ($package === null || $package->state === MakingState::Done) {
            return;
        }
        $this->turn(MakingState::Sealing);
        $stored = new StoredDelivery($delivery);
        $measures = $stored->measured();
        try {
            $waivers = Waivers::rules($delivery, $measures);
            $report = new Report($measures, Runner::run($measures, $waivers), ['read' => 0.0, 'pair' => 0.0, 'check' => 0.0, 'total' => 0.0], waivers: $waivers);
        } catch (NotKnown) {
            $this->turn(MakingState::Failed, ['error' => 'it was measured by an earlier version; check the delivery again first']);

            return;
        }
        if (! $report->isReady()) {
            $this->turn(MakingState::Failed, ['error' => 'the asset is not ready']);

            return;
        }
        $path = $delivery->folder()."/packages/$package->id.zip";
        $made = Store::work('.zip');
        $result = CorePackage::write($delivery->asset->name, $report, $stored->givenFiles(), $made);
        if ($result->findings !== []) {
            $this->turn(MakingState::Failed, ['error' => $result->findings[0]->message]);

            return;
        }
        [$bytes, $sha256] = [(int) filesize($made), hash_file('sha256', $made)];
        Store::take($made, $path);
        $this->turn(MakingState::Done, [
            'error' => null, 'path' => $path, 'name' => "{$delivery->asset->key}_delivery_$delivery->number.zip",
            'bytes' => $bytes, 'sha256' => $sha256,
        ]);
    }
}
