<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;
use Illuminate\Support\Facades\DB;
use LogicException;

/**
 * The one place where a delivery comes into another state: with its row locked, and only where one state may follow the other.
 */
final class Turn
{
    /**
     * Does something with a delivery's row locked.
     *
     * @template T
     *
     * @param  callable(Delivery): T  $do
     * @return T|null null where the delivery is gone
     */
    public static function locked(int $id, callable $do): mixed
    {
        return DB::transaction(static function () use ($id, $do): mixed {
            $delivery = Delivery::query()->whereKey($id)->lockForUpdate()->first();

            return $delivery === null ? null : $do($delivery);
        });
    }

    /**
     * @param  Delivery  $delivery  got by `locked`
     * @param  array<string, mixed>  $with  what is written with it
     *
     * @throws LogicException where the row is not locked, or this state does not follow
     */
    public static function to(Delivery $delivery, DeliveryState $state, ?Step $step, array $with = []): void
    {
        if (DB::transactionLevel() === 0) {
            throw new LogicException('a delivery turns with its row locked');
        }
        if (! $delivery->state->mayBecome($state)) {
            throw new LogicException("a delivery that is {$delivery->state->value} does not become $state->value");
        }
        if (($step === null) !== $state->isOver()) {
            throw new LogicException("a delivery that is $state->value has ".($state->isOver() ? 'no step' : 'a step'));
        }
        $delivery->update([...$with, 'state' => $state, 'step' => $step]);
    }
}
