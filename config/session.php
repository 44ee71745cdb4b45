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
    /* Browsers keep cookies by host alone: two on one machine, each on its port, do not take each other's. */
    'cookie' => (str_starts_with((string) env('APP_URL', ''), 'https:') ? '__Host-' : '').'anvil_session'.(is_int($port = parse_url((string) env('APP_URL', ''), PHP_URL_PORT)) ? "_$port" : ''),
    'path' => '/',
    'domain' => null,
    'secure' => str_starts_with((string) env('APP_URL', ''), 'https:'),
    'http_only' => true,
    'same_site' => 'strict',
    'partitioned' => false,
];
