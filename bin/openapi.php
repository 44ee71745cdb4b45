<?php

declare(strict_types=1);

/* Writes docs/openapi.json from the attributes of the API's controllers and data classes. With --check only compares. */

use OpenApi\Generator;

require __DIR__.'/../vendor/autoload.php';

$root = dirname(__DIR__);
$openapi = (new Generator)->setVersion('3.0.0')->generate(["$root/app/Http/Data", "$root/app/Http/Controllers", "$root/app/Models/State", "$root/app/People"]);
$json = ($openapi?->toJson(JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT) ?? '')."\n";
if (in_array('--check', $argv, true)) {
    if ($json !== file_get_contents("$root/docs/openapi.json")) {
        fwrite(STDERR, "docs/openapi.json is not what the code says; run php bin/openapi.php && npm run api-types\n");
        exit(1);
    }
    exit(0);
}
file_put_contents("$root/docs/openapi.json", $json);
