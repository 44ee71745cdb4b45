<?php

declare(strict_types=1);

/*
 * Reading a high poly of two million triangles in every large format into the geometry store; all checks of Intake on it, and on an uneven
 * one (slivers, 5,000 shells); pairing of 2,000 parts a side. Each in a process of its own, best of so many runs. The reading of OBJ and
 * PLY stands beside three's loaders in Node.
 */

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Runner;
use Anvil\Checks\Station;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\MeshStore;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;

require __DIR__.'/../../vendor/autoload.php';
ini_set('memory_limit', '6G');

if (($argv[1] ?? '') === '--one') {
    $start = hrtime(true);
    $out = [];
    if ($argv[2] === 'read') {
        $scene = FormatCatalogue::read(new FileSource($argv[3]));
        $out['read'] = (hrtime(true) - $start) / 1e9;
        foreach ($scene->parts as $part) {
            fwrite(fopen('/dev/null', 'wb') ?: STDERR, MeshStore::encode($part->mesh));
        }
        $out['triangles'] = $scene->triangleCount();
    } else {
        $files = array_map(static fn (string $path): ReadFile => ReadFile::of(new GivenFile($path, null, new FileSource($path))), array_slice($argv, 3));
        $begin = hrtime(true);
        $measures = Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'));
        $out['pair'] = (hrtime(true) - $begin) / 1e9;
        if ($argv[2] === 'intake') {
            $begin = hrtime(true);
            $measures->clearances();
            $out['rays'] = (hrtime(true) - $begin) / 1e9;
            $begin = hrtime(true);
            $codes = array_keys(array_filter(Catalogue::about(), static fn ($about): bool => $about->station === Station::Intake));
            $results = Runner::run($measures, [], array_map(strval(...), $codes));
            $out['checks'] = (hrtime(true) - $begin) / 1e9;
            $out['findings'] = array_sum(array_map(static fn ($result): int => count($result->findings), $results));
        }
        $out['ties'] = count($measures->asset->pairing->ties);
    }
    echo json_encode([...$out, 'total' => (hrtime(true) - $start) / 1e9, 'peak' => memory_get_peak_usage() / 1048576]);
    exit;
}

$runs = max(1, (int) ($argv[1] ?? 3));
$one = static function (string ...$arguments) use ($runs): array {
    $best = null;
    for ($i = 0; $i < $runs; $i++) {
        $flags = trim((string) file_get_contents(__DIR__.'/../../bin/jit.flags'));
        $got = json_decode((string) shell_exec(PHP_BINARY." $flags ".escapeshellarg(__FILE__).' --one '.implode(' ', array_map(escapeshellarg(...), $arguments))), true);
        $best = $best === null || $got['total'] < $best['total'] ? $got : $best;
    }

    return $best;
};
$theirs = static function (string $path): ?float {
    $start = hrtime(true);
    $got = shell_exec('node --max-old-space-size=8000 '.escapeshellarg(__DIR__.'/../tests/References/read.mjs').' '.escapeshellarg($path).' 2>/dev/null');

    return is_string($got) && $got !== '' ? (hrtime(true) - $start) / 1e9 : null;
};

$folder = sys_get_temp_dir().'/anvil-bench-'.bin2hex(random_bytes(4));
$sink = new FolderSink($folder);
$bumpy = Shapes::sphere(1, 1000, 1000)->mapped(static function (array $p): array {
    $r = 1 + 0.01 * sin(14 * $p[0]) * sin(15 * $p[1]) * sin(13 * $p[2]);

    return [$p[0] * $r, $p[1] * $r, $p[2] * $r];
})->mesh(180);
ObjWriter::write([new Part('buoy_high', $bumpy)], 'buoy_high.obj', $sink);
GlbWriter::write([new Part('buoy_high', $bumpy)], 'buoy_high.glb', $sink);
$out = $sink->open('buoy_high.ply');
fwrite($out, "ply\nformat binary_little_endian 1.0\nelement vertex {$bumpy->vertexCount()}\nproperty float x\nproperty float y\nproperty float z\nelement face {$bumpy->triangleCount()}\nproperty list uchar int vertex_indices\nend_header\n".Bytes::packFloats($bumpy->positions));
foreach (array_chunk($bumpy->triangles, 3) as $triangle) {
    fwrite($out, pack('CV3', 3, ...$triangle));
}
fclose($out);
unset($bumpy);
GlbWriter::write([new Part('buoy_low', Shapes::sphere(1, 72, 140)->mesh(180))], 'buoy_low.glb', $sink);
// Uneven: 5,000 shells of 380 triangles and slivers a hundred times as long as wide.
$shell = Shapes::sphere(0.01, 12, 16);
$shells = [Shapes::cylinder(0.9, 1.8, 20000)];
for ($i = 0; $i < 5000; $i++) {
    $z = 2 * ($i + 0.5) / 5000 - 1;
    $r = sqrt(1 - $z * $z);
    $shells[] = $shell->moved($r * cos(2.399963 * $i), $z, $r * sin(2.399963 * $i));
}
GlbWriter::write([new Part('buoy_high', Polygons::join($shells)->mesh(180))], 'uneven_high.glb', $sink);
unset($shells);
$low = $high = [];
for ($i = 0; $i < 2000; $i++) {
    $low[] = new Part(sprintf('crate_%04d_low', $i), Shapes::box(1, 1, 1)->moved(2 * ($i % 50), 0, 2 * intdiv($i, 50))->mesh());
    $high[] = new Part(sprintf('crate_%04d_high', ($i + 1) % 2000), Shapes::box(1, 1, 1)->moved(2 * ($i % 50), 0.01, 2 * intdiv($i, 50))->mesh());
}
ObjWriter::write($low, 'crates_low.obj', $sink);
ObjWriter::write($high, 'crates_high.obj', $sink);
$sink->commit();

printf("PHP %s, best of %d\n\n%-46s %8s %8s %8s\n", PHP_VERSION, $runs, 'reading 2 M triangles into the geometry store', 'total s', 'peak MiB', 'ratio');
foreach (['obj', 'glb', 'ply'] as $format) {
    $got = $one('read', "$folder/buoy_high.$format");
    $their = $theirs("$folder/buoy_high.$format");
    printf("%-46s %8.2f %8.0f %8s\n", ".$format, ".number_format($got['triangles']).' triangles', $got['total'], $got['peak'], $their === null ? '–' : sprintf('%.2f', $got['total'] / $their));
}
printf("\n%-46s %8s %8s %8s %8s\n", 'checks of Intake', 'rays s', 'checks s', 'findings', 'peak MiB');
foreach (['buoy_high.glb' => '2 M triangles, even', 'uneven_high.glb' => '2 M triangles, 5,000 shells and slivers'] as $file => $words) {
    $got = $one('intake', "$folder/buoy_low.glb", "$folder/$file");
    printf("%-46s %8.2f %8.2f %8d %8.0f\n", $words, $got['rays'], $got['checks'], $got['findings'], $got['peak']);
}
$got = $one('pair', "$folder/crates_low.obj", "$folder/crates_high.obj");
printf("\n%-46s %8.2f s\n", 'pairing 2,000 parts a side, all names one off', $got['pair']);
Folder::remove($folder);
