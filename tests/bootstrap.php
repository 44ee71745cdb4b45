<?php

declare(strict_types=1);

/*
 * What runs before all tests. Each of the processes that tests run in side by side has a database and a storage of its own: bin/test made them,
 * and numbers the processes.
 */

require __DIR__.'/../vendor/autoload.php';

$token = getenv('TEST_TOKEN');
$databases = getenv('ANVIL_TEST_DATABASES');
if (is_string($token) && $token !== '' && is_string($databases)) {
    foreach (['DB_DATABASE' => "{$databases}_$token", 'ANVIL_STORAGE' => getenv('ANVIL_TEST_STORAGES')."_$token/storage"] as $name => $value) {
        putenv("$name=$value");
        $_ENV[$name] = $_SERVER[$name] = $value;
    }
}
