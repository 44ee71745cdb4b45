<?php

declare(strict_types=1);

namespace Anvil\Cage;

use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Formats\Sink;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Part;
use Anvil\Inspection\Inspection;
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
    public static function write(Inspection $inspection, array $fits, Sink $sink): array
    {
        $suffix = $inspection->standard->suffixFor(Role::Cage);
        $parts = [];
        foreach ($inspection->sets as $set) {
            $fit = $fits[$set->name] ?? null;
            if ($fit === null) {
                continue;
            }
            $at = 0;
            foreach ($set->low as $part) {
                $length = count($part->part->mesh->positions);
                $back = $inspection->frames[$part->file]->inverse() ?? Matrix::identity();
                $mesh = $part->part->mesh->withPositions(array_slice($fit->positions, $at, $length));
                $parts[$part->file][] = (new Part(self::name($part, $suffix), $mesh))->placedBy($back);
                $at += $length;
            }
        }
        ksort($parts);
        $out = [];
        foreach ($parts as $file => $own) {
            $path = $inspection->files[$file]->path;
            $isObj = strtolower(pathinfo($path, PATHINFO_EXTENSION)) === 'obj';
            $stem = pathinfo($path, PATHINFO_FILENAME);
            $low = $inspection->standard->suffixFor(Role::Low);
            $name = (str_ends_with(strtolower($stem), strtolower($low)) ? substr($stem, 0, -strlen($low)) : $stem).$suffix.($isObj ? '.obj' : '.glb');
            $isObj ? ObjWriter::write($own, $name, $sink) : GlbWriter::write($own, $name, $sink);
            $out[] = $name;
        }

        return $out;
    }

    private static function name(RoledPart $part, string $suffix): string
    {
        return $part->base.$suffix;
    }
}
