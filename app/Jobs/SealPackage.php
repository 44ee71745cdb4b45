<?php

declare(strict_types=1);

namespace App\Jobs;

use Anvil\Checks\Runner;
use Anvil\Formats\Folder;
use Anvil\Handoff\Extra;
use Anvil\Handoff\ExtraFiles;
use Anvil\Handoff\Package as CorePackage;
use Anvil\Measures\NotKnown;
use Anvil\Report\Report;
use Anvil\Unreadable;
use App\Deliveries\IdCut;
use App\Deliveries\Store;
use App\Deliveries\StoredDelivery;
use App\Deliveries\Trial;
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
        $folder = Store::work('.along');
        try {
            $extras = $this->extras($delivery, $stored, $package->with ?? [], $folder);
            $result = CorePackage::write($delivery->asset->name, $report, $stored->givenFiles(), $made, $extras, null, $delivery->number, $stored->plan());
        } catch (Unreadable $error) {
            $this->turn(MakingState::Failed, ['error' => $error->getMessage()]);

            return;
        } finally {
            Folder::remove($folder);
        }
        if ($result->findings !== []) {
            $this->turn(MakingState::Failed, ['error' => $result->findings[0]->message]);

            return;
        }
        [$bytes, $sha256] = [(int) filesize($made), hash_file('sha256', $made)];
        Store::take($made, $path);
        $this->turn(MakingState::Done, [
            'error' => null, 'path' => $path, 'name' => "{$delivery->asset->key}_delivery_$delivery->number.zip",
            'bytes' => $bytes, 'sha256' => $sha256, 'sealed_of' => $delivery->judged_of,
        ]);
    }

    /**
     * What goes along, written anew from what is sealed.
     *
     * @param  list<string>  $kinds
     * @return list<Extra>
     *
     * @throws Unreadable where there is nothing of a kind
     */
    private function extras(Delivery $delivery, StoredDelivery $stored, array $kinds, string $folder): array
    {
        if ($kinds === []) {
            return [];
        }
        $measures = $stored->computing();
        $out = [];
        foreach ($kinds as $kind) {
            $out[] = $kind === 'trial' ? Trial::extra($delivery, $measures, "$folder/$kind") : ExtraFiles::make($kind, $measures, $stored->givenFiles(), "$folder/$kind", IdCut::sheetOf($delivery->asset));
        }

        return $out;
    }
}
