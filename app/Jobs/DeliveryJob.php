<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Delivery;
use Illuminate\Bus\Batchable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/**
 * A step of a delivery. Carries ids, can be run again at any time, and stops at once when the delivery was cancelled.
 */
abstract class DeliveryJob implements ShouldQueue
{
    use Batchable, Queueable;

    /** A worker that was killed leaves an attempt behind; the third is the last. */
    public int $tries = 3;

    public int $timeout = 1800;

    public bool $failOnTimeout = true;

    public function __construct(public int $deliveryId)
    {
    }

    public function handle(): void
    {
        $delivery = Delivery::query()->find($this->deliveryId);
        if ($delivery === null || $delivery->state === 'cancelled' || $delivery->state === 'failed' || $this->batch()?->cancelled() === true) {
            return;
        }
        $this->perform($delivery);
    }

    public function failed(?Throwable $error): void
    {
        Delivery::query()->whereKey($this->deliveryId)->whereNot('state', 'cancelled')->update([
            'state' => 'failed',
            'error' => 'A step failed three times: '.mb_strimwidth($error?->getMessage() ?? 'the worker was stopped', 0, 500, '…').' Hand the files in again, or report it with this text.',
        ]);
    }

    abstract protected function perform(Delivery $delivery): void;
}
