<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Deliveries\Steps;
use App\Deliveries\Turn;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\People\Decisions;
use App\People\Who;
use Closure;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;

#[OA\Info(version: '1', title: 'Yellow Anvil')]
abstract class Controller
{
    protected function user(): string
    {
        return Who::name();
    }

    /**
     * Changes something that a delivery is judged by and begins to check it anew, both or neither, under the delivery's lock.
     * A check that is running is stopped: what is measured by then stays known. What was decided goes into the history.
     *
     * @param  Closure(Delivery): void  $change
     */
    protected function startOver(Delivery $delivery, ?Closure $change = null): void
    {
        Turn::locked($delivery->id, static function (Delivery $locked) use ($change): void {
            if (! $locked->isOver() && ($change === null || $locked->state === DeliveryState::Writing)) {
                throw ValidationException::withMessages(['delivery' => $change === null ? 'the delivery is being checked already' : 'its mended files are being written; wait for them']);
            }
            if ($change !== null) {
                Decisions::change($locked->asset, $locked, static function (Asset $asset) use ($change, $locked): void {
                    // As it is under its lock, and not as it was before.
                    $locked->setRelation('asset', $asset);
                    $change($locked);
                });
            }
            Steps::begin($locked);
        });
        $delivery->refresh();
    }

    /** What is made of a delivery is made once it is checked. */
    protected function needsDone(Delivery $delivery): void
    {
        if ($delivery->state !== DeliveryState::Done) {
            throw ValidationException::withMessages(['delivery' => 'the delivery is still being checked']);
        }
    }
}
