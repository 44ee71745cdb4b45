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
        if ($request->headers->has('Authorization')) {
            return $next($request);
        }
        $response = (new Pipeline($this->container))->send($request)->through([EncryptCookies::class, AddQueuedCookiesToResponse::class, Session::class, ValidateCsrfToken::class])->then($next);

        return $response instanceof Response ? $response : throw new RuntimeException('there is no answer');
    }
}
