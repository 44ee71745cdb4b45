<?php

declare(strict_types=1);

namespace Anvil\Measures;

use LogicException;

/**
 * Every measure that there is: the classes in `Kind/`.
 */
final class MeasureCatalogue
{
    /** @var array<string, Measure<mixed>>|null by class */
    private static ?array $all = null;

    /**
     * @return array<string, Measure<mixed>> by class
     */
    public static function all(): array
    {
        if (self::$all === null) {
            self::$all = [];
            foreach (glob(__DIR__.'/Kind/*.php') ?: [] as $path) {
                $class = __NAMESPACE__.'\\Kind\\'.basename($path, '.php');
                if (is_subclass_of($class, Measure::class)) {
                    /** @var Measure<mixed> $measure */
                    $measure = new $class;
                    self::$all[$class] = $measure;
                }
            }
        }

        return self::$all;
    }

    /**
     * @template T
     *
     * @param  class-string<Measure<T>>  $class
     * @return Measure<T>
     */
    public static function get(string $class): Measure
    {
        /** @var Measure<T> */
        return self::all()[$class] ?? throw new LogicException("$class is no measure");
    }

    /**
     * @return Measure<mixed>
     */
    public static function named(string $name): Measure
    {
        foreach (self::all() as $measure) {
            if ($measure->name() === $name) {
                return $measure;
            }
        }
        throw new LogicException("there is no measure $name");
    }
}
