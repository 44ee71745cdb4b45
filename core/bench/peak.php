<?php

declare(strict_types=1);

/* Runs a PHP script with the arguments that follow it, and says how much memory that took at most. */

array_shift($_SERVER['argv']);
$argv = $_SERVER['argv'];
$_SERVER['argc'] = $argc = count($argv);
register_shutdown_function(static function (): void {
    echo "\nPEAK ".memory_get_peak_usage(true)."\n";
});
require $argv[0];
