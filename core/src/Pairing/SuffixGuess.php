<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Geometry\Bounds;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * A studio's own suffixes, found in the files where those of the standard fit nothing: two endings that the same bases bear, on parts
 * that stand in the same place. The one on fewer triangles is the low poly's.
 */
final readonly class SuffixGuess
{
    /** So much of the bases must stand in one place. */
    private const AGREES = 0.5;

    private const SAME_PLACE = 0.25;

    private const MOST_ENDINGS = 40;

    /**
     * @param  array<string, list<string>>  $suffixes  role → suffixes, as the standard's file has them
     * @param  int  $pairs  bases that would pair
     * @param  int  $bases  bases in all, among the names that bear either ending
     * @param  bool  $ofFiles  whether the endings stand on the names of files rather than of parts
     */
    private function __construct(public array $suffixes, public int $pairs, public int $bases, public bool $ofFiles)
    {
    }

    /**
     * @return array<string, mixed>
     */
    public function toArray(): array
    {
        return ['suffixes' => $this->suffixes, 'pairs' => $this->pairs, 'bases' => $this->bases, 'ofFiles' => $this->ofFiles];
    }

    /**
     * @param  array<mixed>  $stored  of `toArray`
     */
    public static function ofArray(array $stored): self
    {
        /** @var array{suffixes: array<string, list<string>>, pairs: int, bases: int, ofFiles: bool} $stored */
        return new self($stored['suffixes'], $stored['pairs'], $stored['bases'], $stored['ofFiles']);
    }

    /**
     * @param  list<RoledPart>  $parts
     */
    public static function of(array $parts, Standard $standard): ?self
    {
        if ($standard->whole || $parts === []) {
            return null;
        }
        $files = [];
        foreach ($parts as $part) {
            // Where the standard reads even one name, it is that name's neighbours that are misspelt, not the standard.
            if ($part->role !== null) {
                return null;
            }
            $files[$part->path][] = $part;
        }
        $units = array_map(static fn (RoledPart $part): array => [$part->part->name, $part->part->bounds(), $part->part->triangleCount()], $parts);
        $found = self::among($units, false);
        if ($found === null && count($files) > 1) {
            $units = [];
            foreach ($files as $path => $own) {
                $units[] = [pathinfo((string) $path, PATHINFO_FILENAME), RoledPart::boundsOf($own), RoledPart::triangles($own)];
            }
            $found = self::among($units, true);
        }

        return $found;
    }

    /** In words: `"_lo" and "_hi"`. */
    public function words(): string
    {
        return '"'.($this->suffixes['low'][0] ?? '').'" and "'.($this->suffixes['high'][0] ?? '').'"';
    }

    /**
     * @param  list<array{string, Bounds|null, int}>  $units  name, bounds, triangles
     */
    private static function among(array $units, bool $ofFiles): ?self
    {
        /** @var array<string, array<string|int, array{Bounds|null, int}>> $byEnding */
        $byEnding = [];
        foreach ($units as [$name, $bounds, $triangles]) {
            foreach (self::endings($name) as $ending => $base) {
                $before = $byEnding[$ending][$base] ?? [null, 0];
                $byEnding[$ending][$base] = [Bounds::union([$before[0], $bounds]), $before[1] + $triangles];
            }
        }
        uasort($byEnding, static fn (array $a, array $b): int => count($b) <=> count($a));
        $byEnding = array_slice($byEnding, 0, self::MOST_ENDINGS, true);
        $best = null;
        $most = 0;
        $endings = array_map(strval(...), array_keys($byEnding));
        foreach ($endings as $i => $a) {
            foreach (array_slice($endings, $i + 1) as $b) {
                if (self::isTailOf($a, $b)) {
                    continue;
                }
                [$low, $high, $pairs] = self::inPlace($byEnding[$a], $byEnding[$b]) >= 0 ? [$a, $b, self::inPlace($byEnding[$a], $byEnding[$b])] : [$b, $a, -self::inPlace($byEnding[$a], $byEnding[$b])];
                if ($pairs > $most) {
                    $most = $pairs;
                    $best = [$low, $high];
                }
            }
        }
        if ($best === null) {
            return null;
        }
        [$low, $high] = $best;
        $suffixes = ['low' => [$low], 'high' => [$high]];
        foreach ($endings as $ending) {
            // An ID copy has the triangles of the high poly in the same places.
            $shared = array_intersect_key($byEnding[$ending], $byEnding[$high]);
            $same = array_filter($shared, static fn (array $one, string|int $base): bool => $one[1] === $byEnding[$high][$base][1], ARRAY_FILTER_USE_BOTH);
            if ($ending !== $low && $ending !== $high && ! self::isTailOf($ending, $high) && count($same) >= 1 && 2 * count($same) >= $most && count($same) === count($byEnding[$ending])) {
                $suffixes[Role::Id->value] = [$ending];
                break;
            }
        }

        return new self($suffixes, $most, count($byEnding[$low] + $byEnding[$high]), $ofFiles);
    }

    /**
     * How many bases stand in one place under both endings: positive where the first bears fewer triangles, negative where the second does.
     *
     * @param  array<string|int, array{Bounds|null, int}>  $a
     * @param  array<string|int, array{Bounds|null, int}>  $b
     */
    private static function inPlace(array $a, array $b): int
    {
        $agree = $common = $first = $second = 0;
        foreach ($a as $base => [$box, $triangles]) {
            if (! isset($b[$base])) {
                continue;
            }
            $common++;
            $first += $triangles;
            $second += $b[$base][1];
            $agree += $box !== null && $b[$base][0] !== null && PlaceCost::of($box, $b[$base][0]) < self::SAME_PLACE ? 1 : 0;
        }
        // Copies of one thing, such as a high poly and its ID copy, are no low and high.
        if ($common === 0 || $agree < self::AGREES * $common || $first === $second) {
            return 0;
        }

        return $first < $second ? $agree : -$agree;
    }

    /** Two endings of which one only says more of the same name, such as `_hi` and `_old_hi`. */
    private static function isTailOf(string $a, string $b): bool
    {
        return str_ends_with($a, $b) || str_ends_with($b, $a);
    }

    /**
     * What may be a suffix: the last word with its separator, or a last word that begins in another letter case.
     *
     * @return array<string, string> ending → base
     */
    private static function endings(string $name): array
    {
        $out = [];
        if (preg_match('/^(.+?)([_\-. ]+[A-Za-z]{1,12})$/', $name, $found) === 1) {
            $out[$found[2]] = $found[1];
        } elseif (preg_match('/^(.+[a-z0-9])([A-Z][a-z]{1,11}|[A-Z]{1,4})$/', $name, $found) === 1) {
            $out[$found[2]] = $found[1];
        }

        return $out;
    }
}
