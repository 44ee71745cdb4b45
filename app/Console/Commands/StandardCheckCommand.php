<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Anvil\Checks\Catalogue;
use Anvil\Standard\Standard;
use Anvil\Unreadable;

/**
 * Holds a standard's file against its schema, and says in what it differs from the built-in one.
 */
final class StandardCheckCommand extends AnvilCommand
{
    protected $signature = 'anvil:standard:check {file : a standard, JSON}
        {--json : print one JSON document and nothing else}';

    protected $description = 'Say whether a standard is one, and in what it differs from the built-in one';

    protected function perform(): int
    {
        $path = $this->argument('file');
        $text = is_file($path) ? @file_get_contents($path) : false;
        if ($text === false) {
            throw new UnusableInput('file-missing', "$path is not there, or may not be read", $path);
        }
        try {
            $standard = Catalogue::standard($text);
        } catch (Unreadable $error) {
            throw UnusableInput::of($error, $path, 'standard-invalid');
        }
        $differences = self::differences($standard);
        if ($this->wantsJson()) {
            $this->printJson(['tool' => 'yellow-anvil', 'schema' => 1, 'standard' => $standard->toArray(), 'differences' => (object) $differences]);
        } else {
            $this->line("$path is a standard: $standard->name");
            foreach ($differences as $key => ['from' => $from, 'to' => $to]) {
                $this->line(sprintf('  %-28s %s, built in %s', $key, self::shown($to), self::shown($from)));
            }
            $this->line($differences === [] ? '  all of it is as in the built-in one' : '');
        }

        return self::SUCCESS;
    }

    /**
     * @return array<string, array{from: mixed, to: mixed}> by key
     */
    private static function differences(Standard $standard): array
    {
        $out = [];
        $own = $standard->toArray();
        $builtIn = Standard::builtIn()->toArray();
        foreach ($own as $key => $value) {
            if ($key === 'name' || $key === 'checks' || $value == ($builtIn[$key] ?? null)) {
                continue;
            }
            $out[$key] = ['from' => $builtIn[$key] ?? null, 'to' => $value];
        }
        foreach ($standard->checks as $code => $check) {
            $about = Catalogue::about()[$code] ?? null;
            foreach (['severity' => $about?->severity->value, 'limit' => $about?->limit, 'caution' => $about?->caution] as $key => $from) {
                if ($check[$key] !== null && $check[$key] !== $from) {
                    $out["checks.$code.$key"] = ['from' => $from, 'to' => $check[$key]];
                }
            }
        }

        return $out;
    }

    private static function shown(mixed $value): string
    {
        return $value === null ? 'nothing' : (is_string($value) ? $value : (string) json_encode($value, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
    }
}
