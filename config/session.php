<?php

return [
    'driver' => env('SESSION_DRIVER', 'database'),
    /* Minutes without a request after which somebody has to sign in again. */
    'lifetime' => (int) env('SESSION_LIFETIME', 480),
    'expire_on_close' => false,
    'encrypt' => false,
    'connection' => null,
    'table' => 'sessions',
    'store' => null,
    'lottery' => [2, 100],
    'cookie' => str_starts_with((string) env('APP_URL', ''), 'https:') ? '__Host-anvil_session' : 'anvil_session',
    'path' => '/',
    'domain' => null,
    'secure' => str_starts_with((string) env('APP_URL', ''), 'https:'),
    'http_only' => true,
    'same_site' => 'strict',
    'partitioned' => false,
];
