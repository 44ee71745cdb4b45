<?php

declare(strict_types=1);

namespace Anvil\Tests\Support;

use Anvil\Measures\FolderStore;
use Anvil\Measures\Measures;
use Anvil\Measures\MeasureStore;

/**
 * The measures of one test run, in the folder that `ANVIL_MEASURES` names: what one test measured, no other test of that run measures again.
 * `bin/test` gives each run an empty folder. Without one, as when PHPUnit is started by hand, everything is computed.
 */
final class SharedMeasures
{
    public static function ofThisRun(): ?MeasureStore
    {
        $folder = getenv('ANVIL_MEASURES');

        return $folder === false || $folder === '' ? null : new FolderStore($folder);
    }

    /** The same measures, taken from the run's store where they are in it. */
    public static function of(Measures $measures): Measures
    {
        $store = self::ofThisRun();

        return $store === null ? $measures : $measures->keptIn($store, true);
    }
}
