<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Delivery;
use App\Models\Output;
use App\Models\Package;
use App\Models\State\DeliveryState;
use App\Models\State\MakingState;
use Illuminate\Support\Facades\DB;
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
        $this->turn(MakingState::Failed, ['error' => $reason]);
    }

    /**
     * The one place where what is made comes into another state: with its row locked, and never once it is done.
     *
     * @param  array<string, mixed>  $with  what is written with it
     */
    protected function turn(MakingState $state, array $with = []): void
    {
        DB::transaction(function () use ($state, $with): void {
            $found = $this->row();
            $row = $found === null ? null : $found->newQuery()->whereKey($found->id)->lockForUpdate()->first();
            if ($row !== null && $row->state !== MakingState::Done) {
                $row->update([...$with, 'state' => $state]);
            }
        });
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
