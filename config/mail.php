<?php

return [
    /* Where no mail server is set, mail lies in the inbox page. */
    'default' => env('MAIL_MAILER', env('MAIL_HOST') === null ? 'inbox' : 'smtp'),
    'mailers' => [
        'inbox' => ['transport' => 'inbox'],
        'smtp' => [
            'transport' => 'smtp', 'scheme' => env('MAIL_SCHEME'), 'host' => env('MAIL_HOST', '127.0.0.1'), 'port' => (int) env('MAIL_PORT', 587),
            'username' => env('MAIL_USERNAME'), 'password' => env('MAIL_PASSWORD'), 'timeout' => 10, 'local_domain' => parse_url((string) env('APP_URL', 'http://localhost'), PHP_URL_HOST),
        ],
        'array' => ['transport' => 'array'],
    ],
    'from' => ['address' => env('MAIL_FROM_ADDRESS', 'anvil@localhost'), 'name' => env('MAIL_FROM_NAME', 'Yellow Anvil')],
];
