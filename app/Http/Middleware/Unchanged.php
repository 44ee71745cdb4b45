<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\People\Leave;
use App\People\Who;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\Response;

/**
 * How far a delivery is, is asked for every second while it is being checked. Whether anything of it changed is told from a few numbers, before the
 * delivery, its report and its parts are read: where nothing did, the answer is a 304.
 */
final class Unchanged
{
    /** Everything that is shown of a delivery. */
    private const URIS = '#^api/deliveries/\{delivery\}(/(progress|intake|pairing|sets|color-id|clearance|surface|hand-off))?$#';

    /** All that the page is made of, by what moves when it changes: states, counts, newest rows, the asset's choices, the standard's version. */
    private const STATE = <<<'SQL'
        select concat_ws('|', d.run, d.judged, d.state, d.step, d.updated_at, d.checked_at, a.updated_at, a.color_ids_version, s.version, s.id,
            (select concat(count(*), ' ', sum(state = 'reading'), ' ', sum(state = 'read'), ' ', sum(state = 'unreadable'), ' ', coalesce(max(updated_at), '')) from files where delivery_id = d.id),
            (select concat(count(*), ' ', coalesce(max(id), 0), ' ', coalesce(sum(state = 'measuring'), 0), ' ', coalesce(sum(state = 'done'), 0), ' ', coalesce(sum(state = 'failed'), 0)) from sets where delivery_id = d.id),
            (select concat(count(*), ' ', coalesce(max(id), 0)) from findings where delivery_id = d.id),
            (select coalesce(group_concat(id, state order by id separator ','), '') from outputs where delivery_id = d.id),
            (select coalesce(group_concat(id, state order by id separator ','), '') from packages where delivery_id = d.id),
            (select concat(count(*), ' ', coalesce(max(updated_at), '')) from waivers where asset_id = a.id), (select coalesce(max(id), 0) from fix_lists where asset_id = a.id), (select coalesce(max(e.id), 0) from events e where e.asset_id = a.id and e.area is not null), (select concat(max(o.id), ' ', coalesce(max(o.checked_at), '')) from deliveries o where o.asset_id = a.id)) as state
        from deliveries d join assets a on a.id = d.asset_id join standards s on s.id = a.standard_id where d.id = ?
        SQL;

    /** Another build may give the same delivery another form: what a browser has kept of the one before is not shown by it. */
    private static function build(): string
    {
        return implode(' ', [config()->string('anvil.core_version'), (int) @filemtime(public_path('build/manifest.json')), (int) @filemtime(app_path('Deliveries/DeliveryPage.php'))]).'|';
    }

    /** The attribute of a request under which the mark of its delivery lies. */
    private const MARK = 'mark';

    public static function markOf(Request $request): string
    {
        $mark = $request->attributes->get(self::MARK);

        return is_string($mark) ? $mark : '';
    }

    /** Another one once anything of a delivery changed; empty where there is no such delivery. */
    private static function mark(int $delivery): string
    {
        $state = DB::scalar(self::STATE, [$delivery]);

        return is_string($state) ? substr(hash('sha256', self::build().$state), 0, 32) : '';
    }

    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        $route = $request->route();
        $id = $request->isMethod('GET') && $route !== null && preg_match(self::URIS, $route->uri()) === 1 ? $route->originalParameter('delivery') : null;
        if (Who::person()?->may(Leave::View) !== true) {
            // Who has no leave is told so further on, not that nothing changed.
            return $next($request);
        }
        if ($id === null || preg_match('/^[1-9]\d{0,17}$/D', $id) !== 1) {
            return $next($request);
        }
        $mark = self::mark((int) $id);
        if ($mark === '') {
            return $next($request);
        }
        $tag = "W/\"$mark\"";
        if (in_array($tag, $request->getETags(), true)) {
            return (new Response('', 304))->setCache(['no_cache' => true, 'private' => true])->setEtag($mark, true);
        }
        // From before anything is read: what changes meanwhile is asked for again.
        $request->attributes->set(self::MARK, $mark);
        $response = $next($request);
        if ($response->getStatusCode() === 200) {
            $response->headers->set('ETag', $tag);
            $response->headers->set('Cache-Control', 'no-cache, private');
        }

        return $response;
    }
}
