<?php

declare(strict_types=1);

/*
 * All checks of the surface on low polys of 5,000 to 200,000 triangles, under a high poly of four times as many, and the parts that GEOMETRY has goals for: the best of so many
 * runs, and the exponent of the curve. The last line is a pile: every face on one place.
 */

use Anvil\Asset\ReadFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Runner;
use Anvil\Checks\Station;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Measures\Measures;
use Anvil\Measures\Plan;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Surface\Islands;
use Anvil\Surface\LowEdges;
use Anvil\Surface\PageTile;
use Anvil\Surface\UvGaps;
use Anvil\Surface\UvOverlaps;

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
// Strips of a bumpy ball, an island each: many islands, much border.
$shape = static function (int $triangles, bool $finer): Mesh {
    $sides = (int) sqrt($triangles);
    $rings = intdiv($sides, 2);
    $ball = Shapes::sphere(1.0, $rings, $sides);
    $uvs = [];
    foreach ($ball->uvs as $face) {
        $strip = (int) floor(min(array_column($face, 1)) * 24);
        $uvs[] = array_map(static fn (array $c): array => [$c[0], $c[1] * 0.97 + $strip * 0.00125], $face);
    }
    $ball->uvs = $finer ? [] : $uvs;

    return $ball->mapped(static fn (array $p): array => [$p[0] * (1 + 0.02 * sin(9 * $p[1])), $p[1], $p[2]])->mesh(60, [[0, 'ball']]);
};
$surface = array_keys(array_filter(Catalogue::about(), static fn ($about): bool => $about->station === Station::Surface));
$before = null;
printf("%10s %10s %10s %10s %10s %10s %10s\n", 'triangles', 'edges', 'islands', 'overlap', 'gaps', 'all', 'MiB');
foreach ([5_000, 20_000, 80_000, 200_000] as $count) {
    $low = $shape($count, false);
    $high = $shape(4 * $count, true);
    $times = [
        $best(static fn () => LowEdges::of(clone $low)),
        $best(static fn () => Islands::of(clone $low, 1)),
    ];
    $facts = Islands::of($low, 1);
    $tile = PageTile::of([$low], [$facts], [[]])[0];
    $overlaps = UvOverlaps::of($tile);
    $times[] = $best(static fn () => UvOverlaps::of($tile));
    $times[] = $best(static fn () => UvGaps::of($tile, $overlaps, 1 / 256));
    $all = $best(static function () use ($low, $high, $surface): void {
        $read = static fn (string $name, Mesh $mesh): ReadFile => new ReadFile($name, null, $name, new Scene('obj', [new Part(substr($name, 2, -4), clone $mesh)]), null);
        $measures = Measures::of([$read('x_a_low.obj', $low), $read('x_a_high.obj', $high)], Standard::builtIn(), new Choices);
        $rays = Plan::of($measures, [Anvil\Measures\Kind\Rays::class, Anvil\Measures\Kind\Places::class]);
        $rays->run($measures);
        $GLOBALS['start'] = hrtime(true);
        Plan::of($measures, Runner::measures($measures, $surface))->run($measures);
        Runner::run($measures, [], $surface);
        $GLOBALS['took'] = min($GLOBALS['took'] ?? INF, (hrtime(true) - $GLOBALS['start']) / 1e9);
    });
    $all = $GLOBALS['took'];
    unset($GLOBALS['took']);
    printf("%10d %10.3f %10.3f %10.3f %10.3f %10.3f %10d%s\n", $low->triangleCount(), $times[0], $times[1], $times[2], $times[3], $all, memory_get_peak_usage() >> 20, $before === null ? '' : sprintf('   n^%.2f', log($all / $before[1]) / log($count / $before[0])));
    $before = [$count, $all];
}
