<?php

declare(strict_types=1);

/* Writes docs/checks/CODE.md for every check of the catalogue. A test holds the pages against the catalogue. */

use Anvil\Checks\Catalogue;

require __DIR__.'/../vendor/autoload.php';

$index = "# Checks\n\nEvery check that is built, in the order of work. Written by `php bin/check-pages.php`.\n\n| code | severity | what | limit |\n|---|---|---|---|\n";
foreach (Catalogue::about() as $about) {
    $page = "# `$about->code`: $about->title\n\nStation {$about->station->value} · {$about->severity->value}\n\n"
        ."**Measured.** $about->measured\n\n**Limit.** $about->limitWords\n\n**What it looks like after a bake.** $about->afterBake\n\n**Remedy.** $about->remedy\n\n**Source.** $about->source\n";
    file_put_contents(__DIR__."/../docs/checks/$about->code.md", $page);
    $index .= "| [`$about->code`]($about->code.md) | {$about->severity->value} | $about->title | $about->limitWords |\n";
}
file_put_contents(__DIR__.'/../docs/checks/README.md', $index);
