<?php

declare(strict_types=1);

namespace Anvil\Checks;

use Anvil\Standard\Standard;
use Anvil\Unreadable;

/**
 * Every check that there is: the classes beside this one that are checks, in the order of their rows, in which findings are listed.
 */
final class Catalogue
{
    /** @var list<Check>|null */
    private static ?array $all = null;

    /** @var array<string, Check>|null */
    private static ?array $byCode = null;

    /** @var array<string, About>|null */
    private static ?array $about = null;

    /**
     * @return list<Check>
     */
    public static function all(): array
    {
        if (self::$all === null) {
            $found = [];
            foreach (glob(__DIR__.'/*/*.php') ?: [] as $path) {
                $class = __NAMESPACE__.'\\'.basename(dirname($path)).'\\'.basename($path, '.php');
                if (is_subclass_of($class, Check::class)) {
                    $found[] = new $class;
                }
            }
            usort($found, static fn (Check $a, Check $b): int => [$a->about()->row, $a->about()->code] <=> [$b->about()->row, $b->about()->code]);
            self::$all = $found;
        }

        return self::$all;
    }

    public static function get(string $code): ?Check
    {
        if (self::$byCode === null) {
            self::$byCode = [];
            foreach (self::all() as $check) {
                self::$byCode[$check->about()->code] = $check;
            }
        }

        return self::$byCode[$code] ?? null;
    }

    /**
     * @return array<string, About> by code
     */
    public static function about(): array
    {
        if (self::$about === null) {
            self::$about = [];
            foreach (self::all() as $check) {
                $about = $check->about();
                self::$about[$about->code] = $about;
            }
        }

        return self::$about;
    }

    /**
     * @return list<string> codes of the checks that are told of each file by itself
     */
    public static function ofFile(): array
    {
        return array_keys(array_filter(self::about(), static fn (About $about): bool => $about->ofFile));
    }

    /** Whether there is a check of this code. */
    public static function knows(string $code): bool
    {
        return isset(self::about()[$code]);
    }

    /**
     * A standard, with the codes in it held against the catalogue.
     *
     * @throws Unreadable that names the key
     */
    public static function standard(string $json): Standard
    {
        $standard = Standard::ofJson($json);
        foreach (array_keys($standard->checks) as $code) {
            if (! self::knows((string) $code)) {
                throw Unreadable::because("checks.$code is no check; the codes are in the check catalogue");
            }
        }

        return $standard;
    }
}
