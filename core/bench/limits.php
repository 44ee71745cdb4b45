<?php

declare(strict_types=1);

/*
 * What other limits would change, of a thousand assets: from the values that are kept of each, beside running the checks on what was measured.
 * core/bench/run [RUNS] limits
 */

use Anvil\Asset\GivenFile;
use Anvil\Checks\Runner;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Inspection\Inspector;
use Anvil\Report\LimitValues;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Demo\SignalStation;

require __DIR__.'/../../vendor/autoload.php';

const ASSETS = 1000;

$runs = max(1, (int) ($argv[1] ?? 3));
$folder = sys_get_temp_dir().'/anvil-limits-'.bin2hex(random_bytes(4));
mkdir($folder);
try {
    $asset = SignalStation::mooringWinch();
    $sink = new FolderSink($folder, true);
    foreach (['low' => $asset->low, 'high' => $asset->high] as $role => $parts) {
        ObjWriter::write($parts, "winch_$role.obj", $sink);
    }
    $sink->commit();
    $files = array_map(static fn (string $name): GivenFile => new GivenFile($name, null, new FileSource("$folder/$name")), ['winch_low.obj', 'winch_high.obj']);
    $report = Inspector::inspect($files, Standard::builtIn(), new Choices);
    $kept = json_encode(LimitValues::of($report->measures, $report->results)->toArray(), JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR);
    $standard = Standard::ofJson('{"checks":{"uv-stretch":{"limit":1.1},"silhouette-loss":{"severity":"blocker"}}}');
    for ($run = 0; $run < $runs; $run++) {
        $start = hrtime(true);
        for ($i = 0; $i < ASSETS; $i++) {
            $values = LimitValues::ofArray(json_decode($kept, true, 16, JSON_THROW_ON_ERROR));
            LimitValues::isReady($values->under(Standard::builtIn()));
            LimitValues::isReady($values->under($standard));
        }
        $known = (hrtime(true) - $start) / 1e9;
        $start = hrtime(true);
        for ($i = 0; $i < 5; $i++) {
            Runner::run($report->measures);
        }
        printf("%d assets (%d bytes kept each): %.2f s from kept values; the checks themselves, measures at hand: %.2f s an asset, %.0f s for all\n", ASSETS, strlen($kept), $known, (hrtime(true) - $start) / 5e9, (hrtime(true) - $start) / 5e9 * ASSETS);
    }
} finally {
    Folder::remove($folder);
}
