<?php

use Anvil\Version;

return [
    /* The made-up crew may be signed in without a password, from this machine. */
    'demo' => env('ANVIL_DEMO') === '1' || env('ANVIL_DEMO') === 1 || env('ANVIL_DEMO') === true,

    /* Names that this is answered under besides 127.0.0.1, localhost and that of APP_URL; with commas. */
    'hosts' => (string) env('ANVIL_HOSTS', ''),

    /* How often a minute somebody may hand in, and ask for what costs; and how often one address may guess at passwords. */
    'a_minute' => ['handing-in' => (int) env('ANVIL_HAND_INS_A_MINUTE', 6000), 'costly' => (int) env('ANVIL_COSTLY_A_MINUTE', 240), 'trying' => (int) env('ANVIL_TRIES_A_MINUTE', 600), 'guesses' => (int) env('ANVIL_GUESSES_A_MINUTE', 30)],

    /* The largest file, and the largest delivery, that is taken in, in bytes; and how many files a delivery may have. */
    'largest_upload' => (int) env('ANVIL_LARGEST_UPLOAD', 4 * 1024 ** 3),
    'largest_delivery' => (int) env('ANVIL_LARGEST_DELIVERY', 16 * 1024 ** 3),
    /* Deliveries of more bytes than this wait in a queue of their own. */
    'large_from' => (int) env('ANVIL_LARGE_FROM', 64 * 1024 ** 2),
    'most_files' => (int) env('ANVIL_MOST_FILES', 5000),

    /* Memory that a worker has, in bytes; what needs more is told before it is read. */
    'worker_memory' => (int) env('ANVIL_WORKER_BYTES', 4 * 1024 ** 3),

    /* Seconds that a job may take. */
    'job_seconds' => (int) env('ANVIL_JOB_SECONDS', 1800),

    /* Disk that is left alone: nothing is begun that would leave less free, in bytes. */
    'spare_disk' => (int) env('ANVIL_SPARE_DISK', 256 * 1024 ** 2),

    /* A machine whose keeper did not speak of its workers for so many seconds is gone, and they with it. */
    'silent_after' => (int) env('ANVIL_SILENT_AFTER', 60),

    /* Seconds that a shared store may refuse before a worker gives up. */
    'store_waits' => (int) env('ANVIL_STORE_WAITS', 120),

    /* A folder in which results are kept by what they depend on, beside the database: the one that the command line is given as ANVIL_MEASURES. */
    'measures' => env('ANVIL_APP_MEASURES'),

    /* Copies of a shared store's files that a machine keeps, in bytes. */
    'copies' => (int) env('ANVIL_COPIES', 20 * 1024 ** 3),

    /* Triangles of a delivery up to which a worker loads all its meshes and keeps them from one job to the next; of a larger one it loads what a job needs. */
    'keep_triangles' => 3_000_000,

    /* Triangles at most that a display mesh of one role has. */
    'display_triangles' => 300_000,

    /* Part of every result, so that it is known which rules made it. */
    'core_version' => Version::CORE,
];
