<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Asset;
use App\Models\Delivery;
use App\People\History;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Writes into an asset's history what was done, once it was. Routes say it: `noted:chose how sets are moved apart`.
 */
final class Noted
{
    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next, string $words): Response
    {
        $delivery = $request->route('delivery');
        $asset = $delivery instanceof Delivery ? $delivery->asset : $request->route('asset');
        $response = $next($request);
        if ($response->isSuccessful() && $asset instanceof Asset) {
            $isGone = $request->isMethod('DELETE');
            // Of an asset that is gone it is told all the same.
            $there = ! $isGone || Asset::query()->whereKey($asset->id)->exists();
            History::tell($there ? $asset : null, $delivery instanceof Delivery ? $delivery : null, $there ? $words : "deleted the asset $asset->name");
        }

        return $response;
    }
}
