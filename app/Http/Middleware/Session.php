<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Http\Request;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Support\Facades\Auth;

/**
 * Keeps a session for who is signed in, and for who is about to be: whoever asks for anything else leaves no row behind.
 */
final class Session extends StartSession
{
    /**
     * @param  Request  $request
     */
    protected function saveSession($request): void
    {
        if ($request->is('api/session', 'api/session/*', 'api/password', 'api/password/*') || Auth::guard('web')->check()) {
            parent::saveSession($request);
        }
    }
}
