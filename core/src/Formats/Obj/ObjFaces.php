<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Geometry\Triangulation;
use Anvil\Unreadable;

/**
 * The faces of an OBJ file, cut into triangles, in the group, material and smoothing group in force.
 */
final class ObjFaces
{
    public ObjGroup $group;

    public string $material = '';

    /** Smoothing group in force; null where none has been named. */
    public ?int $smoothing = null;

    /** @var array{int, int} position, UV and normal numbers seen: the largest and the line it stands on */
    private array $maxPosition = [0, 0];

    /** @var array{int, int} */
    private array $maxUv = [0, 0];

    /** @var array{int, int} */
    private array $maxNormal = [0, 0];

    public function __construct(private readonly ObjVertices $vertices, ObjGroup $group)
    {
        $this->group = $group;
    }

    /** Lines `f v/vt/vn v/vt/vn v/vt/vn`, counted from 1. */
    public function triangleRun(string $run, int $firstLine, int $lastLine): void
    {
        $group = $this->wearing();
        $vs = $group->triangles;
        $ts = $group->triUvs;
        $ns = $group->triNormals;
        $group->triangles = $group->triUvs = $group->triNormals = [];
        $before = count($vs);
        $q = explode('/', strtr($run, " \n", '//'));
        $count = count($q);
        for ($i = 1; $i + 8 < $count; $i += 10) {
            $vs[] = (int) $q[$i] - 1;
            $ts[] = (int) $q[$i + 1] - 1;
            $ns[] = (int) $q[$i + 2] - 1;
            $vs[] = (int) $q[$i + 3] - 1;
            $ts[] = (int) $q[$i + 4] - 1;
            $ns[] = (int) $q[$i + 5] - 1;
            $vs[] = (int) $q[$i + 6] - 1;
            $ts[] = (int) $q[$i + 7] - 1;
            $ns[] = (int) $q[$i + 8] - 1;
        }
        foreach ([[&$this->maxPosition, array_slice($vs, $before)], [&$this->maxUv, array_slice($ts, $before)], [&$this->maxNormal, array_slice($ns, $before)]] as [&$seen, $new]) {
            if ($new !== [] && min($new) < 0) {
                throw Unreadable::onLine($firstLine, "a face between this line and line $lastLine counts from 0; faces count from 1");
            }
            if ($new !== [] && max($new) + 1 > $seen[0]) {
                $seen = [max($new) + 1, $lastLine];
            }
        }
        unset($seen);
        $group->triangles = $vs;
        $group->triUvs = $ts;
        $group->triNormals = $ns;
        $group->countTriangles(intdiv($count, 10));
    }

    /** Lines `f v v v …`, of places alone, counted from 1. */
    public function plainRun(string $run, int $firstLine): void
    {
        foreach (explode("\n", substr($run, 0, -1)) as $i => $text) {
            $this->face($text, $firstLine + $i);
        }
    }

    public function face(string $text, int $line): void
    {
        $corners = substr_count($text, ' ');
        $slots = explode('/', strtr(substr($text, 2), ' ', '/'));
        $stride = intdiv(count($slots), $corners);
        if ($stride * $corners !== count($slots) || $stride > 3) {
            [$slots, $stride] = [$this->spread($text), 3];
        }
        $vs = [];
        $ts = [];
        $ns = [];
        $positionCount = $this->vertices->positionCount();
        for ($i = 0; $i < $corners; $i++) {
            $v = (int) $slots[$stride * $i];
            if ($v < 0) {
                $v += $positionCount + 1;
            }
            if ($v < 1) {
                throw Unreadable::onLine($line, "a face counts vertices from 1, or back from the last with −1; {$slots[$stride * $i]} leads nowhere");
            }
            if ($v > $this->maxPosition[0]) {
                $this->maxPosition = [$v, $line];
            }
            $vs[] = $v - 1;
            $t = $stride > 1 ? (int) $slots[$stride * $i + 1] : 0;
            if ($t < 0) {
                $t += $this->vertices->uvCount() + 1;
                if ($t < 1) {
                    throw Unreadable::onLine($line, 'a face counts UVs back past the first');
                }
            }
            if ($t > $this->maxUv[0]) {
                $this->maxUv = [$t, $line];
            }
            $ts[] = $t - 1;
            $n = $stride > 2 ? (int) $slots[$stride * $i + 2] : 0;
            if ($n < 0) {
                $n += $this->vertices->normalCount() + 1;
                if ($n < 1) {
                    throw Unreadable::onLine($line, 'a face counts normals back past the first');
                }
            }
            if ($n > $this->maxNormal[0]) {
                $this->maxNormal = [$n, $line];
            }
            $ns[] = $n - 1;
        }
        $group = $this->wearing();
        if ($corners === 3) {
            array_push($group->triangles, $vs[0], $vs[1], $vs[2]);
            array_push($group->triUvs, $ts[0], $ts[1], $ts[2]);
            array_push($group->triNormals, $ns[0], $ns[1], $ns[2]);
            $group->countTriangles(1);

            return;
        }
        $xyz = [];
        foreach ($vs as $v) {
            if ($v >= $positionCount) {
                // A vertex that comes later in the file: no place is known yet.
                $xyz = array_fill(0, 3 * $corners, 0.0);
                break;
            }
            $xyz[] = $this->vertices->positions[3 * $v];
            $xyz[] = $this->vertices->positions[3 * $v + 1];
            $xyz[] = $this->vertices->positions[3 * $v + 2];
        }
        $cut = Triangulation::of($xyz);
        foreach ($cut as $corner) {
            $group->triangles[] = $vs[$corner];
            $group->triUvs[] = $ts[$corner];
            $group->triNormals[] = $ns[$corner];
        }
        $group->countPolygon(intdiv(count($cut), 3));
    }

    /**
     * A face whose corners are not all written alike, three slots a corner.
     *
     * @return list<string>
     */
    private function spread(string $text): array
    {
        $slots = [];
        foreach (explode(' ', substr($text, 2)) as $corner) {
            $p = explode('/', $corner);
            array_push($slots, $p[0], $p[1] ?? '', $p[2] ?? '');
        }

        return $slots;
    }

    /** The group in force, told what its next triangles wear. */
    private function wearing(): ObjGroup
    {
        $group = $this->group;
        if ($this->material !== $group->lastMaterial) {
            $group->useMaterial($this->material);
        }
        if ($this->smoothing !== $group->lastSmoothing) {
            $group->smoothBy($this->smoothing ?? 0);
        }

        return $group;
    }

    /** Whether every number that a face names is there. */
    public function check(): void
    {
        foreach ([['vertex', $this->maxPosition, $this->vertices->positionCount()], ['UV', $this->maxUv, $this->vertices->uvCount()], ['normal', $this->maxNormal, $this->vertices->normalCount()]] as [$what, [$largest, $line], $have]) {
            if ($largest > $have) {
                throw Unreadable::onLine($line, "a face names $what $largest, and the file has $have; it may be cut short");
            }
        }
    }
}
