<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpException;

/**
 * No page on the web reads or changes anything here: what a browser sends from another origin is refused, and a change has to bear our own
 * header, which no form and no page of another origin can send without being asked for first (and that question is answered no).
 *
 * Programs that are no browser send neither Origin nor Sec-Fetch-Site; they give the header.
 */
final class SameOrigin
{
    /** What our own page, and programs, say with each change. */
    public const HEADER = 'X-Anvil';

    /**
     * @param  Closure(Request): Response  $next
     */
    public function handle(Request $request, Closure $next): Response
    {
        $site = (string) $request->header('Sec-Fetch-Site');
        $origin = (string) $request->header('Origin');
        if (! in_array($site, ['', 'same-origin', 'none'], true) || ($origin !== '' && $origin !== $request->getSchemeAndHttpHost())) {
            throw new HttpException(403, 'This was sent by a page of another address; open Yellow Anvil at '.$request->getSchemeAndHttpHost().' instead.');
        }
        if (! $request->isMethodSafe() && $request->header(self::HEADER) !== '1') {
            throw new HttpException(403, 'A change needs the header '.self::HEADER.': 1, so that no other page can send it.');
        }

        return $next($request);
    }
}
