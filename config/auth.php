<?php

use App\Models\Person;

return [
    /* A session's person, or a token's; by what the request bears. */
    'defaults' => ['guard' => 'sanctum', 'passwords' => 'people'],
    'guards' => ['web' => ['driver' => 'session', 'provider' => 'people'], 'sanctum' => ['driver' => 'sanctum', 'provider' => 'people']],
    'providers' => ['people' => ['driver' => 'eloquent', 'model' => Person::class]],
    /* Links that set a password, in minutes: asked for, and sent with an invitation. */
    'passwords' => [
        'people' => ['provider' => 'people', 'table' => 'password_reset_tokens', 'expire' => 60, 'throttle' => 60],
        'invites' => ['provider' => 'people', 'table' => 'invite_tokens', 'expire' => 4320, 'throttle' => 0],
    ],
    'password_timeout' => 10800,
];
