<?php

declare(strict_types=1);

namespace Anvil\Inspection;

use Anvil\Asset\Frames;
use Anvil\Asset\ReadFile;
use Anvil\Cage\HeldCage;
use Anvil\Clearance\Crossings;
use Anvil\Clearance\SetClearance;
use Anvil\Clearance\WholeBake;
use Anvil\ColorId\IdColors;
use Anvil\Explode\Assembled;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Matrix;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshHealth;
use Anvil\Geometry\Part;
use Anvil\Geometry\Scene;
use Anvil\Pairing\Pairing;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixGuess;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Place\QuarterTurn;
use Anvil\Place\SizeFactor;
use Anvil\Place\TiePlace;
use Anvil\Sets\BakeSet;
use Anvil\Sets\SetGrouping;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Surface\UvIslands;

/**
 * All that is known of an asset before the checks read it: files, parts, ties, sets and measures. Measures are computed once.
 */
final class Inspection
{
    private ?IdColors $idColors = null;

    /** @var array<int, true>|null */
    private ?array $duplicates = null;

    /** @var array<int, UvIslands> by object number of the mesh */
    private array $islands = [];

    /** @var array<int, MeshHealth> by object number of the mesh */
    private array $health = [];

    /** @var array{QuarterTurn|null}|null once it was looked for */
    private ?array $turn = null;

    /** @var array{SuffixGuess|null}|null once it was looked for */
    private ?array $suffixGuess = null;

    /** @var array{WholeBake|null}|null once it was measured */
    private ?array $whole = null;

    /** @var array<string, float> seconds that measures took before any check ran, by the check that they are told under */
    private array $measureSeconds = [];

    private bool $wasMeasured = false;

    /** @var list<HeldCage>|null */
    private ?array $heldCages = null;

    /** @var list<array{set: string, other: string, count: int, where: list<array{float, float, float}>}>|null */
    private ?array $crossings = null;

    /**
     * @param  list<ReadFile>  $files
     * @param  list<RoledPart>  $parts
     * @param  list<BakeSet>  $sets
     * @param  list<Matrix>  $frames  of each file: from its own unit and axes to those that all parts are held in
     * @param  array<string, SetClearance>  $clearances  by set
     * @param  array<string, string>  $notMeasured  set → why its rays were not shot
     */
    private function __construct(
        public readonly array $files,
        public readonly array $parts,
        public readonly Pairing $pairing,
        public readonly array $sets,
        public readonly Standard $standard,
        public readonly Choices $choices,
        public readonly array $frames,
        public readonly array $clearances = [],
        public readonly array $notMeasured = [],
        public readonly ?Assembled $assembled = null,
    ) {
    }

    /**
     * @param  list<ReadFile>  $files
     */
    public static function of(array $files, Standard $standard, Choices $choices): self
    {
        $parts = [];
        $frames = Frames::of($files, $standard);
        foreach ($files as $i => $file) {
            foreach ($file->scene->parts ?? [] as $part) {
                $parts[] = RoledPart::of($i, $file->path, $part->placedBy($frames[$i]), $file->role, $standard);
            }
        }
        $pairing = Pairing::of($parts, $standard, $choices);

        return new self($files, $parts, $pairing, SetGrouping::of($parts, $pairing, $choices), $standard, $choices, $frames);
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

        return self::of($files, $this->standard, $this->choices);
    }

    /** The same as an exploded layout of something that was assembled. */
    public function exploded(Assembled $assembled): self
    {
        return new self($this->files, $this->parts, $this->pairing, $this->sets, $this->standard, $this->choices, $this->frames, $this->clearances, $this->notMeasured, $assembled);
    }

