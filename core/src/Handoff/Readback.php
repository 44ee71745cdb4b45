<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Checks\Finding;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FormatCatalogue;
use Anvil\Report\Report;
use Anvil\Standard\Severity;
use Anvil\Unreadable;
use ZipArchive;

/**
 * Reads a package again and compares it with what was meant: every checksum, and the parts and triangles of every mesh file.
 */
final class Readback
{
    /**
     * @param  array<string, string>  $meant  file name → SHA-256
     * @param  list<string>  $names  of the report's files in the package; their base names where not given
     * @return list<Finding> of `package-readback`; empty when all is as meant
     */
    public static function of(string $path, array $meant, Report $report, array $names = []): array
    {
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::RDONLY | ZipArchive::CHECKCONS) !== true) {
            return [self::finding('the package', 'it cannot be opened again')];
        }
        $folder = sys_get_temp_dir().'/anvil-readback-'.bin2hex(random_bytes(6));
        mkdir($folder);
        $findings = [];
        try {
            foreach ($meant as $name => $sum) {
                $in = $zip->getStream("files/$name");
                if ($in === false) {
                    $findings[] = self::finding($name, 'it is not in the package');

                    continue;
                }
                if (! is_dir(dirname("$folder/$name"))) {
                    mkdir(dirname("$folder/$name"), 0o777, true);
                }
                $out = fopen("$folder/$name", 'wb');
                if ($out !== false) {
                    stream_copy_to_stream($in, $out);
                    fclose($out);
                }
                if (hash_file('sha256', "$folder/$name") !== $sum) {
                    $findings[] = self::finding($name, 'its bytes differ from what was handed in');
                }
            }
            foreach ($report->measures->asset->files as $i => $file) {
                $name = $names[$i] ?? basename($file->path);
                if ($file->scene === null || ! is_file("$folder/$name")) {
                    continue;
                }
                try {
                    $scene = FormatCatalogue::read(new FileSource("$folder/$name"));
                    if ($scene->triangleCount() !== $file->scene->triangleCount() || count($scene->parts) !== count($file->scene->parts)) {
                        $findings[] = self::finding($name, 'it reads back with '.count($scene->parts).' parts and '.$scene->triangleCount().' triangles');
                    }
                } catch (Unreadable $error) {
                    $findings[] = self::finding($name, 'it does not read back: '.$error->getMessage());
                }
            }
            $mapPaths = Ticket::mapPaths($report->measures->asset->maps);
            foreach ($report->measures->asset->maps as $number => $map) {
                $bytes = $zip->getFromName($mapPaths[$number]);
                if ($bytes === false || hash('sha256', $bytes) !== $map->sha256) {
                    $findings[] = self::finding($mapPaths[$number], $bytes === false ? 'it is not in the package' : 'its bytes differ from what came back');
                }
            }
            foreach (['ticket.json', 'ticket.html', 'SHA256SUMS'] as $name) {
                if ($zip->locateName($name) === false) {
                    $findings[] = self::finding($name, 'it is not in the package');
                }
            }
        } finally {
            $zip->close();
            Folder::remove($folder);
        }

        return $findings;
    }

    private static function finding(string $name, string $what): Finding
    {
        return new Finding('package-readback', Severity::Blocker, "$name: $what", 'seal again; if it fails again, look at the disk', ['file' => $name]);
    }
}
