<?php

declare(strict_types=1);

namespace Anvil\Handoff;

use Anvil\Asset\GivenFile;
use Anvil\Asset\WrittenNames;
use Anvil\Checks\Catalogue;
use Anvil\Checks\CheckResult;
use Anvil\ColorId\Legend;
use Anvil\Formats\Changes;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\Rewriter;
use Anvil\Measures\Kind\Colors;
use Anvil\Pairing\RoledPart;
use Anvil\Report\Report;
use RuntimeException;
use ZipArchive;

/**
 * The hand-off package: one zip with the files as they were handed in, the ticket and checksums. The same input gives the same bytes.
 */
final class Package
{
    /** 1 January 2000, noon UTC: inside what zip can say in every time zone. */
    private const TIME = 946728000;

    /**
     * Writes the package and reads it back.
     *
     * @param  list<GivenFile>  $files  those of the report, in its order
     * @param  string  $path  of the zip; it is there only when all went well
     * @param  list<Extra>  $extras  what goes along
     * @param  string|null  $of  hash of what the extras have to be made of, and of what is sealed; null: of the report alone
     * @param  int|null  $delivery  its number, where there are several
     * @param  string|null  $plan  `explode.json` that was handed in with an exploded layout: without it nobody else knows what was moved
     * @return CheckResult of `package-readback`, or of `package-mixed` where something does not belong in it
     *
     * @throws RuntimeException when it cannot be written
     */
    public static function write(string $asset, Report $report, array $files, string $path, array $extras = [], ?string $of = null, ?int $delivery = null, ?string $plan = null): CheckResult
    {
        $start = hrtime(true);
        $of ??= MadeOf::of($report->measures->asset);
        $mixed = Extra::mixed($extras, $of);
        if ($mixed !== []) {
            return new CheckResult(Catalogue::about()['package-mixed'], 'found', null, $mixed, (hrtime(true) - $start) / 1e9);
        }
        $folder = "$path.folder-".bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        $temporary = "$path.part-".bin2hex(random_bytes(4));
        try {
            foreach (WrittenNames::of($files, $report->measures->asset->standard) as $i => $name) {
                Rewriter::write($files[$i]->source, new Changes, $name, $sink);
            }
            $sink->commit();
            $names = $sink->names();
            if ($plan !== null && ! in_array(FormatCatalogue::EXPLODE_PLAN, $names, true)) {
                file_put_contents("$folder/".FormatCatalogue::EXPLODE_PLAN, $plan);
                $names[] = FormatCatalogue::EXPLODE_PLAN;
            }
            $meant = self::sums($folder, $names);
            self::zip(Ticket::of($asset, $report, $of, $delivery), $files, $folder, $meant, $temporary, $extras);
            $findings = Readback::of($temporary, $meant, $report, WrittenNames::of($files, $report->measures->asset->standard));
            if ($findings === []) {
                rename($temporary, $path);
            }
        } finally {
            $sink->discard();
            Folder::remove($folder);
            if (is_file($temporary)) {
                unlink($temporary);
            }
        }

        return new CheckResult(Catalogue::about()['package-readback'], $findings === [] ? 'passed' : 'found', null, $findings, (hrtime(true) - $start) / 1e9);
    }

    /**
     * @param  list<GivenFile>  $files
     * @param  array<string, string>  $sums
     * @param  list<Extra>  $extras
     */
    private static function zip(Ticket $ticket, array $files, string $folder, array $sums, string $path, array $extras): void
    {
        $report = $ticket->report;
        $rows = [];
        $roles = [];
        foreach (WrittenNames::of($files, $report->measures->asset->standard) as $i => $name) {
            $file = $files[$i];
            $roles[$name] = ($file->role ?? RoledPart::roleOfFile($file->path, $report->measures->asset->standard))?->value;
        }
        foreach ($sums as $name => $sum) {
            $rows[] = ['path' => "files/$name", 'role' => $roles[$name] ?? null, 'sha256' => $sum, 'bytes' => (int) filesize("$folder/$name")];
        }
        $beside = $outputs = [];
        foreach ($extras as $extra) {
            foreach ($extra->files() as $name => $local) {
                $beside[$name] = $local;
                $outputs[] = ['path' => $name, 'kind' => $extra->kind, 'sha256' => (string) hash_file('sha256', $local), 'bytes' => (int) filesize($local), 'of' => $extra->of];
            }
        }
        $json = json_encode($ticket->toArray($rows, $outputs), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR)."\n";
        $html = $ticket->html($rows, $outputs);
        $list = '';
        foreach ($sums as $name => $sum) {
            $list .= "$sum  files/$name\n";
        }
        // What tells which color stands for what goes with the files.
        $legend = [];
        foreach (Legend::ofColors($report->measures->ofAsset(Colors::class))?->files() ?? [] as $name => $content) {
            $legend["legend/$name"] = $content;
            $list .= hash('sha256', $content)."  legend/$name\n";
        }
        $mapPaths = Ticket::mapPaths($report->measures->asset->maps);
        foreach ($report->measures->asset->maps as $number => $map) {
            $name = $mapPaths[$number];
            $stream = $map->source->open();
            $legend[$name] = (string) stream_get_contents($stream);
            fclose($stream);
            if (hash('sha256', $legend[$name]) !== $map->sha256) {
                throw new RuntimeException("$map->path changed since it was judged");
            }
            $list .= "$map->sha256  $name\n";
        }
        foreach ($outputs as $output) {
            $list .= "{$output['sha256']}  {$output['path']}\n";
        }
        $list .= hash('sha256', $json)."  ticket.json\n".hash('sha256', $html)."  ticket.html\n";
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::CREATE | ZipArchive::EXCL) !== true) {
            throw new RuntimeException("$path cannot be written");
        }
        foreach (array_keys($sums) as $name) {
            $zip->addFile("$folder/$name", "files/$name");
            $zip->setMtimeName("files/$name", self::TIME);
        }
        foreach ($beside as $name => $local) {
            $zip->addFile($local, $name);
            $zip->setMtimeName($name, self::TIME);
        }
        foreach ([...$legend, 'ticket.json' => $json, 'ticket.html' => $html, 'SHA256SUMS' => $list] as $name => $content) {
            $zip->addFromString($name, $content);
            $zip->setMtimeName($name, self::TIME);
        }
        $zip->setArchiveComment(PackageSeal::blank());
        if (! $zip->close()) {
            throw new RuntimeException("$path cannot be written: ".$zip->getStatusString());
        }
        PackageSeal::put($path);
    }

    /**
     * @param  list<string>  $names
     * @return array<string, string> name → SHA-256, by name
     */
    private static function sums(string $folder, array $names): array
    {
        $out = [];
        sort($names, SORT_STRING);
        foreach ($names as $name) {
            $out[$name] = (string) hash_file('sha256', "$folder/$name");
        }

        return $out;
    }
}
