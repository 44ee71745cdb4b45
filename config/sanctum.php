<?php

return [
    'stateful' => [],
    'guard' => ['web'],
    /* Tokens end when they say so, or are revoked. */
    'expiration' => null,
    /* Found by scanners of repositories where somebody commits one by mistake. */
    'token_prefix' => 'anvil_',
];
