<?php

declare(strict_types=1);

/*
 * What concerns rays and nearest points, on even and on uneven high polys: tree and rays beside three-mesh-bvh in Node, one thread each and
 * the same rays; the whole clearance of one set in a process of its own; how it grows from 100 thousand to 10 million triangles; every check
 * of `anvil:inspect`. Each in a process of its own, best of so many runs.
 */

use Anvil\Asset\GivenFile;
use Anvil\Asset\ReadFile;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Part;
use Anvil\Measures\Measures;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Spatial\NearestPoint;
use Anvil\Spatial\SegmentCast;
use Anvil\Spatial\TriangleTree;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;

require __DIR__.'/../../vendor/autoload.php';
ini_set('memory_limit', '6G');

$seconds = static fn (int|float $since): float => (hrtime(true) - $since) / 1e9;

if (($argv[1] ?? '') === '--one') {
    $out = [];
    if ($argv[2] === 'kernels') {
        $folder = $argv[3];
        $floats = static fn (string $name): array => array_values(unpack('e*', (string) file_get_contents("$folder/$name")) ?: []);
        $positions = array_values(unpack('g*', (string) file_get_contents("$folder/positions")) ?: []);
        $triangles = array_values(unpack('V*', (string) file_get_contents("$folder/triangles")) ?: []);
        $rays = $floats('rays');
        $points = $floats('points');
        $start = hrtime(true);
        $tree = TriangleTree::of($positions, $triangles);
        $out['build'] = $seconds($start);
        $cast = new SegmentCast($tree);
        $start = hrtime(true);
        $met = 0;
        $sum = 0.0;
        for ($i = 0, $n = count($rays); $i < $n; $i += 7) {
            if ($cast->first($rays[$i], $rays[$i + 1], $rays[$i + 2], -$rays[$i + 3], -$rays[$i + 4], -$rays[$i + 5], -$rays[$i + 6], 0.0, 1) >= 0) {
                $met++;
                $sum -= $cast->t[0];
            }
        }
        $out['cast'] = $seconds($start);
        $start = hrtime(true);
        for ($i = 0, $n = count($rays); $i < $n; $i += 7) {
            $cast->all($rays[$i], $rays[$i + 1], $rays[$i + 2], -$rays[$i + 3], -$rays[$i + 4], -$rays[$i + 5], -$rays[$i + 6], 0.0, 1);
        }
        $out['all'] = $seconds($start);
        $nearest = new NearestPoint($tree);
        $start = hrtime(true);
        $near = 0.0;
        for ($i = 0, $n = count($points); $i < $n; $i += 3) {
            $nearest->find($points[$i], $points[$i + 1], $points[$i + 2]);
            $near += sqrt($nearest->squared);
        }
        $out += ['near' => $seconds($start), 'met' => $met, 'sum' => $sum, 'nearSum' => $near];
    } else {
        $files = array_map(static fn (string $path): ReadFile => ReadFile::of(new GivenFile($path, null, new FileSource($path))), array_slice($argv, 3));
        $measures = Measures::of($files, Standard::builtIn(), Choices::ofJson('{}'));
        $start = hrtime(true);
        $measures->clearances();
        $out['clearance'] = $seconds($start);
        foreach ($measures->clearances() as $set) {
            $out['needed'] = $set->needed->toArray();
        }
    }
    echo json_encode([...$out, 'total' => array_sum(array_filter($out, is_float(...))), 'peak' => memory_get_peak_usage() / 1048576]);
    exit;
}

$runs = max(1, (int) ($argv[1] ?? 3));
$best = static function (string $command) use ($runs): array {
    $best = null;
    for ($i = 0; $i < $runs; $i++) {
        $got = json_decode((string) shell_exec($command), true);
        foreach (is_array($got) ? $got : exit("no answer from $command\n") as $key => $value) {
            $best[$key] = isset($best[$key]) && is_float($value) && is_float($best[$key]) ? min($best[$key], $value) : $value;
        }
    }

    return $best ?? [];
};
$php = PHP_BINARY.' '.trim((string) file_get_contents(__DIR__.'/../../bin/jit.flags')).' ';
$one = static fn (string ...$arguments): array => $best($php.escapeshellarg(__FILE__).' --one '.implode(' ', array_map(escapeshellarg(...), $arguments)));

