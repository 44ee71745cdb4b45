<?php

declare(strict_types=1);

namespace Anvil\Clearance;

use Anvil\Formats\Json;
use Anvil\Formats\Unreadable;
use Anvil\Inspection\Inspection;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;

/**
 * What an exploded layout was before: an original with the parts where they were, or the vectors that they were moved by.
 */
final readonly class Assembled
{
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

    /** An asset as it was before it was exploded. */
    public static function ofOriginal(Inspection $original): self
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

    private static function key(RoledPart $part): string
    {
        return ($part->role ?? Role::Low)->value.' '.$part->part->name;
    }
}
