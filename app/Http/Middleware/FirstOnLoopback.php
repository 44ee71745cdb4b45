<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Person;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\IpUtils;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpException;

/**
 * Until somebody has signed up, and with the demo's crew always, only this machine is answered.
 */
final class FirstOnLoopback
{
    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        if (! self::isLoopback($request) && (config('anvil.demo') === true || Person::query()->whereNotNull('password')->doesntExist())) {
            throw new HttpException(403, 'Nobody has signed up here yet, so only the machine itself is answered. Follow the link there that bin/start printed.');
        }

        return $next($request);
    }

    public static function isLoopback(Request $request): bool
    {
        return IpUtils::checkIp((string) $request->ip(), ['127.0.0.0/8', '::1']);
    }
}
