<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Geometry\Bounds;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Pairing\Pairing;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Sets\BakeSet;
use Anvil\Sets\SetGrouping;
use Anvil\Standard\Choices;
use Anvil\Standard\Pattern;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;

/**
 * What is handed in and how it belongs together: files, parts, ties and sets. What is measured of it hangs beside it (`Anvil\Measures\Measures`), not in it.
 */
final class Asset
{
    /** @var array<int, true>|null */
    private ?array $duplicates = null;

    /**
     * @param  list<ReadFile>  $files
     * @param  list<RoledPart>  $parts
     * @param  list<BakeSet>  $sets
     * @param  list<Matrix>  $frames  of each file: from its own unit and axes to those that all parts are held in
     * @param  list<GivenMap>  $maps  that came back from a baker
     * @param  LastDelivery|null  $last  what was handed in before
     */
    private function __construct(
        public readonly array $files,
        public readonly array $parts,
        public readonly Pairing $pairing,
        public readonly array $sets,
        public readonly Standard $standard,
        public readonly Choices $choices,
        public readonly array $frames,
        public readonly array $maps = [],
        public readonly ?LastDelivery $last = null,
    ) {
    }

    /**
     * @param  list<ReadFile>  $files
     * @param  list<GivenMap>  $maps  that came back from a baker
     */
    public static function of(array $files, Standard $standard, Choices $choices, array $maps = []): self
    {
        $parts = [];
        $frames = Frames::of($files, $standard);
        foreach ($files as $i => $file) {
            foreach ($file->scene->parts ?? [] as $part) {
                $parts[] = RoledPart::of($i, $file->path, $part->placedBy($frames[$i]), $file->role, $standard);
            }
        }
        $pairing = Pairing::of($parts, $standard, $choices);

        return new self($files, $parts, $pairing, SetGrouping::of($parts, $pairing, $choices), $standard, $choices, $frames, $maps);
    }

    /** The same, held against what was handed in before. */
    public function since(?LastDelivery $last): self
    {
        return new self($this->files, $this->parts, $this->pairing, $this->sets, $this->standard, $this->choices, $this->frames, $this->maps, $last);
    }

    /** The same, held to other rules: parts are matched by those. */
    public function under(Standard $standard): self
    {
        return self::of($this->files, $standard, $this->choices, $this->maps)->since($this->last);
    }

    /**
     * The same files with other names, or with other roles given to them; nothing is written.
     *
     * @param  array<int, array<string, string>>  $names  file number → part → new name
     * @param  array<int, Role|null>  $roles  file number → role
     */
    public function supposing(array $names, array $roles = []): self
    {
        $files = [];
        foreach ($this->files as $i => $file) {
            $scene = $file->scene;
            if ($scene !== null && isset($names[$i])) {
                $parts = array_map(static fn (Part $part): Part => $part->named($names[$i][$part->name] ?? $part->name), $scene->parts);
                $scene = new Scene($scene->format, $parts, $scene->unit, $scene->upAxis, $scene->remarks, $scene->extras);
            }
            $files[] = new ReadFile($file->path, array_key_exists($i, $roles) ? $roles[$i] : $file->role, $file->sha256, $scene, $file->error);
        }

        return self::of($files, $this->standard, $this->choices, $this->maps);
    }

    /** One of its files by itself, its parts held as among all: nothing is paired. */
    public function ofFile(int $number): self
    {
        $parts = array_values(array_filter($this->parts, static fn (RoledPart $part): bool => $part->file === $number));

        return new self([$this->files[$number]], $parts, Pairing::of([], $this->standard, $this->choices), [], $this->standard, $this->choices, [$this->frames[$number]]);
    }

    /**
     * The side that is still to be handed in: all that is there is sound and of the other one, and asks for it. Null where nothing is waited for.
     */
    public function sideToCome(): ?Role
    {
        $roles = [];
        foreach ($this->files as $file) {
            if ($file->error !== null) {
                return null;
            }
            $role = $file->role ?? RoledPart::roleOfFile($file->path, $this->standard);
            $roles += $role === null ? [] : [$role->value => true];
        }
        foreach ($this->judged() as $part) {
            $roles[$part->role->value ?? ''] = true;
        }
        $asks = array_filter($this->pairing->ties, static fn (Tie $tie): bool => $tie->kind !== TieKind::Self) !== [];
        $has = static fn (Role $role): bool => isset($roles[$role->value]);

        return match (true) {
            isset($roles['']) || ! $asks || $this->judged() === [] => null,
            $has(Role::Low) && ! $has(Role::High) => Role::High,
            $has(Role::High) && ! $has(Role::Low) => Role::Low,
            default => null,
        };
    }

