<?php

declare(strict_types=1);

namespace Anvil\Tests\Support;

use PHPUnit\Framework\Assert;

/**
 * Programs and data from outside the project that tests compare with. What is missing fails the test: a check that did not run has not passed.
 */
final class Outside
{
    public static function root(): string
    {
        return dirname(__DIR__, 3);
    }

    /** A file of Debian's assimp-testmodels. */
    public static function model(string $below): string
    {
        $path = "/usr/share/assimp/models/$below";
        Assert::assertFileExists($path, 'install the Debian package assimp-testmodels; bin/test does');

        return $path;
    }

    /**
     * Runs a Node script of the tests and gives back its JSON.
     *
     * @param  list<string>  $arguments
     * @return array<array-key, mixed>
     */
    public static function node(string $script, array $arguments): array
    {
        $command = 'cd '.escapeshellarg(self::root()).' && node '.escapeshellarg(self::root()."/core/tests/References/$script").' '.implode(' ', array_map(escapeshellarg(...), $arguments)).' 2>/dev/null';
        $output = (string) shell_exec($command);
        // Loaders of others may talk before; the JSON is the last line.
        $lines = explode("\n", trim($output));
        $read = json_decode($lines[count($lines) - 1], true);
        Assert::assertIsArray($read, "$script said: ".substr($output, 0, 500));

        return $read;
    }

    /**
     * Runs a Python program, Debian's own interpreter with Debian's packages, on a value given as JSON, and gives back its JSON.
     *
     * @return array<array-key, mixed>
     */
    public static function python(string $program, mixed $input): array
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-python');
        file_put_contents($path, json_encode($input, JSON_THROW_ON_ERROR));
        $output = (string) shell_exec('/usr/bin/python3 -W ignore -c '.escapeshellarg($program).' <'.escapeshellarg($path).' 2>&1');
        unlink($path);
        $read = json_decode($output, true);
        Assert::assertIsArray($read, 'install the Debian packages that bin/test names; Python said: '.substr($output, 0, 500));

        return $read;
    }

    /** Converts a mesh file with Debian's `assimp export`, an independent reader and writer. */
    public static function convert(string $from, string $to): void
    {
        $format = pathinfo($to, PATHINFO_EXTENSION) === 'glb' ? ' -fglb2' : '';
        $output = (string) shell_exec('assimp export '.escapeshellarg($from).' '.escapeshellarg($to).$format.' 2>&1');
        Assert::assertFileExists($to, "assimp said: $output");
    }
}
