<?php

declare(strict_types=1);

/*
 * Makes the tables of palettes in core/src/ColorId: php $(cat bin/jit.flags) bin/make-palettes.php usual|eyes [starts [steps [seconds [least size [largest]]]]]
 * Each number of colors is looked for from several starts; the best of them, of what the table has, and of larger palettes made smaller is kept.
 * Without a limit of time the same arguments give the same table.
 */

use Anvil\ColorId\Palette;
use Anvil\ColorId\PaletteSearch;
use Anvil\Geometry\Color;

require __DIR__.'/../vendor/autoload.php';

$name = $argv[1] ?? '';
if (! in_array($name, ['usual', 'eyes'], true)) {
    exit("usage: make-palettes.php usual|eyes [starts [steps [seconds [least size [largest]]]]]\n");
}
[$seeds, $steps, $seconds, $smallest, $largest] = [(int) ($argv[2] ?? 6), (int) ($argv[3] ?? 60000), (int) ($argv[4] ?? 1 << 40), (int) ($argv[5] ?? 1), (int) ($argv[6] ?? 500)];
$file = __DIR__."/../core/src/ColorId/palettes-$name.txt";
$allEyes = $name === 'eyes';
$until = time() + $seconds;
$least = static fn (array $colors): float => PaletteSearch::least($colors, $allEyes);
// The first stands for the rest: each next one is the farthest from those before it.
$ordered = static function (array $colors): array {
    $out = [array_shift($colors)];
    while ($colors !== []) {
        $far = array_map(static fn (Color $one): float => min(array_map($one->deltaE(...), $out)), $colors);
        $at = (int) array_search(max($far), $far, true);
        $out[] = $colors[$at];
        array_splice($colors, $at, 1);
    }

    return $out;
};
$table = is_file($file) ? Palette::table($name) : [];
$write = static function () use (&$table, $file, $name): void {
    ksort($table);
    $out = "# Made by bin/make-palettes.php $name: how many colors, and which.\n";
    foreach ($table as $size => $colors) {
        $out .= "$size: ".implode(' ', array_map(static fn (Color $color): string => $color->hex(), $colors))."\n";
    }
    file_put_contents("$file.new", $out);
    rename("$file.new", $file);
};
$sizes = [...range(1, 64), 80, 100, 128, 160, 200, 256, 320, 400, 500];
foreach (array_reverse($sizes) as $size) {
    // What the table has is the first start, then some of chance.
    for ($seed = isset($table[$size]) ? 0 : 1; $seed <= $seeds && time() < $until && $size >= $smallest && $size <= $largest; $seed++) {
        $search = new PaletteSearch([], $allEyes, $seed);
        // Large ones take long and differ little: fewer starts.
        if ($size > 64 && $seed > max(1, intdiv($seeds, 2))) {
            break;
        }
        $found = $size === 1 ? [Color::of(255, 0, 0)] : $search->from($seed === 0 ? $table[$size] : $search->anywhere($size), $steps);
        if (! isset($table[$size]) || $least($found) > $least($table[$size])) {
            $table[$size] = $ordered($found);
        }
    }
    printf("%d %.2f\n", $size, $least($table[$size] ?? []));
    $write();
}
$larger = null;
foreach (array_reverse($sizes) as $size) {
    if (! isset($table[$size])) {
        continue;
    }
    if ($larger !== null && $size > 1) {
        $thinned = Palette::thinned($table[$larger], $size, $allEyes);
        if ($least($thinned) > $least($table[$size])) {
            $table[$size] = $ordered($thinned);
            printf("%d from %d: %.2f\n", $size, $larger, $least($thinned));
        }
    }
    $larger = $size;
}
$write();