$folder = sys_get_temp_dir().'/anvil-bench-'.bin2hex(random_bytes(4));
$bumpy = static fn (int $n): Polygons => Shapes::sphere(1, $n, $n)->mapped(static function (array $p): array {
    $r = 1 + 0.01 * sin(14 * $p[0]) * sin(15 * $p[1]) * sin(13 * $p[2]);

    return [$p[0] * $r, $p[1] * $r, $p[2] * $r];
});
// Slivers 100 times as long as wide, 5,000 shells, and one triangle far away.
$uneven = static function (): Polygons {
    $shell = Shapes::sphere(0.01, 12, 16);
    $shells = [Shapes::cylinder(0.9, 1.8, 20000)];
    for ($i = 0; $i < 5000; $i++) {
        $z = 2 * ($i + 0.5) / 5000 - 1;
        $r = sqrt(1 - $z * $z);
        $shells[] = $shell->moved($r * cos(2.399963 * $i), $z, $r * sin(2.399963 * $i));
    }

    return Polygons::join($shells);
};
$sink = new FolderSink($folder);
GlbWriter::write([new Part('buoy_low', Shapes::sphere(1, 72, 140)->mesh(180))], 'buoy_low.glb', $sink);
foreach (['even' => $bumpy(1000), 'uneven' => $uneven()] as $name => $shape) {
    GlbWriter::write([new Part('buoy_high', $shape->mesh(180))], "{$name}_high.glb", $sink);
}
foreach ([224, 316, 500, 708] as $n) {
    GlbWriter::write([new Part('buoy_high', $bumpy($n)->mesh(180))], "grow{$n}_high.glb", $sink);
}
$sink->commit();
// The largest are written row by row: as polygons they would not fit.
$written = static function (int $n, string $path): void {
    $file = fopen($path, 'wb') ?: exit("$path cannot be written\n");
    $point = static function (float $t, float $u): string {
        [$x, $y, $z] = [sin($t) * cos($u), cos($t), sin($t) * sin($u)];
        $r = 1 + 0.01 * sin(14 * $x) * sin(15 * $y) * sin(13 * $z);

        return pack('g3', $x * $r, $y * $r, $z * $r);
    };
    $last = ($n - 1) * $n + 1;
    fwrite($file, "ply\nformat binary_little_endian 1.0\nelement vertex ".($last + 1)."\nproperty float x\nproperty float y\nproperty float z\nelement face ".(2 * $n * ($n - 1))."\nproperty list uchar int vertex_indices\nend_header\n".$point(0, 0));
    for ($i = 1; $i < $n; $i++) {
        fwrite($file, implode('', array_map(static fn (int $j): string => $point(M_PI * $i / $n, 2 * M_PI * $j / $n), range(0, $n - 1))));
    }
    fwrite($file, $point(M_PI, 0));
    for ($i = 0; $i < $n; $i++) {
        $rows = '';
        for ($j = 0; $j < $n; $j++) {
            [$a, $b] = [1 + ($i - 1) * $n + $j, 1 + ($i - 1) * $n + ($j + 1) % $n];
            $rows .= ($i === 0 ? pack('CV3', 3, 0, 1 + ($j + 1) % $n, 1 + $j) : ($i === $n - 1 ? pack('CV3', 3, $a, $b, $last) : pack('CV3', 3, $a, $b, $a + $n).pack('CV3', 3, $b, $b + $n, $a + $n)));
        }
        fwrite($file, $rows);
    }
    fclose($file);
};
foreach ([1581 => 'five', 2236 => 'ten'] as $n => $name) {
    $written($n, "$folder/{$name}_high.ply");
}
unset($shape);

