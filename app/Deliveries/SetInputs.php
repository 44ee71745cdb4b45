<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Geometry\Bounds;
use Anvil\Inspection\Inspection;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Place\TiePlaces;
use Anvil\Sets\BakeSet;
use App\Models\Delivery;

/**
 * Hashes of all that the rays of a set depend on, but for what is seen of it: where they are the same as before, what its rays met is too.
 */
final readonly class SetInputs
{
    /** @var array<string, string> hash of each stored mesh, by file and part */
    private array $hashes;

    private string $rules;

    /** @var array<string, Bounds|null> bounds of each set's high parts */
    private array $highBounds;

    public function __construct(Delivery $delivery, private Inspection $inspection)
    {
        $names = $hashes = $bounds = [];
        foreach ($delivery->files as $file) {
            $names[$file->id] = $file->name;
        }
        foreach ($delivery->parts as $part) {
            $hashes[($names[$part->file_id] ?? '')."\0".$part->name][] = $part->hash ?? "unknown $part->id";
        }
        foreach ($inspection->sets as $set) {
            $bounds[$set->name] = RoledPart::boundsOf($set->high);
        }
        $this->hashes = array_map(static fn (array $all): string => implode(' ', $all), $hashes);
        $this->highBounds = $bounds;
        $standard = $inspection->standard;
        $this->rules = (string) json_encode([config()->string('anvil.core_version'), $standard->rays, $standard->mapSize, TiePlaces::pointsEach(count($inspection->pairing->ties))]);
    }

    /**
     * @param  int  $samples  of this set
     * @param  bool  $allSeen  what covers it comes off in use
     */
    public function of(BakeSet $set, int $samples, bool $allSeen): string
    {
        $standard = $this->inspection->standard;
        $low = $set->lowBounds();
        $bounds = $low?->grown($low->diagonal());
        $near = [];
        foreach ($this->inspection->sets as $other) {
            if ($other->name !== $set->name && $bounds !== null && $this->highBounds[$other->name]?->meets($bounds) === true) {
                $near[$other->name] = $this->parts($other->high);
            }
        }
        $ties = array_map(fn (Tie $tie): array => [$tie->base, $this->parts($tie->low), $this->parts($tie->high)], $this->inspection->tiesOf($set));

        return hash('sha256', (string) json_encode([
            $this->rules, $set->name, $standard->reach[$set->name] ?? null, $standard->reach['*'] ?? null, $samples, $allSeen, $set->onItself,
            $this->parts($set->low), $this->parts($set->target()), $ties, $near,
        ], JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /**
     * @param  list<RoledPart>  $parts
     * @return list<array{string, string, string}>
     */
    private function parts(array $parts): array
    {
        return array_map(fn (RoledPart $part): array => [$part->path, $part->part->name, $this->hashes["$part->path\0{$part->part->name}"] ?? ''], $parts);
    }
}
