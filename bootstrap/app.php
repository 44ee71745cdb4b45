<?php

use App\Http\ErrorAnswer;
use App\Http\Middleware\FirstOnLoopback;
use App\Http\Middleware\KnownHost;
use App\Http\Middleware\Noted;
use App\Http\Middleware\Protect;
use App\Http\Middleware\SameOrigin;
use App\Http\Middleware\Sessions;
use App\Http\Middleware\SoundInput;
use App\Http\Middleware\Unchanged;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Foundation\Http\Middleware\TrimStrings;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Http\Request;
use Illuminate\Routing\Middleware\SubstituteBindings;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\View\Middleware\ShareErrorsFromSession;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        api: __DIR__.'/../routes/api.php',
        commands: __DIR__.'/../routes/console.php',
    )
    ->withMiddleware(function (Middleware $middleware): void {
        // Forwarded headers are believed of named proxies only; names of files and parts are kept as they are, blanks and all.
        $proxies = array_values(array_filter(explode(',', (string) env('ANVIL_PROXIES', ''))));
        $middleware->trustProxies(at: $proxies);
        $middleware->remove([TrimStrings::class, HandleCors::class]);
        $middleware->prepend([Protect::class, KnownHost::class]);
        $middleware->alias(['noted' => Noted::class, 'unchanged' => Unchanged::class]);
        // There is no page to send programs to: they are told to sign in.
        $middleware->redirectGuestsTo(static fn (): ?string => null);
        // After who asks is known, and before anything of what they ask for is read.
        $middleware->prependToPriorityList(SubstituteBindings::class, Unchanged::class);
        // Pages are the same for everybody; who asks is known by the API alone.
        $middleware->web(remove: [EncryptCookies::class, AddQueuedCookiesToResponse::class, StartSession::class, ShareErrorsFromSession::class, ValidateCsrfToken::class]);
        $middleware->api(prepend: [FirstOnLoopback::class, SameOrigin::class, SoundInput::class, Sessions::class]);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        $exceptions->shouldRenderJsonWhen(fn (Request $request): bool => true);
        $exceptions->render(fn (Throwable $error, Request $request) => ErrorAnswer::of($error));
    })->create();
