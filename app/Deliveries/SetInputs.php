<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Geometry\Bounds;
use Anvil\Measures\Measures;
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

    /** @var array<string, Bounds|null> where rays of each set may meet something */
    private array $reached;

    /** @var array<string, Bounds|null> bounds of each set's high parts */
    private array $highBounds;

    public function __construct(Delivery $delivery, private Measures $measures)
    {
        $names = $hashes = $bounds = $reached = [];
        foreach ($delivery->files as $file) {
            $names[$file->id] = $file->name;
        }
        foreach ($delivery->parts as $part) {
            $hashes[($names[$part->file_id] ?? '')."\0".$part->name][] = $part->hash ?? "unknown $part->id";
        }
        foreach ($measures->asset->sets as $set) {
            $bounds[$set->name] = RoledPart::boundsOf($set->high);
            $low = $set->lowBounds();
            $reached[$set->name] = $low?->grown($low->diagonal());
        }
        $this->hashes = array_map(static fn (array $all): string => implode(' ', $all), $hashes);
        $this->highBounds = $bounds;
        $this->reached = $reached;
        $standard = $measures->asset->standard;
        $this->rules = (string) json_encode([config()->string('anvil.core_version'), $standard->rays, $standard->mapSize, $standard->checks, TiePlaces::pointsEach(count($measures->asset->pairing->ties))]);
    }

    /**
     * @param  int  $samples  of this set
     * @param  bool  $allSeen  what covers it comes off in use
     */
    public function of(BakeSet $set, int $samples, bool $allSeen): string
    {
        $standard = $this->measures->asset->standard;
        $near = [];
        foreach ($this->measures->asset->sets as $other) {
            if ($this->isNear($set, $other)) {
                $near[] = $this->parts($other->high);
            }
        }
        $ties = array_map(fn (Tie $tie): array => [$this->parts($tie->low), $this->parts($tie->high)], $this->measures->asset->tiesOf($set));

        return hash('sha256', (string) json_encode([
            $this->rules, $standard->reach[$set->name] ?? null, $standard->reach['*'] ?? null, $samples, $allSeen, $set->onItself,
            $this->parts($set->low), $this->parts($set->target()), $ties, $near,
        ], JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /**
     * What these inputs are called, in the order in which they are hashed: the hash knows no names, so that a part that was only renamed is not measured again.
     *
     * @return array{set: string, others: list<string>, ties: list<array{base: string, low: list<array{string, string}>, high: list<array{string, string}>}>}
     */
    public function names(BakeSet $set): array
    {
        $called = static fn (RoledPart $part): array => [$part->path, $part->part->name];

        return [
            'set' => $set->name,
            'others' => array_values(array_map(static fn (BakeSet $other): string => $other->name, array_filter($this->measures->asset->sets, fn (BakeSet $other): bool => $this->isNear($set, $other)))),
            'ties' => array_map(static fn (Tie $tie): array => ['base' => $tie->base, 'low' => array_map($called, $tie->low), 'high' => array_map($called, $tie->high)], $this->measures->asset->tiesOf($set)),
        ];
    }

    private function isNear(BakeSet $set, BakeSet $other): bool
    {
        $reached = $this->reached[$set->name] ?? null;

        return $other->name !== $set->name && $reached !== null && $this->highBounds[$other->name]?->meets($reached) === true;
    }

    /**
     * @param  list<RoledPart>  $parts
     * @return list<string>
     */
    private function parts(array $parts): array
    {
        return array_map(fn (RoledPart $part): string => $this->hashes["$part->path\0{$part->part->name}"] ?? '', $parts);
    }
}
