<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Delivery;
use App\Models\Output;
use App\Models\Package;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;
use Throwable;

/**
 * Makes something of a delivery that was checked to its end: files or a package. It has a row of its own, which says how that goes.
 */
abstract class MakingJob extends DeliveryJob
{
    /** Of a delivery as it stands, whatever run that is. */
    public function __construct(int $deliveryId)
    {
        parent::__construct($deliveryId, 0);
    }

    abstract protected function row(): Output|Package|null;

    public function failed(?Throwable $error): void
    {
        $this->giveUp(self::plain($error));
    }

    public function giveUp(string $reason): void
    {
        $row = $this->row();
        if ($row !== null && $row->state !== MakingState::Done) {
            $row->update(['state' => MakingState::Failed, 'error' => $reason]);
        }
    }

    protected function isWanted(Delivery $delivery): bool
    {
        if ($delivery->state === DeliveryState::Done) {
            return true;
        }
        // Left waiting, it would be sent for ever.
        $this->giveUp('the delivery is not checked to its end; make this again once it is');

        return false;
    }
}
