<?php

return [
    'default' => env('LOG_CHANNEL', 'safe'),
    'channels' => [
        /* A log that cannot be written, on a full disk, must not take the answer with it. */
        'safe' => ['driver' => 'stack', 'channels' => ['anvil'], 'ignore_exceptions' => true],
        /* A file a day, two weeks of them, for nobody else to read. */
        'anvil' => ['driver' => 'daily', 'path' => env('ANVIL_LOG', base_path('var/log/app.log')), 'level' => 'info', 'days' => 14, 'permission' => 0o600],
        'null' => ['driver' => 'monolog', 'handler' => Monolog\Handler\NullHandler::class],
        'emergency' => ['path' => env('ANVIL_LOG', base_path('var/log/app.log'))],
    ],
];
