<?php

return [
    'default' => 'anvil',
    'disks' => [
        /* Deliveries, geometry stores, outputs and packages. */
        'anvil' => [
            'driver' => 'local',
            'root' => env('ANVIL_STORAGE', base_path('var/storage')),
            'throw' => true,
        ],
    ],
];
