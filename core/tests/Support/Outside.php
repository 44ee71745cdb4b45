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
        $read = json_decode($output, true);
        Assert::assertIsArray($read, "$script said: ".substr($output, 0, 500));

        return $read;
    }
}
