<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\Response;

/**
 * The page of a delivery is asked for every second while it is being checked. Whether anything of it changed is told from a few numbers, before the
 * delivery, its report and its parts are read: where nothing did, the answer is a 304.
 */
final class Unchanged
{
    private const URI = 'api/deliveries/{delivery}';

    /** All that the page is made of, by what moves when it changes: states, counts, newest rows, the asset's choices, the standard's version. */
    private const STATE = <<<'SQL'
        select concat_ws('|', d.run, d.state, d.step, d.updated_at, d.checked_at, a.updated_at, s.version, s.id,
            (select concat(count(*), ' ', sum(state = 'reading'), ' ', sum(state = 'read'), ' ', sum(state = 'unreadable'), ' ', coalesce(max(updated_at), '')) from files where delivery_id = d.id),
            (select concat(count(*), ' ', coalesce(max(id), 0), ' ', coalesce(sum(state = 'measuring'), 0), ' ', coalesce(sum(state = 'done'), 0), ' ', coalesce(sum(state = 'failed'), 0)) from sets where delivery_id = d.id),
            (select concat(count(*), ' ', coalesce(max(id), 0)) from findings where delivery_id = d.id),
            (select coalesce(group_concat(id, state order by id separator ','), '') from outputs where delivery_id = d.id),
            (select coalesce(group_concat(id, state order by id separator ','), '') from packages where delivery_id = d.id)) as state
        from deliveries d join assets a on a.id = d.asset_id join standards s on s.id = a.standard_id where d.id = ?
        SQL;

    /** Another build may give the same delivery another form: what a browser has kept of the one before is not shown by it. */
    private static function build(): string
    {
        return implode(' ', [config()->string('anvil.core_version'), (int) @filemtime(public_path('build/manifest.json')), (int) @filemtime(app_path('Deliveries/DeliveryPage.php'))]).'|';
    }

    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        $route = $request->route();
        $id = $request->isMethod('GET') && $route !== null && $route->uri() === self::URI ? $route->originalParameter('delivery') : null;
        if ($id === null || preg_match('/^[1-9]\d{0,17}$/D', $id) !== 1) {
            return $next($request);
        }
        $state = DB::scalar(self::STATE, [$id]);
        if (! is_string($state)) {
            return $next($request);
        }
        $tag = 'W/"'.substr(hash('sha256', self::build().$state), 0, 32).'"';
        if (in_array($tag, $request->getETags(), true)) {
            return (new Response('', 304))->setCache(['no_cache' => true, 'private' => true])->setEtag(substr($tag, 3, -1), true);
        }
        $response = $next($request);
        if ($response->getStatusCode() === 200) {
            $response->headers->set('ETag', $tag);
            $response->headers->set('Cache-Control', 'no-cache, private');
        }

        return $response;
    }
}
