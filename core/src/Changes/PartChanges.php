<?php

declare(strict_types=1);

namespace Anvil\Changes;

use Anvil\Asset\Asset;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\LastPart;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;
use Anvil\Pairing\NameReading;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Standard;

/**
 * Which part of now is which of the last delivery, and what became of each.
 */
final class PartChanges
{
    /** Lengths of edges that differ by less, of the greatest of them, are the same. */
    private const LENGTH = 1e-5;

    /**
     * The parts that are held against the last delivery: those that are judged.
     *
     * @return list<RoledPart>
     */
    public static function parts(Asset $asset): array
    {
        return $asset->judged();
    }

    /**
     * The parts whose meshes are looked at: those that are not the same to the byte, under the same name and role, as one of the last delivery.
     *
     * @return list<RoledPart>
     */
    public static function changed(Asset $asset, LastDelivery $last): array
    {
        [$pairs, $new] = self::byName($asset, $last);
        $out = $new;
        foreach ($pairs as [$part, $before]) {
            if (! self::isSame($part, $before)) {
                $out[] = $part;
            }
        }

        return $out;
    }

    /**
     * @return list<PartChange> the parts of now in their order, then those that are gone
     */
    public static function of(Asset $asset, LastDelivery $last): array
    {
        [$pairs, $new, $gone] = self::byName($asset, $last);
        [$renamed, $new, $gone] = self::byShape($new, $gone);
        $of = [];
        foreach ($pairs as [$part, $before]) {
            $of[spl_object_id($part)] = self::change($part, $before);
        }
        foreach ($renamed as [$part, $before]) {
            $of[spl_object_id($part)] = self::change($part, $before);
        }
        foreach ($new as $part) {
            $of[spl_object_id($part)] = new PartChange($part->part->name, null, $part->role, ['added']);
        }

        return [
            ...array_map(static fn (RoledPart $part): PartChange => $of[spl_object_id($part)], self::parts($asset)),
            ...array_map(static fn (LastPart $part): PartChange => new PartChange($part->name, null, $part->role, ['gone']), $gone),
        ];
    }

    private static function change(RoledPart $part, LastPart $before): PartChange
    {
        $was = $before->name === $part->part->name ? null : $before->name;
        $states = $was === null ? [] : ['renamed'];
        $measure = [];
        if (! self::isSame($part, $before)) {
            [$more, $measure] = PartDifference::of($before->mesh(), $part->part->mesh, $before->colors, $part->part->colors);
            array_push($states, ...$more);
        }

        return new PartChange($part->part->name, $was, $part->role, $states === [] ? ['same'] : $states, $measure);
    }

    private static function isSame(RoledPart $part, LastPart $before): bool
    {
        $colors = static function (array $colors): array {
            ksort($colors);

            return $colors;
        };

        return $part->part->hash() === $before->hash && $colors($part->part->colors) === $colors($before->colors);
    }

    /**
     * Parts of one name and role, the first with the first where there are several.
     *
     * @return array{list<array{RoledPart, LastPart}>, list<RoledPart>, list<LastPart>} pairs, what is left of now, what is left of then
     */
    private static function byName(Asset $asset, LastDelivery $last): array
    {
        $waiting = [];
        foreach ($last->parts as $number => $part) {
            $waiting[$part->role?->value."\0".$part->name][] = $number;
        }
        $gone = $last->parts;
        $pairs = $new = [];
        foreach (self::parts($asset) as $part) {
            $key = $part->role?->value."\0".$part->part->name;
            if (($waiting[$key] ?? []) === []) {
                $new[] = $part;

                continue;
            }
            $number = array_shift($waiting[$key]);
            $pairs[] = [$part, $last->parts[$number]];
            unset($gone[$number]);
        }

        return [$pairs, $new, array_values($gone)];
    }

