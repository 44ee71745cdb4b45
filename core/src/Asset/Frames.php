<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Formats\Units;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Scene;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * Brings files that say their unit and up axis into those of the low file, as every program that reads them would. A file that says
 * neither stays as its numbers are.
 */
final class Frames
{
    /**
     * @param  list<ReadFile>  $files
     * @return list<Matrix>
     */
    public static function of(array $files, Standard $standard): array
    {
        $reference = self::reference($files, $standard);
        $out = [];
        foreach ($files as $file) {
            $out[] = $reference === null || $file->scene === null || $file === $reference ? Matrix::identity() : self::between($file, $reference);
        }

        return $out;
    }

    /**
     * From the frame that all parts are held in to that of a binary glTF (metres, Y up) that is handed in beside these files.
     *
     * @param  list<ReadFile>  $files
     */
    public static function toGlb(array $files, Standard $standard): Matrix
    {
        $reference = self::reference($files, $standard);
        $glb = new ReadFile('', null, '', new Scene('glb', [], 'm', 'Y'), null);

        return $reference === null ? Matrix::identity() : (self::between($glb, $reference)->inverse() ?? Matrix::identity());
    }

    /**
     * The first file that holds low parts.
     *
     * @param  list<ReadFile>  $files
     */
    private static function reference(array $files, Standard $standard): ?ReadFile
    {
        foreach ($files as $file) {
            if ($file->scene === null) {
                continue;
            }
            foreach ($file->scene->parts as $part) {
                if (RoledPart::of(0, $file->path, $part, $file->role, $standard)->role === Role::Low) {
                    return $file;
                }
            }
        }

        return null;
    }

    private static function between(ReadFile $from, ReadFile $to): Matrix
    {
        $matrix = Matrix::identity();
        $a = Units::metresOf($from->scene->unit ?? '');
        $b = Units::metresOf($to->scene->unit ?? '');
        if ($a !== null && $b !== null && $a !== $b) {
            $matrix = Matrix::scaling($a / $b);
        }
        $up = $from->scene->upAxis ?? null;
        $wanted = $to->scene->upAxis ?? null;
        if ($up !== null && $wanted !== null && $up !== $wanted) {
            $matrix = (self::toY($wanted)->inverse() ?? Matrix::identity())->times(self::toY($up))->times($matrix);
        }

        return $matrix;
    }

    /** Turns a frame with this axis up so that Y is up. */
    private static function toY(string $axis): Matrix
    {
        return Matrix::of(match ($axis) {
            'Z' => [1.0, 0.0, 0.0, 0.0, 0.0, 0.0, -1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0],
            'X' => [0.0, 1.0, 0.0, 0.0, -1.0, 0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0],
            default => Matrix::identity()->m,
        });
    }
}
