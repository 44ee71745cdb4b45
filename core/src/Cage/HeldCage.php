<?php

declare(strict_types=1);

namespace Anvil\Cage;

use Anvil\Asset\Asset;
use Anvil\Clearance\ClearanceMeasure;
use Anvil\Clearance\SetClearance;
use Anvil\Geometry\FaceNormal;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Weld;
use Anvil\Pairing\RoledPart;
use Anvil\Rays\SetSurfaces;
use Anvil\Sets\BakeSet;

/**
 * A handed-in cage of a set, held against its low poly: part by part the same faces over the same vertices, no face turned over, and
 * what its rays meet.
 */
final readonly class HeldCage
{
    private const WHERE = 8;

    /**
     * @param  list<array{part: RoledPart, words: string, count: int}>  $differs  cage parts whose topology is not the low part's
     * @param  list<array{part: RoledPart, count: int, where: list<array{float, float, float}>}>  $inverted
     * @param  CageRays|null  $rays  null where the topology differs or the set was not measured
     */
    private function __construct(public BakeSet $set, public array $differs, public array $inverted, public ?CageRays $rays, public ?RoledPart $first)
    {
    }

    public static function of(Asset $asset, BakeSet $set, ?SetClearance $measured): self
    {
        $differs = $inverted = $positions = [];
        $whole = true;
        $first = null;
        foreach (self::pairs($set) as [$low, $cage]) {
            if ($cage === null) {
                $whole = false;
                $positions = [...$positions, ...$low->part->mesh->positions];

                continue;
            }
            $first ??= $cage;
            [$moved, $words, $count] = self::over($low->part->mesh, $cage->part->mesh);
            if ($moved === null) {
                $differs[] = ['part' => $cage, 'words' => $words, 'count' => $count];
                $whole = false;

                continue;
            }
            $positions = [...$positions, ...$moved];
            [$turned, $where] = self::turned($low->part->mesh, $moved);
            if ($turned > 0) {
                $inverted[] = ['part' => $cage, 'count' => $turned, 'where' => $where];
            }
        }
        $rays = null;
        // From a cage that folds over, rays say nothing more.
        if ($whole && $inverted === [] && $measured !== null) {
            $field = ClearanceMeasure::field(SetSurfaces::of($set, true), $asset->standard, $measured->samples);
            $rays = CageRays::of($field, $positions, $measured->inUse()->in);
        }

        return new self($set, $differs, $inverted, $rays, $first);
    }

    /**
     * The places of a set's handed-in cage, side by side with its low parts one after the other; null where it is not the low poly moved, or a face of it
     * is turned over.
     *
     * @return list<float>|null
     */
    public static function positions(BakeSet $set): ?array
    {
        $out = [];
        foreach (self::pairs($set) as [$low, $cage]) {
            $moved = $cage === null ? null : self::over($low->part->mesh, $cage->part->mesh)[0];
            if ($moved === null || self::turned($low->part->mesh, $moved)[0] > 0) {
                return null;
            }
            $out = [...$out, ...$moved];
        }

        return $out;
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        $number = fn (RoledPart $part): int => (int) array_search($part, $this->set->cage, true);

        return [
            'differs' => array_map(static fn (array $one): array => [...$one, 'part' => $number($one['part'])], $this->differs),
            'inverted' => array_map(static fn (array $one): array => [...$one, 'part' => $number($one['part'])], $this->inverted),
            'rays' => $this->rays?->toArray(), 'first' => $this->first === null ? null : $number($this->first),
        ];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     * @param  BakeSet  $set  the same
     */
    public static function ofArray(array $stored, BakeSet $set): self
    {
        /** @var array{differs: list<array{part: int, words: string, count: int}>, inverted: list<array{part: int, count: int, where: list<array{float, float, float}>}>, rays: array<mixed>|null, first: int|null} $stored */
        return new self(
            $set, array_map(static fn (array $one): array => ['part' => $set->cage[$one['part']], 'words' => $one['words'], 'count' => $one['count']], $stored['differs']),
            array_map(static fn (array $one): array => ['part' => $set->cage[$one['part']], 'count' => $one['count'], 'where' => $one['where']], $stored['inverted']),
            $stored['rays'] === null ? null : CageRays::ofArray($stored['rays']), $stored['first'] === null ? null : $set->cage[$stored['first']],
        );
    }

    /** Whether a bake with it comes out as meant. */
    public function isClean(float $d): bool
    {
        return $this->rays !== null && $this->inverted === [] && $this->rays->wrongShare <= 0.0005 && $this->rays->outsideShare <= 0.0005 && $this->rays->outsideBy <= 0.001 * $d;
    }

    /**
     * Each low part with the cage part of its base.
     *
     * @return list<array{RoledPart, RoledPart|null}>
     */
    private static function pairs(BakeSet $set): array
    {
        if (count($set->low) === 1 && count($set->cage) === 1) {
            return [[$set->low[0], $set->cage[0]]];
        }
        $byBase = [];
        foreach ($set->cage as $part) {
            $byBase[$part->base][] = $part;
        }
        $out = [];
        foreach ($set->low as $part) {
            $out[] = [$part, isset($byBase[$part->base]) ? array_shift($byBase[$part->base]) : null];
        }

        return $out;
    }

    /**
     * The cage's positions side by side with the low part's; null where the two are not the same mesh but for places.
     *
     * @return array{list<float>|null, string, int} positions, what differs, how much of it
     */
    private static function over(Mesh $low, Mesh $cage): array
    {
        if ($low->triangleCount() !== $cage->triangleCount()) {
            return [null, "{$cage->triangleCount()} triangles against {$low->triangleCount()}", abs($cage->triangleCount() - $low->triangleCount())];
        }
        $a = Weld::of($low->positions);
        $b = Weld::of($cage->positions);
        $countA = count(array_unique($a));
        $countB = count(array_unique($b));
        if ($countA !== $countB) {
            return [null, "$countB vertices against $countA", abs($countB - $countA)];
        }
        // Face by face, each corner on its own one; a face may begin at another corner.
        $to = [];
        $back = [];
        $wrong = 0;
        $sameOrder = $low->vertexCount() === $cage->vertexCount();
        if ($sameOrder) {
            foreach ($a as $i => $v) {
                $to[$v] ??= $b[$i];
                $back[$b[$i]] ??= $v;
            }
        }
        for ($t = 0, $n = count($low->triangles); $t < $n; $t += 3) {
            $own = [$a[$low->triangles[$t]], $a[$low->triangles[$t + 1]], $a[$low->triangles[$t + 2]]];
            $fits = false;
            for ($r = 0; $r < 3 && ! $fits; $r++) {
                $other = [$b[$cage->triangles[$t + $r]], $b[$cage->triangles[$t + ($r + 1) % 3]], $b[$cage->triangles[$t + ($r + 2) % 3]]];
                $fits = true;
                for ($k = 0; $k < 3; $k++) {
                    if (($to[$own[$k]] ?? $other[$k]) !== $other[$k] || ($back[$other[$k]] ?? $own[$k]) !== $own[$k]) {
                        $fits = false;
                        break;
                    }
                }
                if ($fits) {
                    for ($k = 0; $k < 3; $k++) {
                        $to[$own[$k]] = $other[$k];
                        $back[$other[$k]] = $own[$k];
                    }
                }
            }
            $wrong += $fits ? 0 : 1;
        }
        if ($wrong > 0) {
            return [null, "$wrong faces join other vertices", $wrong];
        }
        $positions = [];
        foreach ($a as $i => $v) {
            $at = 3 * ($to[$v] ?? $v);
            if (! isset($to[$v])) {
                // A vertex that no face uses: it stays where it is.
                array_push($positions, $low->positions[3 * $i], $low->positions[3 * $i + 1], $low->positions[3 * $i + 2]);
            } else {
                array_push($positions, $cage->positions[$at], $cage->positions[$at + 1], $cage->positions[$at + 2]);
            }
        }

        return [$positions, '', 0];
    }

    /**
     * Faces of the cage that are turned against their low face.
     *
     * @param  list<float>  $cage
     * @return array{int, list<array{float, float, float}>}
     */
    private static function turned(Mesh $low, array $cage): array
    {
        $count = 0;
        $where = [];
        for ($t = 0, $n = count($low->triangles); $t < $n; $t += 3) {
            $a = FaceNormal::long($low->positions, $low->triangles, intdiv($t, 3));
            $b = FaceNormal::long($cage, $low->triangles, intdiv($t, 3));
            if ($a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2] < 0.0) {
                $count++;
                if (count($where) < self::WHERE) {
                    $v = 3 * $low->triangles[$t];
                    $where[] = [$cage[$v], $cage[$v + 1], $cage[$v + 2]];
                }
            }
        }

        return [$count, $where];
    }
}
