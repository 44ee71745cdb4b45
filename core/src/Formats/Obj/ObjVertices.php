<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Geometry\Bytes;
use Anvil\Unreadable;

/**
 * The positions, UVs, normals and vertex colours of an OBJ file, as its lines give them.
 */
final class ObjVertices
{
    /** @var list<float> */
    public array $positions = [];

    /** @var list<float> */
    public array $uvs = [];

    /** @var list<float> */
    public array $normals = [];

    /** @var array<int, array{float, float, float}> by vertex */
    public array $colors = [];

    public function positionCount(): int
    {
        return intdiv(count($this->positions), 3);
    }

    public function uvCount(): int
    {
        return intdiv(count($this->uvs), 2);
    }

    public function normalCount(): int
    {
        return intdiv(count($this->normals), 3);
    }

    /** A vertex line of any form. */
    public function vertex(string $text): void
    {
        $kind = $text[1] ?? '';
        $p = explode(' ', $text);
        if ($kind === ' ') {
            array_push($this->positions, (float) $p[1], (float) $p[2], (float) $p[3]);
            if (isset($p[6])) {
                $this->colors[intdiv(count($this->positions), 3) - 1] = [(float) $p[4], (float) $p[5], (float) $p[6]];
            }
        } elseif ($kind === 't') {
            array_push($this->uvs, (float) $p[1], (float) ($p[2] ?? 0.0));
        } elseif ($kind === 'n') {
            array_push($this->normals, (float) $p[1], (float) $p[2], (float) $p[3]);
        }
    }

    /** Lines `v x y z`. */
    public function positionRun(string $run): void
    {
        // Taken out of the object while it grows: a property is looked up anew at every step.
        $out = $this->positions;
        $this->positions = [];
        $q = explode(' ', strtr($run, "\n", ' '));
        for ($i = 1, $n = count($q); $i + 2 < $n; $i += 4) {
            $out[] = (float) $q[$i];
            $out[] = (float) $q[$i + 1];
            $out[] = (float) $q[$i + 2];
        }
        $this->positions = $out;
    }

    /** Lines `vn x y z`. */
    public function normalRun(string $run): void
    {
        $out = $this->normals;
        $this->normals = [];
        $q = explode(' ', strtr($run, "\n", ' '));
        for ($i = 1, $n = count($q); $i + 2 < $n; $i += 4) {
            $out[] = (float) $q[$i];
            $out[] = (float) $q[$i + 1];
            $out[] = (float) $q[$i + 2];
        }
        $this->normals = $out;
    }

    /** Lines `vt u v`. */
    public function uvRun(string $run): void
    {
        $out = $this->uvs;
        $this->uvs = [];
        $q = explode(' ', strtr($run, "\n", ' '));
        for ($i = 1, $n = count($q); $i + 1 < $n; $i += 3) {
            $out[] = (float) $q[$i];
            $out[] = (float) $q[$i + 1];
        }
        $this->uvs = $out;
    }

    /** Positions as float32. */
    public function round(): void
    {
        $this->positions = Bytes::toFloat32($this->positions);
        // A sum is finite only where every number is.
        foreach (is_finite(array_sum($this->positions)) ? [] : $this->positions as $i => $value) {
            if (! is_finite($value)) {
                throw Unreadable::because('vertex '.(intdiv($i, 3) + 1).' is too far out for a 32-bit number');
            }
        }
    }
}
