<?php

declare(strict_types=1);

namespace Anvil\Explode;

use Anvil\Asset\Asset;
use Anvil\Json;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;
use Anvil\Unreadable;

/**
 * What an exploded layout was before: an original with the parts where they were, or the vectors that they were moved by.
 */
final readonly class Assembled
{
    /** A set counts as moved from this share of D, and as moved as one up to that of explode-drift. */
    private const MOVED = 1e-3;

    private const DRIFT = 1e-4;

    /**
     * @param  array<string, array{float, float, float}>|null  $vectors  by set, of an `explode.json`
     * @param  float|null  $clearance  the gap that the layout was made with, of an `explode.json`
     * @param  array<string, array{float, float, float}>  $centres  role and part → middle of its bounds in the original
     */
    private function __construct(public ?array $vectors, public ?float $clearance, private array $centres)
    {
    }

    /**
     * @throws Unreadable that names the key
     */
    public static function ofPlan(string $json): self
    {
        $root = Json::parse($json);
        $vectors = [];
        foreach ($root->objects('sets') as $set) {
            $vector = $set->value('vector');
            $name = $set->string('set');
            if ($name === null || ! is_array($vector) || count($vector) !== 3 || array_filter($vector, static fn (mixed $v): bool => ! is_int($v) && ! is_float($v)) !== []) {
                throw Unreadable::because($set->at('vector').' is not a set with a vector of three numbers');
            }
            /** @var array{float|int, float|int, float|int} $vector */
            $vectors[$name] = [(float) $vector[0], (float) $vector[1], (float) $vector[2]];
        }
        $clearance = $root->value('clearance');

        return new self($vectors, is_int($clearance) || is_float($clearance) ? (float) $clearance : null, []);
    }

    /**
     * Whether an asset is an earlier one with sets moved apart: low and high by the same vector, to where no other set's bounds are,
     * and not all by one vector. Reads names and bounds only.
     */
    public static function recognise(Asset $now, Asset $before): ?self
    {
        $original = self::ofOriginal($before);
        $d = $before->diagonal();
        $moved = $followed = 0;
        $vectors = [];
        foreach ($now->sets as $set) {
            $first = $set->low === [] ? null : $original->moveOf($set->low[0], $set->name);
            if ($first === null) {
                continue;
            }
            $vectors[] = $first;
            if (self::apart($first, [0.0, 0.0, 0.0]) <= self::MOVED * $d) {
                continue;
            }
            $moved++;
            $followed += $set->high !== [] && $original->movesAsOne([...$set->low, ...$set->high], $set->name, $first, self::DRIFT * $d) && self::isClear($set, $now->sets) ? 1 : 0;
        }
        $differ = array_filter($vectors, static fn (array $vector): bool => self::apart($vector, $vectors[0]) > self::MOVED * $d);

        // Most of what was moved must have been moved as one: the others are those that drifted.
        return $followed > 0 && 2 * $followed > $moved && $differ !== [] ? $original : null;
    }

    /** An asset as it was before it was exploded. */
    public static function ofOriginal(Asset $original): self
    {
        $centres = [];
        foreach ($original->parts as $part) {
            $bounds = $part->part->bounds();
            if ($bounds !== null) {
                $centres[self::key($part)] = $bounds->centre();
            }
        }

        return new self(null, null, $centres);
    }

    public function isOriginal(): bool
    {
        return $this->vectors === null;
    }

    /**
     * How far a part was moved; null where that is not known.
     *
     * @return array{float, float, float}|null
     */
    public function moveOf(RoledPart $part, string $set): ?array
    {
        if ($this->vectors !== null) {
            return $this->vectors[$set] ?? null;
        }
        $before = $this->centres[self::key($part)] ?? null;
        $after = $part->part->bounds()?->centre();

        return $before === null || $after === null ? null : [$after[0] - $before[0], $after[1] - $before[1], $after[2] - $before[2]];
    }

    /**
     * The sets of an exploded layout that stand elsewhere, with how far their first part was moved.
     *
     * @return array<string, array{float, float, float}>
     */
    public function movesOf(Asset $now): array
    {
        $moves = [];
        foreach ($now->sets as $set) {
            $part = $set->low[0] ?? $set->high[0] ?? null;
            $move = $part === null ? null : $this->moveOf($part, $set->name);
            if ($move !== null && self::apart($move, [0.0, 0.0, 0.0]) > self::DRIFT * $now->diagonal()) {
                $moves[$set->name] = $move;
            }
        }

        return $moves;
    }

    /**
     * @param  list<RoledPart>  $parts
     * @param  array{float, float, float}  $vector
     */
    private function movesAsOne(array $parts, string $set, array $vector, float $most): bool
    {
        foreach ($parts as $part) {
            $move = $this->moveOf($part, $set);
            if ($move === null || self::apart($move, $vector) > $most) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  list<BakeSet>  $sets
     */
    private static function isClear(BakeSet $set, array $sets): bool
    {
        $box = $set->bounds();
        foreach ($sets as $other) {
            if ($other->name !== $set->name && $box !== null && $other->bounds()?->meets($box) === true) {
                return false;
            }
        }

        return $box !== null;
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private static function apart(array $a, array $b): float
    {
        return sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2);
    }

    private static function key(RoledPart $part): string
    {
        return ($part->role ?? Role::Low)->value.' '.$part->part->name;
    }
}
