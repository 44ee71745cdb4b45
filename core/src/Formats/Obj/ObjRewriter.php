<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Formats\Changes;
use Anvil\Formats\Decimal;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Matrix;
use Anvil\Unreadable;
use Closure;

/**
 * Writes an OBJ file again line by line: a rename touches the names behind `o` or `g`, a move the three numbers behind `v`.
 *
 * @internal
 */
final class ObjRewriter
{
    /**
     * @return list<string> side files that it names
     */
    public static function write(Source $source, Changes $changes, string $name, Sink $sink): array
    {
        $vectors = $changes->moves === [] ? [] : self::vectors($source, $changes);
        $out = $sink->open($name);
        $libraries = [];
        $byObject = false;
        $vertex = 0;
        self::eachLine($source, function (string $line, int $number) use ($changes, $vectors, $out, &$libraries, &$byObject, &$vertex): void {
            $first = ltrim($line)[0] ?? '';
            if ($first === 'v' && preg_match('/^\s*v\s/', $line) === 1) {
                $vector = $vectors[$vertex] ?? null;
                $vertex++;
                if ($vector !== null) {
                    $line = self::moved($line, $vector, $number);
                }
                if ($changes->placed !== null) {
                    $line = self::placed($line, $changes->placed, false, $number);
                }
            } elseif ($first === 'v' && $changes->placed !== null && preg_match('/^\s*vn\s/', $line) === 1) {
                $line = self::placed($line, $changes->placed, true, $number);
            } elseif (($first === 'o' || $first === 'g') && preg_match('/^(\s*([og])\s+)(.*?)(\s*)$/s', $line, $found) === 1) {
                $byObject = $byObject || $found[2] === 'o';
                $new = $changes->names[mb_scrub($found[3])] ?? null;
                if ($new !== null && ($found[2] === 'o') === $byObject) {
                    $line = $found[1].$new.$found[4];
                }
            } elseif ($first === 'm' && preg_match('/^\s*mtllib\s+(.*?)\s*$/', $line, $found) === 1) {
                array_push($libraries, ...(substr_count(strtolower($found[1]), '.mtl') > 1 ? explode(' ', $found[1]) : [$found[1]]));
            }
            fwrite($out, $line);
        });
        fclose($out);
        $sides = $libraries;
        foreach ($libraries as $library) {
            $side = $source->side($library);
            if ($side !== null) {
                array_push($sides, ...self::textures($side));
            }
        }

        return array_values(array_unique($sides));
    }

    /**
     * Which way each vertex goes, from the parts that use it.
     *
     * @return array<int, array{float, float, float}> vertex number from 0 → vector
     */
    private static function vectors(Source $source, Changes $changes): array
    {
        $names = [];
        $use = [];
        $part = pathinfo($source->name(), PATHINFO_FILENAME);
        $byObject = false;
        $vertices = 0;
        $none = [0.0, 0.0, 0.0];
        self::eachLine($source, function (string $line, int $number) use ($changes, &$names, &$use, &$part, &$byObject, &$vertices, $none): void {
            $line = trim($line);
            $first = $line[0] ?? '';
            if ($first === 'v' && preg_match('/^v\s/', $line) === 1) {
                $vertices++;
            } elseif (($first === 'o' || $first === 'g') && preg_match('/^([og])\s+(.*)$/s', $line, $found) === 1) {
                $byObject = $byObject || $found[1] === 'o';
                if (($found[1] === 'o') === $byObject) {
                    $part = mb_scrub($found[2]);
                }
            } elseif ($first === 'f') {
                $vector = $changes->moves[$part] ?? $none;
                foreach (array_slice(preg_split('/\s+/', $line) ?: [], 1) as $corner) {
                    $v = (int) $corner;
                    $v = $v < 0 ? $vertices + $v : $v - 1;
                    if (! isset($use[$v])) {
                        $use[$v] = $vector;
                        $names[$v] = $part;
                    } elseif ($use[$v] !== $vector) {
                        throw Unreadable::onLine($number, "$part shares vertices with {$names[$v]}, which is to move another way; export them as parts with vertices of their own");
                    }
                }
            }
        });

        return array_filter($use, static fn (array $vector): bool => $vector !== $none);
    }

    /**
     * @param  array{float, float, float}  $vector
     */
    private static function moved(string $line, array $vector, int $number): string
    {
        if (preg_match('/^(\s*v\s+)(\S+)(\s+)(\S+)(\s+)(\S+)(.*)$/s', $line, $found) !== 1 || str_contains($line, '\\')) {
            throw Unreadable::onLine($number, 'a vertex that goes on over several lines cannot be moved; export the file again');
        }
        foreach ([2, 4, 6] as $axis => $k) {
            $found[$k] = Decimal::sum($found[$k], $vector[$axis]);
        }

        return implode('', array_slice($found, 1));
    }

    /** Three numbers of a line by a matrix; what does not change stays as it is written. */
    private static function placed(string $line, Matrix $matrix, bool $isNormal, int $number): string
    {
        if (preg_match('/^(\s*vn?\s+)(\S+)(\s+)(\S+)(\s+)(\S+)(.*)$/s', $line, $found) !== 1 || str_contains($line, '\\')) {
            throw Unreadable::onLine($number, 'a vertex that goes on over several lines cannot be moved; export the file again');
        }
        $old = [(float) $found[2], (float) $found[4], (float) $found[6]];
        $new = $isNormal ? $matrix->normals($old) : $matrix->points($old);
        foreach ([2, 4, 6] as $axis => $k) {
            if ($new[$axis] !== $old[$axis]) {
                $found[$k] = Decimal::of($new[$axis]);
            }
        }

        return implode('', array_slice($found, 1));
    }

    /**
     * @param  Closure(string, int): void  $visit  the line with its end, and its number from 1
     */
    private static function eachLine(Source $source, Closure $visit): void
    {
        $stream = $source->open();
        try {
            $number = 0;
            while (($line = fgets($stream)) !== false) {
                $visit($line, ++$number);
            }
        } finally {
            fclose($stream);
        }
    }

    /**
     * @return list<string> pictures that a material file names
     */
    private static function textures(Source $library): array
    {
        $out = [];
        $stream = $library->open();
        while (($line = fgets($stream, 8192)) !== false) {
            if (preg_match('/^\s*(?:map_\w+|bump|disp|decal|norm|refl)\s+(?:-\S+\s+(?:[-\d.]+\s+)*|)*([^-\s].*?)\s*$/i', $line, $found) === 1) {
                $out[] = $found[1];
            }
        }
        fclose($stream);

        return $out;
    }
}