    /**
     * Of those that are left, pairs of one role, number of triangles, welded connectivity and edge lengths; of several the nearest.
     *
     * @param  list<RoledPart>  $new
     * @param  list<LastPart>  $gone
     * @return array{list<array{RoledPart, LastPart}>, list<RoledPart>, list<LastPart>}
     */
    private static function byShape(array $new, array $gone): array
    {
        $candidates = $shapes = [];
        foreach ($new as $i => $part) {
            foreach ($gone as $k => $before) {
                if ($before->role !== $part->role || $before->triangles !== $part->part->triangleCount() || $before->triangles === 0) {
                    continue;
                }
                if ($before->hash !== $part->part->hash() && ! self::isOneShape($shapes["new $i"] ??= self::shape($part->part->mesh), $shapes["gone $k"] ??= self::shape($before->mesh()))) {
                    continue;
                }
                $candidates[] = [self::apart($part->part->bounds(), $before->bounds), $i, $k];
            }
        }
        sort($candidates);
        $pairs = [];
        foreach ($candidates as [, $i, $k]) {
            if (isset($new[$i], $gone[$k])) {
                $pairs[] = [$new[$i], $gone[$k]];
                unset($new[$i], $gone[$k]);
            }
        }

        return [$pairs, array_values($new), array_values($gone)];
    }

    private static function apart(?Bounds $a, ?Bounds $b): float
    {
        if ($a === null || $b === null) {
            return INF;
        }
        [$p, $q] = [$a->centre(), $b->centre()];

        return sqrt(($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2);
    }

    /**
     * @return array{list<int>, list<float>} how many edges meet in each welded vertex, ascending; the lengths of all edges, ascending
     */
    private static function shape(Mesh $mesh): array
    {
        $welded = Weld::ofMesh($mesh);
        $edges = [];
        $p = $mesh->positions;
        for ($i = 0, $count = count($mesh->triangles); $i < $count; $i += 3) {
            for ($k = 0; $k < 3; $k++) {
                $a = $mesh->triangles[$i + $k];
                $b = $mesh->triangles[$i + ($k + 1) % 3];
                $key = $welded[$a] < $welded[$b] ? "$welded[$a] $welded[$b]" : "$welded[$b] $welded[$a]";
                $edges[$key] ??= [$welded[$a], $welded[$b], sqrt(($p[3 * $a] - $p[3 * $b]) ** 2 + ($p[3 * $a + 1] - $p[3 * $b + 1]) ** 2 + ($p[3 * $a + 2] - $p[3 * $b + 2]) ** 2)];
            }
        }
        $degrees = $lengths = [];
        foreach ($edges as [$a, $b, $length]) {
            $degrees[$a] = ($degrees[$a] ?? 0) + 1;
            $degrees[$b] = ($degrees[$b] ?? 0) + 1;
            $lengths[] = $length;
        }
        sort($degrees);
        sort($lengths);

        return [$degrees, $lengths];
    }

    /**
     * @param  array{list<int>, list<float>}  $a
     * @param  array{list<int>, list<float>}  $b
     */
    private static function isOneShape(array $a, array $b): bool
    {
        if ($a[0] !== $b[0] || count($a[1]) !== count($b[1]) || $a[1] === []) {
            return false;
        }
        $most = self::LENGTH * $a[1][count($a[1]) - 1];
        foreach ($a[1] as $i => $length) {
            if (abs($length - $b[1][$i]) > $most) {
                return false;
            }
        }

        return true;
    }

    /**
     * What is called otherwise now: parts, and the bases that sets are named for.
     *
     * @param  list<PartChange>  $changes
     * @return array<string, string> name then → name now
     */
    public static function renames(array $changes, Standard $standard): array
    {
        $names = $bases = [];
        foreach ($changes as $change) {
            if ($change->was !== null) {
                $names[$change->was] = $change->name;
                $bases[NameReading::of($change->was, $standard)->base] ??= NameReading::of($change->name, $standard)->base;
            }
        }

        return $names + array_filter($bases, static fn (string $now, string|int $then): bool => $now !== (string) $then, ARRAY_FILTER_USE_BOTH);
    }
}
