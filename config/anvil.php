<?php

return [
    /* Who changes are signed by, until accounts come. */
    'user' => env('ANVIL_USER', 'technical artist'),

    /* The largest file that is taken in, in bytes. */
    'largest_upload' => (int) env('ANVIL_LARGEST_UPLOAD', 4 * 1024 ** 3),

    /* Triangles at most that a display mesh of one role has. */
    'display_triangles' => 300_000,

    /* Part of every result, so that it is known which rules made it. */
    'core_version' => '0.3.0',
];