    /**
     * The same with its rays measured.
     *
     * @param  array<string, SetClearance>  $clearances
     * @param  array<string, string>  $notMeasured
     * @param  array<string, float>  $measureSeconds  what measuring took, by the check that it is told under
     */
    public function withClearances(array $clearances, array $notMeasured, array $measureSeconds = []): self
    {
        $out = new self($this->files, $this->parts, $this->pairing, $this->sets, $this->standard, $this->choices, $this->frames, $clearances, $notMeasured, $this->assembled);
        $out->turn = $this->turn;
        $out->suffixGuess = $this->suffixGuess;
        $out->health = $this->health;
        $out->islands = $this->islands;
        $out->wasMeasured = true;
        $out->measureSeconds = $measureSeconds;

        return $out;
    }

    /** What was measured for a check before it ran, in seconds: the first check that asks for rays answers for all of them. */
    public function secondsBefore(string $code): float
    {
        return $this->measureSeconds[$code] ?? 0.0;
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
        $limit = $this->standard->limit('unit-mismatch', 2.0);

        return $ratio !== null && ! $this->standard->isOff('unit-mismatch') && ($ratio > $limit || $ratio < 1 / $limit);
    }

    public function idColors(): IdColors
    {
        return $this->idColors ??= IdColors::of($this);
    }

    public function islands(RoledPart $part): UvIslands
    {
        return $this->islands[spl_object_id($part->part->mesh)] ??= UvIslands::of($part->part->mesh);
    }

    public function health(RoledPart $part): MeshHealth
    {
        return $this->health[spl_object_id($part->part->mesh)] ??= MeshHealth::of($part->part->mesh, $part->role !== Role::High);
    }

    /** The turn by quarters that would bring the high poly onto the low one; null where there is none. */
    public function quarterTurn(): ?QuarterTurn
    {
        if ($this->turn === null) {
            $ratio = $this->sizeRatio();
            $mesh = static fn (RoledPart $part): Mesh => $part->part->mesh;
            $this->turn = [$ratio === null || $this->standard->isOff('axis-mismatch') ? null : QuarterTurn::of(
                array_map($mesh, $this->judged(Role::Low)), array_map($mesh, $this->judged(Role::High)), $this->differsInSize() ? 1 / SizeFactor::mending($ratio) : 1.0,
            )];
        }

        return $this->turn[0];
    }

    /** The studio's own suffixes, where those of the standard fit nothing; null where they fit or none are found. */
    public function suffixGuess(): ?SuffixGuess
    {
        $this->suffixGuess ??= [SuffixGuess::of($this->parts, $this->standard)];

        return $this->suffixGuess[0];
    }

    /**
     * Where names are in trouble: whether they could be done without, all parts baked as one. Null where rays were not shot, the names
     * are sound, or the question does not arise.
     */
    public function wholeBake(): ?WholeBake
    {
        if ($this->whole === null) {
            $troubled = $this->wasMeasured && array_filter($this->pairing->ties, static fn (Tie $tie): bool => $tie->kind === TieKind::Open || $tie->kind === TieKind::Crossed || $tie->troubles !== []) !== [];
            $this->whole = [$troubled ? WholeBake::of($this) : null];
        }

        return $this->whole[0];
    }

    /**
     * Sets whose low polys go through each other.
     *
     * @return list<array{set: string, other: string, count: int, where: list<array{float, float, float}>}>
     */
    public function crossings(): array
    {
        return $this->crossings ??= Crossings::of($this->sets);
    }

    /**
     * The cages that were handed in, set by set.
     *
     * @return list<HeldCage>
     */
    public function heldCages(): array
    {
        if ($this->heldCages === null) {
            $this->heldCages = [];
            foreach ($this->sets as $set) {
                if ($set->cage !== [] && $set->low !== []) {
                    $this->heldCages[] = HeldCage::of($this, $set, $this->clearances[$set->name] ?? null);
                }
            }
        }

        return $this->heldCages;
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

    /** How low and high of a tie lie on each other; null where that was not measured. */
    public function placeOf(Tie $tie): ?TiePlace
    {
        foreach ($this->clearances as $clearance) {
            foreach ($clearance->places as $place) {
                if ($place->base === $tie->base && $tie->low !== [] && $place->low === $tie->low[0]->part->name) {
                    return $place;
                }
            }
        }

        return null;
    }
}
