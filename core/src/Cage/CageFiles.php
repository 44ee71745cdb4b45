<?php

declare(strict_types=1);

namespace Anvil\Cage;

use Anvil\Asset\Asset;
use Anvil\Asset\WrittenNames;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Formats\Sink;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Part;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * Writes a fitted cage for each low file: the same faces and corners, parts and file named with the cage suffix.
 */
final class CageFiles
{
    /**
     * @param  array<string, CageFit>  $fits  by set
     * @return list<string> names of the written files
     */
    public static function write(Asset $asset, array $fits, Sink $sink): array
    {
        $suffix = $asset->standard->suffixFor(Role::Cage);
        $parts = [];
        foreach ($asset->sets as $set) {
            $fit = $fits[$set->name] ?? null;
            if ($fit === null) {
                continue;
            }
            $at = 0;
            foreach ($set->low as $part) {
                $length = count($part->part->mesh->positions);
                $back = $asset->frames[$part->file]->inverse() ?? Matrix::identity();
                $mesh = $part->part->mesh->withPositions(array_slice($fit->positions, $at, $length));
                $parts[$part->file][] = (new Part(self::name($part, $suffix), $mesh))->placedBy($back);
                $at += $length;
            }
        }
        ksort($parts);
        $out = $wanted = [];
        foreach (array_keys($parts) as $file) {
            $wanted[] = [self::fileName($asset, $file), Role::Low];
        }
        $names = WrittenNames::named($wanted);
        foreach ($parts as $file => $own) {
            $name = $names[count($out)];
            str_ends_with($name, '.obj') ? ObjWriter::write($own, $name, $sink) : GlbWriter::write($own, $name, $sink);
            $out[] = $name;
        }

        return $out;
    }

    private static function fileName(Asset $asset, int $file): string
    {
        $path = $asset->files[$file]->path;
        $stem = pathinfo($path, PATHINFO_FILENAME);
        $low = $asset->standard->suffixFor(Role::Low);

        return (str_ends_with(strtolower($stem), strtolower($low)) ? substr($stem, 0, -strlen($low)) : $stem).$asset->standard->suffixFor(Role::Cage).(strtolower(pathinfo($path, PATHINFO_EXTENSION)) === 'obj' ? '.obj' : '.glb');
    }

    private static function name(RoledPart $part, string $suffix): string
    {
        return $part->base.$suffix;
    }
}
