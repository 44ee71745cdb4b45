<?php

/* The PHP packages that are installed, a name and a version a line, for composer.packages.txt. */

$installed = json_decode((string) file_get_contents(__DIR__.'/../vendor/composer/installed.json'), true);
$lines = [];
foreach ($installed['packages'] as $package) {
    $lines[] = $package['name'].' '.$package['version'];
}
sort($lines);
echo implode("\n", $lines), "\n";
