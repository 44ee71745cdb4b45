<?php

declare(strict_types=1);

namespace Anvil\Inspection;

use Anvil\Clearance\SetClearance;
use Anvil\ColorId\IdColors;
use Anvil\Geometry\Bounds;
use Anvil\Pairing\Pairing;
use Anvil\Pairing\RoledPart;
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

    /** @var array<int, UvIslands> by object number of the mesh */
    private array $islands = [];

    /**
     * @param  list<ReadFile>  $files
     * @param  list<RoledPart>  $parts
     * @param  list<BakeSet>  $sets
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
        public readonly array $clearances = [],
        public readonly array $notMeasured = [],
    ) {
    }

    /**
     * @param  list<ReadFile>  $files
     */
    public static function of(array $files, Standard $standard, Choices $choices): self
    {
        $parts = [];
        foreach ($files as $i => $file) {
            foreach ($file->scene->parts ?? [] as $part) {
                $parts[] = RoledPart::of($i, $file->path, $part, $file->role, $standard);
            }
        }
        $pairing = Pairing::of($parts, $standard, $choices);

        return new self($files, $parts, $pairing, SetGrouping::of($parts, $pairing, $choices), $standard, $choices);
    }

    /**
     * The same with its rays measured.
     *
     * @param  array<string, SetClearance>  $clearances
     * @param  array<string, string>  $notMeasured
     */
    public function withClearances(array $clearances, array $notMeasured): self
    {
        return new self($this->files, $this->parts, $this->pairing, $this->sets, $this->standard, $this->choices, $clearances, $notMeasured);
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
        foreach ($this->pairing->ties as $tie) {
            if ($tie->low !== [] && $tie->high !== []) {
                array_push($lows, ...$tie->low);
                array_push($highs, ...$tie->high);
            }
        }
        $low = RoledPart::boundsOf($lows === [] ? $this->judged(Role::Low) : $lows)?->diagonal() ?? 0.0;
        $high = RoledPart::boundsOf($highs === [] ? $this->judged(Role::High) : $highs)?->diagonal() ?? 0.0;

        return $low > 0.0 && $high > 0.0 ? $high / $low : null;
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
}
