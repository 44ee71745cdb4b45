<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Contracts\Container\Container;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Request;
use Illuminate\Pipeline\Pipeline;
use RuntimeException;
use Symfony\Component\HttpFoundation\Response;

/**
 * A browser has a session and sends its CSRF token with each change. A program sends a token of its own and has neither: no page can make a browser send that.
 */
final class Sessions
{
    public function __construct(private readonly Container $container)
    {
    }

    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        $sent = $request->headers->get('Authorization');
        if ($sent !== null) {
            // Before anything is looked up, or used up.
            abort_if(preg_match('/^Bearer [\x21-\x7E]{1,300}$/D', $sent) !== 1, 400, 'The Authorization header holds no token: send "Bearer", a blank and the token, or leave the header out');
            abort_if($request->is('api/password', 'api/password/*') || ($request->is('api/session', 'api/session/*') && ! $request->isMethodSafe()), 400, 'Signing in needs a session, which a request with a token has not: leave the Authorization header out');

            return $next($request);
        }
        $response = (new Pipeline($this->container))->send($request)->through([EncryptCookies::class, AddQueuedCookiesToResponse::class, Session::class, ValidateCsrfToken::class])->then($next);

        return $response instanceof Response ? $response : throw new RuntimeException('there is no answer');
    }
}