    /**
     * Parts that are judged: not left out, their role not contradicted.
     *
     * @return list<RoledPart>
     */
    public function judged(?Role $role = null): array
    {
        return array_values(array_filter($this->parts, fn (RoledPart $part): bool => ! $part->mixed
            && ($role === null || $part->role === $role) && ! $this->choices->leavesOut($part->base, $part->part->name)));
    }

    public function boundsOf(Role $role): ?Bounds
    {
        return RoledPart::boundsOf($this->judged($role));
    }

    /** The unit of all lengths: what the standard says, else that of the file whose frame all parts are held in; null where neither says one. */
    public function unit(): ?string
    {
        if ($this->standard->unit !== null) {
            return $this->standard->unit;
        }
        $first = null;
        foreach ($this->files as $number => $file) {
            $unit = $file->scene?->unit;
            if ($unit !== null && $this->frames[$number]->isIdentity()) {
                return $unit;
            }
            $first ??= $unit;
        }

        return $first;
    }

    /** D: diagonal of the asset's low-poly bounds; of everything where there is no low poly. */
    public function diagonal(): float
    {
        $bounds = $this->boundsOf(Role::Low) ?? RoledPart::boundsOf($this->parts);

        return $bounds?->diagonal() ?? 0.0;
    }

    /**
     * Size of the high parts over that of the low parts, of those that pair (a part that waits for its other side would change
     * the size of one side only); of all where none pairs. Null where one side is missing or has no size.
     */
    public function sizeRatio(): ?float
    {
        $lows = $highs = [];
        $duplicate = $this->duplicates();
        $single = static fn (RoledPart $part): bool => ! isset($duplicate[spl_object_id($part)]);
        foreach ($this->pairing->ties as $tie) {
            if ($tie->low !== [] && $tie->high !== [] && array_filter([...$tie->low, ...$tie->high], static fn (RoledPart $part): bool => ! $single($part)) === []) {
                array_push($lows, ...$tie->low);
                array_push($highs, ...$tie->high);
            }
        }
        $low = RoledPart::boundsOf($lows === [] ? array_values(array_filter($this->judged(Role::Low), $single)) : $lows)?->diagonal() ?? 0.0;
        $high = RoledPart::boundsOf($highs === [] ? array_values(array_filter($this->judged(Role::High), $single)) : $highs)?->diagonal() ?? 0.0;

        return $low > 0.0 && $high > 0.0 ? $high / $low : null;
    }

    /**
     * Parts that share their name with another of their role: what is said of one by size or rays may be the other's.
     *
     * @return array<int, true> by object number of the part
     */
    public function duplicates(): array
    {
        if ($this->duplicates === null) {
            $groups = [];
            foreach ($this->judged() as $part) {
                $groups[($part->role->value ?? 'file '.$part->file)."\0".$part->part->name][] = $part;
            }
            $this->duplicates = [];
            foreach ($groups as $parts) {
                foreach (count($parts) > 1 ? $parts : [] as $part) {
                    $this->duplicates[spl_object_id($part)] = true;
                }
            }
        }

        return $this->duplicates;
    }

    public function differsInSize(): bool
    {
        $ratio = $this->sizeRatio();
        $limit = $this->standard->limitInForce('unit-mismatch');

        return $ratio !== null && ! $this->standard->isOff('unit-mismatch') && ($ratio > $limit || $ratio < 1 / $limit);
    }

    /** Whether a low part is a card, whose rest is masked out: by its material, or named so in the choices. */
    public function isCard(RoledPart $part): bool
    {
        return $part->part->facts->cutOut || Pattern::anyFits($this->choices->cards, $part->part->name);
    }

    /**
     * The ties of a set that have both sides.
     *
     * @return list<Tie>
     */
    public function tiesOf(BakeSet $set): array
    {
        $own = [];
        foreach ($set->low as $part) {
            $own[spl_object_id($part)] = true;
        }

        return array_values(array_filter($this->pairing->ties, static fn (Tie $tie): bool => $tie->low !== [] && $tie->high !== [] && isset($own[spl_object_id($tie->low[0])])));
    }
}
