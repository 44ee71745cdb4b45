<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Jobs\PairDelivery;
use App\Jobs\ReadFile;
use App\Models\Delivery;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;

#[OA\Info(version: '1', title: 'Yellow Anvil')]
abstract class Controller
{
    protected function user(): string
    {
        return config()->string('anvil.user');
    }

    protected function needsSettled(Delivery $delivery): void
    {
        if ($delivery->state === 'measuring' || $delivery->state === 'checking' || $delivery->state === 'reading') {
            throw ValidationException::withMessages(['delivery' => 'the delivery is being checked; wait or cancel first']);
        }
    }

    protected function startOver(Delivery $delivery): void
    {
        $this->needsSettled($delivery);
        // Cancelled before all was read: it begins with reading, for what was not read cannot be judged.
        $unread = $delivery->files()->where('kind', 'mesh')->whereNotIn('state', ['read', 'unreadable'])->exists();
        $delivery->update(['state' => $unread ? 'reading' : 'measuring', 'error' => null, 'verdict' => null]);
        $unread ? ReadFile::dispatchAll($delivery) : PairDelivery::dispatch($delivery->id);
    }
}
