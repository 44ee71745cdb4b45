<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * What files are called when they are written again: their base names, and where two share one, below a folder of their role
 * (`low/crate.obj`, `high/crate.obj`).
 */
final class WrittenNames
{
    /**
     * @param  list<GivenFile>  $files
     * @return list<string> in their order, each once
     */
    public static function of(array $files, Standard $standard): array
    {
        return self::named(array_map(static fn (GivenFile $file): array => [$file->source->name(), $file->role ?? RoledPart::roleOfFile($file->path, $standard)], $files));
    }

    /**
     * @param  list<array{string, Role|null}>  $files  base name and role
     * @return list<string>
     */
    public static function named(array $files): array
    {
        $count = array_count_values(array_map(static fn (array $file): string => mb_strtolower($file[0]), $files));
        $out = $taken = [];
        foreach ($files as [$name, $role]) {
            if ($count[mb_strtolower($name)] > 1) {
                $role = $role->value ?? 'files';
                $folder = $role;
                for ($n = 2; isset($taken[mb_strtolower("$folder/$name")]); $n++) {
                    $folder = "$role-$n";
                }
                $name = "$folder/$name";
            }
            $taken[mb_strtolower($name)] = true;
            $out[] = $name;
        }

        return $out;
    }
}
