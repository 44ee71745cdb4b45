<?php

declare(strict_types=1);

/*
 * Prints what a test run was: a row a suite, then the slowest tests. php bin/test-table.php FOLDER
 *
 * FOLDER holds, for each suite, NAME.seconds ("wall user system") and, where its runner writes one, NAME.xml in JUnit's form or NAME.count ("tests assertions").
 */

const SLOWEST = 20;

/**
 * @return array{int, int, list<array{float, string}>} tests, assertions, seconds and name of each test
 */
function readJunit(string $path): array
{
    $tests = $assertions = 0;
    $times = [];
    $reader = XMLReader::open($path);
    while ($reader instanceof XMLReader && $reader->read()) {
        if ($reader->nodeType === XMLReader::ELEMENT && $reader->name === 'testcase') {
            $tests++;
            $assertions += (int) $reader->getAttribute('assertions');
            $class = (string) ($reader->getAttribute('class') ?? $reader->getAttribute('classname'));
            $times[] = [(float) $reader->getAttribute('time'), preg_replace('/^.*\\\\/', '', $class).' '.$reader->getAttribute('name')];
        }
    }

    return [$tests, $assertions, $times];
}

$folder = $argv[1] ?? '.';
$rows = [['suite', 'tests', 'assertions', 'wall s', 'CPU s']];
$slow = [];
$sum = [0, 0, 0.0];
foreach (['core', 'quick_core', 'units', 'real', 'feature', 'quick_queue', 'attack', 'browser', 'machines', 'database'] as $suite) {
    if (! is_file("$folder/$suite.seconds")) {
        continue;
    }
    [$wall, $user, $system] = array_map(floatval(...), explode(' ', trim((string) file_get_contents("$folder/$suite.seconds"))) + [0.0, 0.0, 0.0]);
    [$tests, $assertions, $times] = is_file("$folder/$suite.xml") ? readJunit("$folder/$suite.xml") : [0, 0, []];
    if (is_file("$folder/$suite.count")) {
        [$tests, $assertions] = array_map(intval(...), explode(' ', trim((string) file_get_contents("$folder/$suite.count"))) + [0, 0]);
    }
    $rows[] = [$suite, number_format($tests), $assertions === 0 ? '–' : number_format($assertions), number_format($wall), number_format($user + $system)];
    $sum = [$sum[0] + $tests, $sum[1] + $assertions, $sum[2] + $user + $system];
    array_push($slow, ...array_map(static fn (array $one): array => [$one[0], "$suite: $one[1]"], $times));
}
$rows[] = ['all', number_format($sum[0]), number_format($sum[1]), is_file("$folder/all.seconds") ? number_format((float) file_get_contents("$folder/all.seconds")) : '', number_format($sum[2])];
foreach ($rows as $row) {
    echo str_pad($row[0], 10), implode('', array_map(static fn (string $cell): string => str_repeat(' ', 12 - mb_strlen($cell)).$cell, array_slice($row, 1))), "\n";
}
usort($slow, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
if ($slow !== []) {
    echo "\nThe slowest tests:\n";
}
foreach (array_slice($slow, 0, SLOWEST) as [$seconds, $name]) {
    printf("%7.1f s  %s\n", $seconds, mb_strimwidth($name, 0, 150, '…'));
}
