<?php

declare(strict_types=1);

/* Writes docs/checks/CODE.md for every check of the catalogue, docs/formats.md, and docs/standard.schema.json. Tests hold the pages against the code. */

use Anvil\Checks\Catalogue;
use Anvil\Checks\StandardSchema;
use Anvil\Formats\FormatCatalogue;

require __DIR__.'/../vendor/autoload.php';

$index = "# Checks\n\nEvery check that is built, in the order of work. Written by `php bin/check-pages.php`.\n\n| code | severity | what | limit |\n|---|---|---|---|\n";
/** @var array<string, string> $drawings */
$drawings = require __DIR__.'/check-drawings.php';
@mkdir(__DIR__.'/../docs/checks/drawings');
foreach (Catalogue::about() as $about) {
    file_put_contents(__DIR__."/../docs/checks/drawings/$about->code.svg", $drawings[$about->code]);
    $unit = match ($about->unit) {
        'share' => 'a share from 0 to 1', 'length' => 'a length in file units', 'deg' => 'degrees', 'px' => 'pixels at the map size of the standard', 'dE00' => 'CIE ΔE00', 'ratio' => 'a ratio', 'count' => 'a count', default => null,
    };
    $standard = $about->limit === null ? '' : sprintf("In a standard: `\"checks\":{\"%s\":{\"limit\":%s%s}}`%s\n\n", $about->code, json_encode($about->limit), $about->caution === null ? '' : ',"caution":'.json_encode($about->caution), $unit === null ? '' : ", $unit");
    $called = $about->symptoms === [] ? '' : '. The search finds it by: '.implode(', ', $about->symptoms).'.';
    $page = "# `$about->code`: $about->title\n\nStation {$about->station->value} · {$about->severity->value}\n\n![the fault](drawings/$about->code.svg)\n\n"
        ."**Measured.** $about->measured\n\n**Limit.** $about->limitWords\n\n$standard"
        ."**What it looks like after a bake.** $about->afterBake$called\n\n**Remedy.** $about->remedy\n\n**Source.** $about->source\n";
    file_put_contents(__DIR__."/../docs/checks/$about->code.md", $page);
    $index .= "| [`$about->code`]($about->code.md) | {$about->severity->value} | $about->title | $about->limitWords |\n";
}
file_put_contents(__DIR__.'/../docs/checks/README.md', $index);

$formats = FormatCatalogue::overview();
$page = "# Formats\n\nWhat is read, what each format carries, and what to export instead of those that are not read. Written by `php bin/check-pages.php`.\n\n"
    ."Export **.glb** where everything is to be carried, **.obj** where smoothing groups or faces of many corners matter. A high poly of many millions of\ntriangles without UVs may come as .ply or .stl, one part a file, named by the file. A .zip may hold any of these with their side files.\n\n"
    .'| carries | '.implode(' | ', array_map(static fn (array $format): string => ".{$format['ending']}", $formats))." |\n|---".str_repeat('|---', count($formats))."|\n";
foreach (FormatCatalogue::CARRIED as $what) {
    $page .= "| $what | ".implode(' | ', array_map(static fn (array $format): string => in_array($what, $format['lacks'], true) ? 'no' : 'yes', $formats))." |\n";
}
$page .= '| mended files are written | '.implode(' | ', array_map(static fn (array $format): string => $format['isWritten'] ? 'yes' : 'no, read only', $formats))." |\n"
    ."\n## Not read\n\nExport the same meshes from the program that made the file: `.".implode('` `.', FormatCatalogue::notRead())."`.\n"
    ."\n## Units and axes\n\nFiles that say their unit and up axis (.glb and .gltf by their standard: metres, Y up; .dae and .usda in the file) are brought into those of the low\nfile before anything is measured, as every program that reads them does. Files that say neither are taken as their numbers are.\n";
file_put_contents(__DIR__.'/../docs/formats.md', $page);
file_put_contents(__DIR__.'/../docs/standard.schema.json', StandardSchema::json());
