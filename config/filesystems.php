<?php

return [
    'default' => 'anvil',
    'disks' => [
        /* Deliveries, geometry stores, outputs and packages: a folder of this machine, or a store that all machines share. */
        'anvil' => env('ANVIL_STORE', 'local') === 's3' ? [
            'driver' => 's3',
            'endpoint' => env('ANVIL_S3_ENDPOINT'),
            'region' => env('ANVIL_S3_REGION', 'us-east-1'),
            'bucket' => env('ANVIL_S3_BUCKET', 'anvil'),
            'key' => env('ANVIL_S3_KEY'),
            'secret' => env('ANVIL_S3_SECRET'),
            'use_path_style_endpoint' => true,
            'retries' => 0,
            'http' => ['connect_timeout' => 5, 'timeout' => 600],
            /* Checksums that not every server knows are asked for only where they are needed. */
            'request_checksum_calculation' => 'when_required',
            'response_checksum_validation' => 'when_required',
            'throw' => true,
        ] : [
            'driver' => 'local',
            'root' => env('ANVIL_STORAGE', base_path('var/storage')),
            'throw' => true,
        ],
        /* This machine's own: uploads that come in, what is being made, copies of what is stored. */
        'here' => [
            'driver' => 'local',
            'root' => env('ANVIL_STORAGE', base_path('var/storage')),
            'throw' => true,
        ],
    ],
];
