<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Headers on every answer, errors too: what a browser may do with it.
 */
final class Protect
{
    /** Styles come from the page itself as MUI writes them; scripts only from files of ours. */
    private const CSP = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; font-src 'self' data:; img-src 'self' data: blob:; connect-src 'self'; worker-src 'self' blob:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        foreach ([
            'Content-Security-Policy' => self::CSP, 'X-Content-Type-Options' => 'nosniff', 'X-Frame-Options' => 'DENY', 'Referrer-Policy' => 'no-referrer',
            'Cross-Origin-Resource-Policy' => 'same-origin', 'Cross-Origin-Opener-Policy' => 'same-origin', 'Permissions-Policy' => 'camera=(), microphone=(), geolocation=()',
        ] as $name => $value) {
            $response->headers->set($name, $value);
        }
        // What a session sets is no leave to keep an answer; what is kept on purpose says for how long, or by which mark.
        if ($request->is('api/*') && ! $response->headers->has('ETag') && in_array($response->headers->get('Cache-Control'), [null, 'no-cache, private'], true)) {
            $response->headers->set('Cache-Control', 'no-store');
        }

        return $response;
    }
}
