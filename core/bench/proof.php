<?php

declare(strict_types=1);

/*
 * The trial bake on one core: all maps of 256 px with 64 directions of occlusion, of the demo lantern and under high polys of 500,000 and 2 million triangles; normal and misses of
 * 1024 px; the retouch mask; the raster that GEOMETRY has a goal for. The best of so many runs.
 */

use Anvil\Asset\ReadFile;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Measures\Kind\Retouch;
use Anvil\Measures\Measures;
use Anvil\Modelling\Shapes;
use Anvil\Proof\MapPng;
use Anvil\Proof\PageRaster;
use Anvil\Proof\TrialBake;
use Anvil\Proof\TrialMaps;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Demo\SignalStation;

require __DIR__.'/../../vendor/autoload.php';

$runs = max(1, (int) ($argv[1] ?? 3));
$best = static function (Closure $do) use ($runs): float {
    $best = INF;
    for ($i = 0; $i < $runs; $i++) {
        $start = hrtime(true);
        $do();
        $best = min($best, (hrtime(true) - $start) / 1e9);
    }

    return $best;
};
$file = static fn (string $path, array $parts): ReadFile => new ReadFile($path, null, $path, new Scene('obj', $parts, null, null, [], []), null);
$ball = static fn (int $triangles, float $radius): Mesh => Shapes::sphere($radius, (int) sqrt($triangles / 4), 2 * (int) sqrt($triangles / 4))
    ->mapped(static fn (array $p): array => [$p[0] * (1 + 0.02 * sin(9 * $p[1])), $p[1] * (1 + 0.01 * sin(31 * $p[0])), $p[2]])->triangulated()->mesh(180, [[0, 'ball']]);
$lantern = SignalStation::signalLantern();
$assets = ['lantern' => [$file('lantern_low.glb', $lantern->low), $file('lantern_high.glb', $lantern->high)]];
foreach (['500 k' => [5_000, 500_000], '2 M' => [20_000, 2_000_000]] as $name => [$low, $high]) {
    $assets[$name] = [$file('ball_low.obj', [new Part('ball_low', $ball($low, 1.0))]), $file('ball_high.obj', [new Part('ball_high', $ball($high, 1.005))])];
}
printf("%10s %12s %14s %14s %14s %8s\n", 'high', 'all, 256 px', 'of it ao', '1024 px', 'retouch', 'MiB');
foreach ($assets as $name => $files) {
    $make = static fn (): Measures => Measures::of($files, Standard::builtIn(), new Choices);
    $measures = $make();
    $measures->clearances();
    $inputs = $measures->common()->trialInputs();
    $page = $measures->common()->pages()[0];
    $ao = $best(static fn () => (new TrialBake($inputs))->page($page, 256, 1, ['ao']));
    $all = $best(static function () use ($inputs, $page): void {
        $rays = (new TrialBake($inputs))->page($page, 256, 1, ['normal', 'id', 'height', 'miss']);
        $shade = (new TrialBake($inputs))->page($page, 256, 1, ['ao']);
        foreach (TrialMaps::KINDS as $kind) {
            MapPng::of($kind === 'ao' ? $shade : $rays, $kind, 1.0, 16);
        }
    });
    $large = $best(static fn () => (new TrialBake($inputs))->page($page, 1024, 1, ['normal', 'miss']));
    $retouch = INF;
    for ($i = 0; $i < $runs; $i++) {
        $fresh = $make();
        $fresh->clearances();
        $start = hrtime(true);
        foreach ($fresh->wholeSets() as $set) {
            $fresh->ofSet(Retouch::class, $set);
        }
        $retouch = min($retouch, (hrtime(true) - $start) / 1e9);
    }
    printf("%10s %10.2f s %12.2f s %12.2f s %12.2f s %8d\n", $name, $all, $ao, $large, $retouch, memory_get_peak_usage(true) >> 20);
}
$mesh = $ball(20_000, 1.0);
$uvs = [];
foreach ($mesh->triUvs as $i) {
    array_push($uvs, $mesh->uvs[2 * $i], $mesh->uvs[2 * $i + 1]);
}
printf("raster of 20,000 triangles at 1024 px: %.2f s\n", $best(static fn () => PageRaster::owners($uvs, 1024)));
