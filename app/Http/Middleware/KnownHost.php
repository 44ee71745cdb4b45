<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpException;

/**
 * Answers only under the names that it was given: a name of somebody else's that leads to this machine (DNS rebinding) gets nothing.
 */
final class KnownHost
{
    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        // Not by the framework's own reading of forwarded headers: what the program was called by.
        $host = strtolower((string) preg_replace('/:\d+$/', '', (string) $request->headers->get('Host')));
        if (! in_array($host, self::hosts(), true)) {
            throw new HttpException(421, 'Yellow Anvil does not answer under this name. Its own are '.implode(', ', self::hosts()).'; more can be named in ANVIL_HOSTS.');
        }

        return $next($request);
    }

    /**
     * @return list<string>
     */
    private static function hosts(): array
    {
        $own = parse_url(config()->string('app.url'), PHP_URL_HOST);
        $more = array_filter(array_map(trim(...), explode(',', strtolower(config()->string('anvil.hosts')))), static fn (string $host): bool => $host !== '');

        return array_values(array_unique(['127.0.0.1', 'localhost', '[::1]', ...(is_string($own) ? [strtolower($own)] : []), ...$more]));
    }
}
