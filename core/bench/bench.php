<?php

declare(strict_types=1);

/*
 * The winch of the demo and a buoy of 499,000 over 4,900 triangles as GLB; then first hits of 65,536 rays on the buoy, ours and
 * three-mesh-bvh's in Node, one thread each, best of so many runs.
 */

use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use Demo\SignalStation;

require __DIR__.'/../../vendor/autoload.php';

$runs = max(1, (int) ($argv[1] ?? 3));
$folder = sys_get_temp_dir().'/anvil-bench-'.bin2hex(random_bytes(4));
$sink = new FolderSink($folder);
$winch = SignalStation::mooringWinch();
ObjWriter::write($winch->low, 'winch_low.obj', $sink);
ObjWriter::write($winch->high, 'winch_high.obj', $sink);
$bumpy = Shapes::sphere(1, 500, 500)->mapped(static function (array $p): array {
    $r = 1 + 0.01 * sin(14 * $p[0]) * sin(15 * $p[1]) * sin(13 * $p[2]);

    return [$p[0] * $r, $p[1] * $r, $p[2] * $r];
});
GlbWriter::write([new Part('buoy_low', Shapes::sphere(1, 36, 70)->mesh(180))], 'buoy_low.glb', $sink);
GlbWriter::write([new Part('buoy_high', $bumpy->mesh(180))], 'buoy_high.glb', $sink);
$sink->commit();

printf("JIT %s, PHP %s\n\n", (opcache_get_status(false)['jit']['on'] ?? false) ? 'on' : 'OFF', PHP_VERSION);
printf("%-44s %8s %8s %8s %10s\n", 'anvil:inspect, every check of the slice', 'read s', 'check s', 'total s', 'peak MiB');
foreach ([['winch_low.obj', 'winch_high.obj'], ['buoy_low.glb', 'buoy_high.glb']] as [$low, $high]) {
    $best = null;
    for ($i = 0; $i < $runs; $i++) {
        $report = json_decode((string) shell_exec(PHP_BINARY.' '.escapeshellarg(__DIR__.'/../../artisan')." anvil:inspect $folder/$low $folder/$high --json"), true);
        if ($best === null || $report['seconds']['total'] < $best['seconds']['total']) {
            $best = $report;
        }
    }
    printf("%-44s %8.2f %8.2f %8.2f %10.0f\n", "$low + $high", $best['seconds']['read'], $best['seconds']['check'], $best['seconds']['total'], $best['peakMemoryBytes'] / 1048576);
}

$mesh = FormatCatalogue::read(new FileSource("$folder/buoy_high.glb"))->parts[0]->mesh;
$rays = [];
for ($i = 0; $i < 65536; $i++) {
    $z = 2 * ($i + 0.5) / 65536 - 1;
    $r = sqrt(1 - $z * $z);
    $d = [-$r * cos(2.399963 * $i), -$r * sin(2.399963 * $i), -$z];
    $rays[] = [-1.2 * $d[0], -1.2 * $d[1], -1.2 * $d[2], ...$d, 2.0];
}
file_put_contents("$folder/rays.json", json_encode(['positions' => $mesh->positions, 'triangles' => $mesh->triangles, 'rays' => $rays]));
$build = $cast = $theirBuild = $theirCast = INF;
$agree = 0;
for ($run = 0; $run < $runs; $run++) {
    $start = hrtime(true);
    $tree = TriangleTree::of($mesh->positions, $mesh->triangles);
    $build = min($build, (hrtime(true) - $start) / 1e9);
    $shoot = new SegmentCast($tree);
    $start = hrtime(true);
    $hits = [];
    foreach ($rays as [$x, $y, $z, $dx, $dy, $dz, $far]) {
        $hits[] = $shoot->first($x, $y, $z, -$dx, -$dy, -$dz, -$far, 0.0, 1) < 0 ? null : -$shoot->t[0];
    }
    $cast = min($cast, (hrtime(true) - $start) / 1e9);
    $their = json_decode((string) shell_exec('node '.escapeshellarg(__DIR__.'/../tests/References/rays.mjs')." $folder/rays.json front"), true);
    $theirBuild = min($theirBuild, $their['buildSeconds']);
    $theirCast = min($theirCast, $their['castSeconds']);
    $agree = count(array_filter($hits, static fn (?float $t, int $i): bool => $t !== null && isset($their['hits'][$i]) && abs($t - $their['hits'][$i][0]) < 1e-5, ARRAY_FILTER_USE_BOTH));
}
printf("\n%-44s %8s %8s %8s\n", '65,536 rays on 499,000 triangles, best of '.$runs, 'build s', 'hits s', 'total s');
printf("%-44s %8.2f %8.2f %8.2f\n", 'core, one PHP process', $build, $cast, $build + $cast);
printf("%-44s %8.2f %8.2f %8.2f\n", 'three-mesh-bvh, one Node process', $theirBuild, $theirCast, $theirBuild + $theirCast);
printf("%-44s %8.2f %8.2f %8.2f   %d of 65536 hits agree\n", 'ratio core / three-mesh-bvh', $build / $theirBuild, $cast / $theirCast, ($build + $cast) / ($theirBuild + $theirCast), $agree);
Folder::remove($folder);
