<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Deliveries\Steps;
use App\Deliveries\Turn;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/**
 * A step of a delivery. Carries ids, can be run again at any time, and does nothing when the delivery is over or was begun anew.
 */
abstract class DeliveryJob implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    /** Seconds; the queue gives the job to another worker some time after that (AppServiceProvider). */
    public int $timeout;

    public bool $failOnTimeout = true;

    /**
     * @param  int  $run  of the delivery
     */
    public function __construct(public int $deliveryId, public int $run)
    {
        $this->timeout = config()->integer('anvil.job_seconds');
    }

    /** What this is, the same for the same work: by it is known whether it lies in the queue. */
    abstract public function name(): string;

    /** What is done, in words: "reading winch_low.obj". */
    abstract public function words(): string;

    abstract protected function perform(Delivery $delivery): void;

    public function handle(): void
    {
        $delivery = Delivery::query()->find($this->deliveryId);
        if ($delivery === null || ! $this->isWanted($delivery)) {
            return;
        }
        $this->perform($delivery);
        Steps::advance($this->deliveryId);
    }

    public function failed(?Throwable $error): void
    {
        $this->giveUp("{$this->words()} failed three times: ".self::plain($error).' Hand the files in again, or report it with this text.');
    }

    /** Ends what this job was for, with the reason in words. */
    public function giveUp(string $reason): void
    {
        Turn::locked($this->deliveryId, function (Delivery $delivery) use ($reason): void {
            if ($delivery->run === $this->run && ! $delivery->isOver()) {
                Turn::to($delivery, DeliveryState::Failed, null, ['error' => ucfirst($reason)]);
            }
        });
    }

    protected function isWanted(Delivery $delivery): bool
    {
        return $delivery->run === $this->run && ! $delivery->isOver();
    }

    /**
     * Does something under the delivery's lock, if this run is still the one that is wanted.
     *
     * @param  callable(Delivery): void  $do
     */
    protected function ifStillWanted(callable $do): bool
    {
        return Turn::locked($this->deliveryId, function (Delivery $delivery) use ($do): bool {
            if (! $this->isWanted($delivery)) {
                return false;
            }
            $do($delivery);

            return true;
        }) ?? false;
    }

    /** What an error says, without queries, classes and paths. */
    protected static function plain(?Throwable $error): string
    {
        return match (true) {
            $error === null => 'the worker was stopped.',
            $error instanceof \League\Flysystem\UnableToWriteFile, $error instanceof \League\Flysystem\UnableToCreateDirectory => 'the disk is full, or cannot be written to.',
            $error instanceof \PDOException => 'the database did not take what was to be written.',
            default => mb_strimwidth((string) preg_replace('#(?<![\w:])/(?:[\w.\-]+/)+[\w.\-]*#', '(a file)', $error->getMessage()), 0, 300, '…').'.',
        };
    }
}