printf("PHP %s, best of %d\n\n%-40s %8s %8s %8s %8s %8s\n", PHP_VERSION, $runs, '65,536 rays, 20,000 nearest points', 'build s', 'first s', 'all s', 'nearest', 'sum');
foreach (['even', 'uneven'] as $name) {
    $mesh = FormatCatalogue::read(new FileSource("$folder/{$name}_high.glb"))->parts[0]->mesh;
    $rays = $points = [];
    for ($i = 0; $i < 65536; $i++) {
        $z = 2 * ($i + 0.5) / 65536 - 1;
        $r = sqrt(1 - $z * $z);
        $d = [-$r * cos(2.399963 * $i), -$z, -$r * sin(2.399963 * $i)];
        array_push($rays, -1.2 * $d[0], -1.2 * $d[1], -1.2 * $d[2], ...[...$d, 2.0]);
        if ($i < 20000) {
            array_push($points, -1.02 * $d[0], -1.02 * $d[1], -1.02 * $d[2]);
        }
    }
    @mkdir("$folder/$name");
    file_put_contents("$folder/$name/positions", Bytes::packFloats($mesh->positions));
    file_put_contents("$folder/$name/triangles", pack('V*', ...$mesh->triangles));
    file_put_contents("$folder/$name/rays", pack('e*', ...$rays));
    file_put_contents("$folder/$name/points", pack('e*', ...$points));
    $count = number_format(count($mesh->triangles) / 3);
    unset($mesh, $rays, $points);
    $ours = $one('kernels', "$folder/$name");
    $theirs = $best('node --max-old-space-size=8000 '.escapeshellarg(__DIR__.'/bvh.mjs').' '.escapeshellarg("$folder/$name"));
    printf("%s, %s triangles\n", $name, $count);
    printf("%-40s %8.2f %8.2f %8.2f %8.2f %8.2f\n", '  core, one PHP process', $ours['build'], $ours['cast'], $ours['all'], $ours['near'], $ours['build'] + $ours['all']);
    printf("%-40s %8.2f %8.2f %8s %8.2f %8.2f\n", '  three-mesh-bvh, one Node process', $theirs['build'], $theirs['cast'], '', $theirs['near'], $theirs['build'] + $theirs['cast']);
    printf("%-40s %8.2f %8.2f %8s %8.2f %8.2f\n", '  core / three-mesh-bvh', $ours['build'] / $theirs['build'], $ours['cast'] / $theirs['cast'], '', $ours['near'] / $theirs['near'], ($ours['build'] + $ours['all']) / ($theirs['build'] + $theirs['cast']));
    printf("  %d and %d rays met, lengths differ by %.1e; nearest by %.1e\n", $ours['met'], $theirs['met'], abs($ours['sum'] / $theirs['sum'] - 1), abs($ours['nearSum'] / $theirs['nearSum'] - 1));
}
printf("\n%-40s %8s %8s\n", 'whole clearance of one set, one process', 'total s', 'peak MiB');
foreach (['grow224' => '100 thousand', 'grow316' => '200 thousand', 'grow500' => '500 thousand', 'grow708' => '1 million', 'even' => '2 million', 'uneven' => '2 million, slivers and shells'] as $name => $words) {
    $got = $one('clearance', "$folder/buoy_low.glb", "$folder/{$name}_high.glb");
    printf("%-40s %8.2f %8.0f\n", "  20 thousand under $words", $got['clearance'], $got['peak']);
}
foreach (['five' => '5 million', 'ten' => '10 million'] as $name => $words) {
    $got = $one('clearance', "$folder/buoy_low.glb", "$folder/{$name}_high.ply");
    printf("%-40s %8.2f %8.0f\n", "  20 thousand under $words", $got['clearance'], $got['peak']);
}
printf("\n%-40s %8s %8s %8s\n", 'anvil:inspect, every check', 'read s', 'total s', 'peak MiB');
foreach (['even' => 'even_high.glb', 'uneven' => 'uneven_high.glb', '10 million' => 'ten_high.ply'] as $name => $high) {
    $got = null;
    for ($i = 0; $i < $runs; $i++) {
        $report = json_decode((string) shell_exec(PHP_BINARY.' '.escapeshellarg(__DIR__.'/../../artisan')." anvil:inspect $folder/buoy_low.glb $folder/$high --json"), true);
        $got = $got === null || $report['seconds']['total'] < $got['seconds']['total'] ? $report : $got;
    }
    printf("%-40s %8.2f %8.2f %8.0f\n", "  $name over 20 thousand", $got['seconds']['read'], $got['seconds']['total'], $got['peakMemoryBytes'] / 1048576);
}
Folder::remove($folder);
