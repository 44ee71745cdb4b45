<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Asset\Asset;
use Anvil\Asset\ReadFile;
use Anvil\Cage\HeldCage;
use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\Crossings;
use Anvil\Clearance\SetClearance;
use Anvil\Clearance\WholeBake;
use Anvil\ColorId\IdColors;
use Anvil\Explode\Assembled;
use Anvil\Geometry\MeshHealth;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\SuffixGuess;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Place\QuarterTurn;
use Anvil\Place\TiePlace;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use Anvil\Standard\Standard;
use Anvil\Surface\Facets;
use Anvil\Surface\UvIslands;
use Closure;

/**
 * All that is measured of an asset, each measure computed when somebody asks and once.
 */
final class Measures
{
    private ?IdColors $idColors = null;

    /** @var array<int, UvIslands> by object number of the mesh */
    private array $islands = [];

    /** @var array<int, MeshHealth> by object number of the mesh */
    private array $health = [];

    /** @var array<int, Facets> by object number of the mesh */
    private array $facets = [];

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
     * @param  array<string, SetClearance>  $clearances  by set
     * @param  array<string, string>  $notMeasured  set → why its rays were not shot
     * @param  Assembled|null  $assembled  what it was before it was exploded
     */
    private function __construct(
        public readonly Asset $asset,
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
        return new self(Asset::of($files, $standard, $choices));
    }

    /** The same as an exploded layout of something that was assembled. */
    public function exploded(Assembled $assembled): self
    {
        return new self($this->asset, $this->clearances, $this->notMeasured, $assembled);
    }

    /**
     * The same with its rays shot.
     *
     * @param  Closure(string, int, int): void|null  $progress  set, its number from 1, sets in all
     * @param  int  $workers  processes, this one among them; what is measured is the same
     */
    public function withRays(?Closure $progress = null, int $workers = 1): self
    {
        $start = hrtime(true);
        $turn = $this->quarterTurn();
        $inTurn = hrtime(true) - $start;
        $rays = AssetClearance::of($this->asset, $turn, $progress, $workers, $this->ofParts(...));

        return $this->withClearances($rays->clearances, $rays->notMeasured, ['axis-mismatch' => $inTurn / 1e9, ...$rays->seconds]);
    }

    /**
     * What is measured of each part by itself, before a check asks for it.
     *
     * @return array<string, float> what it took, in seconds, by the check that asks for it first
     */
    private function ofParts(): array
    {
        $seconds = ['mesh-degenerate' => 0.0, 'high-faceted' => 0.0, 'uv-outside' => 0.0];
        foreach ($this->asset->judged() as $part) {
            foreach ([
                'mesh-degenerate' => fn (): MeshHealth => $this->health($part),
                'high-faceted' => fn (): ?Facets => $part->role === Role::High ? $this->facets($part) : null,
                'uv-outside' => fn (): ?UvIslands => $part->role === Role::Low ? $this->islands($part) : null,
            ] as $code => $measure) {
                $start = hrtime(true);
                $measure();
                $seconds[$code] += (hrtime(true) - $start) / 1e9;
            }
        }

        return $seconds;
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
        $out = new self($this->asset, $clearances, $notMeasured, $this->assembled);
        $out->turn = $this->turn;
        $out->suffixGuess = $this->suffixGuess;
        $out->health = $this->health;
        $out->islands = $this->islands;
        $out->facets = $this->facets;
        $out->wasMeasured = true;
        $out->measureSeconds = $measureSeconds;

        return $out;
    }

    /** What was measured for a check before it ran, in seconds: the first check that asks for rays answers for all of them. */
    public function secondsBefore(string $code): float
    {
        return $this->measureSeconds[$code] ?? 0.0;
    }

    public function idColors(): IdColors
    {
        return $this->idColors ??= IdColors::of($this->asset);
    }

    public function islands(RoledPart $part): UvIslands
    {
        return $this->islands[spl_object_id($part->part->mesh)] ??= UvIslands::of($part->part->mesh);
    }

    public function health(RoledPart $part): MeshHealth
    {
        return $this->health[spl_object_id($part->part->mesh)] ??= MeshHealth::of($part->part->mesh, $part->role !== Role::High);
    }

    public function facets(RoledPart $part): Facets
    {
        return $this->facets[spl_object_id($part->part->mesh)] ??= Facets::of($part->part->mesh);
    }

    /** The turn by quarters that would bring the high poly onto the low one; null where there is none. */
    public function quarterTurn(): ?QuarterTurn
    {
        if ($this->turn === null) {
            $this->turn = [QuarterTurn::ofAsset($this->asset)];
        }

        return $this->turn[0];
    }

    /** The studio's own suffixes, where those of the standard fit nothing; null where they fit or none are found. */
    public function suffixGuess(): ?SuffixGuess
    {
        $this->suffixGuess ??= [SuffixGuess::of($this->asset->parts, $this->asset->standard)];

        return $this->suffixGuess[0];
    }

    /**
     * Where names are in trouble: whether they could be done without, all parts baked as one. Null where rays were not shot, the names
     * are sound, or the question does not arise.
     */
    public function wholeBake(): ?WholeBake
    {
        if ($this->whole === null) {
            $troubled = $this->wasMeasured && array_filter($this->asset->pairing->ties, static fn (Tie $tie): bool => $tie->kind === TieKind::Open || $tie->kind === TieKind::Crossed || $tie->troubles !== []) !== [];
            $this->whole = [$troubled ? WholeBake::of($this->asset, $this->quarterTurn()) : null];
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
        return $this->crossings ??= Crossings::of($this->asset->sets);
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
            foreach ($this->asset->sets as $set) {
                if ($set->cage !== [] && $set->low !== []) {
                    $this->heldCages[] = HeldCage::of($this->asset, $set, $this->clearances[$set->name] ?? null);
                }
            }
        }

        return $this->heldCages;
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
