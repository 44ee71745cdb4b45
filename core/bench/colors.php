<?php

declare(strict_types=1);

/*
 * Palettes beside two other methods on the same vivid colors, the best of so many runs each: farthest point of a random sample of 20,000, and
 * k-means (Lab) of it. Then a high poly of two million triangles given IDs by region and written as GLB: whole processes, seconds and memory.
 */

use Anvil\ColorId\Palette;
use Anvil\ColorId\PaletteSearch;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Geometry\Color;
use Anvil\Geometry\DeltaE00;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;

require __DIR__.'/../../vendor/autoload.php';

$runs = max(1, (int) ($argv[1] ?? 3));
mt_srand(1);

/** @return list<Color> */
$sample = static function (int $count): array {
    $out = [Color::of(0, 0, 0), Color::of(255, 255, 255)];
    while (count($out) < $count) {
        $color = Color::of(mt_rand(0, 255), mt_rand(0, 255), mt_rand(0, 255));
        if ($color->chroma() >= PaletteSearch::VIVID) {
            $out[] = $color;
        }
    }

    return $out;
};
$farthest = static function (array $from, int $count): array {
    $labs = array_map(static fn (Color $color): array => $color->lab(), $from);
    $near = array_fill(0, count($from), INF);
    $out = [];
    for ($at = 0; count($out) < $count; $at = (int) array_search(max($near), $near, true)) {
        $out[] = $from[$at];
        foreach ($labs as $i => $lab) {
            $near[$i] = min($near[$i], DeltaE00::of($labs[$at], $lab));
        }
    }

    return $out;
};
$means = static function (array $from, int $count): array {
    $labs = array_map(static fn (Color $color): array => $color->lab(), $from);
    $centers = array_map(static fn (int $i): array => $labs[$i], (array) array_rand($labs, $count));
    for ($round = 0; $round < 12; $round++) {
        $sums = array_fill(0, $count, [0.0, 0.0, 0.0, 0]);
        foreach ($labs as $lab) {
            $best = [INF, 0];
            foreach ($centers as $k => $center) {
                $d = ($lab[0] - $center[0]) ** 2 + ($lab[1] - $center[1]) ** 2 + ($lab[2] - $center[2]) ** 2;
                $best = $d < $best[0] ? [$d, $k] : $best;
            }
            foreach ([0, 1, 2] as $c) {
                $sums[$best[1]][$c] += $lab[$c];
            }
            $sums[$best[1]][3]++;
        }
        foreach ($sums as $k => [$l, $a, $b, $n]) {
            $centers[$k] = $n > 0 ? [$l / $n, $a / $n, $b / $n] : $centers[$k];
        }
    }

    // The color of the sample nearest to each middle.
    return array_map(static function (array $center) use ($from, $labs): Color {
        $far = array_map(static fn (array $lab): float => ($lab[0] - $center[0]) ** 2 + ($lab[1] - $center[1]) ** 2 + ($lab[2] - $center[2]) ** 2, $labs);

        return $from[(int) array_search(min($far), $far, true)];
    }, $centers);
};
printf("%-10s %10s %10s %12s %12s %12s\n", 'colors', 'table', 'found, s', 'search', 'farthest', 'k-means');
foreach ([8, 16, 24, 32, 64] as $count) {
    $others = [0.0, 0.0];
    for ($run = 0; $run < $runs; $run++) {
        $others[0] = max($others[0], Palette::leastDistance($farthest($sample(20000), $count)));
        $others[1] = max($others[1], Palette::leastDistance($means($sample(4000), $count)));
    }
    $start = hrtime(true);
    $search = new PaletteSearch([], false, 1);
    $found = $search->from($search->anywhere($count), intdiv(900_000, $count));
    $seconds = (hrtime(true) - $start) / 1e9;
    printf("%-10d %10.2f %10.2f %12.2f %12.2f %12.2f\n", $count, Palette::leastDistance(Palette::spread($count)), $seconds, Palette::leastDistance($found), ...$others);
}

$folder = sys_get_temp_dir().'/anvil-bench-'.bin2hex(random_bytes(4));
$sink = new FolderSink($folder);
GlbWriter::write([new Part('hull_low', Shapes::box(1, 1, 1)->mesh())], 'hull_low.glb', $sink);
// Flat sides, round edges and a corner: 2.0 million triangles, cut by edges; and the same rough, which turns at every face.
$smooth = Shapes::roundedBox(1, 1, 1, 0.05, 8, 392)->mesh(180);
GlbWriter::write([new Part('hull_high', $smooth)], 'even_high.glb', $sink);
$rough = Shapes::box(1, 1, 1, 408)->mapped(static fn (array $p): array => [
    $p[0] + 0.002 * sin(2913.7 * $p[0] + 1517.3 * $p[1] + 1771.1 * $p[2]), $p[1] + 0.002 * sin(1913.7 * $p[0] + 2517.3 * $p[1] + 1271.1 * $p[2]), $p[2] + 0.002 * sin(1113.7 * $p[0] + 1617.3 * $p[1] + 2771.1 * $p[2]),
]);
GlbWriter::write([new Part('hull_high', $rough->mesh(180))], 'rough_high.glb', $sink);
$sink->commit();
unset($smooth, $rough);
printf("\n%-44s %8s %10s %8s\n", 'anvil:color-id --by=region, 2 M triangles', 's', 'peak MiB', 'IDs');
foreach (['even', 'rough'] as $kind) {
    foreach (['materials', 'vertex-colours'] as $as) {
        $best = [INF, 0, ''];
        for ($run = 0; $run < $runs; $run++) {
            $start = hrtime(true);
            $out = (string) shell_exec(PHP_BINARY.' '.trim((string) file_get_contents(__DIR__.'/../../bin/jit.flags')).' -d memory_limit=3G '.escapeshellarg(__DIR__.'/peak.php').' '.escapeshellarg(__DIR__.'/../../artisan')." anvil:color-id $folder/hull_low.glb $folder/{$kind}_high.glb --by=region --as=$as --out=$folder/out --force --json");
            $seconds = (hrtime(true) - $start) / 1e9;
            if ($seconds < $best[0]) {
                $best = [$seconds, preg_match('/PEAK (\d+)/', $out, $found) === 1 ? (int) $found[1] / 1048576 : 0, count(json_decode((string) strstr($out, 'PEAK', true), true)['ids'] ?? [])];
            }
        }
        printf("%-44s %8.1f %10.0f %8s\n", "$kind, $as", ...$best);
    }
}
Folder::remove($folder);
