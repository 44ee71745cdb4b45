<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\SetClearance;
use Anvil\ColorId\IdColors;
use Anvil\Geometry\Bounds;
use Anvil\Pairing\RoledPart;
use Anvil\Proof\PageRuns;
use Anvil\Proof\ProofPage;
use Anvil\Proof\RetouchTexels;
use Anvil\Proof\TrialInputs;
use Anvil\Rays\SetSurfaces;
use Anvil\Sets\BakeSet;
use Anvil\Spatial\TriangleTree;

/**
 * What several measures of an asset need in common, made when it is first asked for.
 */
final class Common
{
    /** Triangles of a set from which on what was made of it is not kept longer than it is needed. */
    private const LARGE = 1_000_000;

    /** @var array<string, SetSurfaces>|null */
    private ?array $surfaces = null;

    /** The set that is measured. */
    private ?BakeSet $at = null;

    /** @var array{TriangleTree, list<array{int, string}>}|null */
    private ?array $assembledLow = null;

    private ?string $hashOfStaying = null;

    /** @var array<string, true>|null */
    private ?array $allSeen = null;

    /** @var array<string, int>|null */
    private ?array $samples = null;

    /** @var array<string, Bounds|null> by set */
    private array $targets = [];

    /** @var list<ProofPage>|null */
    private ?array $pages = null;

    /** @var array<int, PageRuns> whose each texel of a page is */
    private array $owners = [];

    public function __construct(private readonly Measures $measures)
    {
    }

    /**
     * @return list<ProofPage> with low parts on them
     */
    public function pages(): array
    {
        return $this->pages ??= ProofPage::of($this->measures->asset);
    }

    /** Triangle of a page at each texel of its retouch mask. */
    public function owners(int $page): PageRuns
    {
        return $this->owners[$page] ??= PageRuns::of($this->pages()[$page]->uvs, RetouchTexels::size($this->measures->asset->standard->mapSize));
    }

    /** For trial bakes of all sets. */
    public function trialInputs(): TrialInputs
    {
        return $this->inputs($this->measures->clearances(), $this->measures->notMeasured());
    }

    /** For trial bakes of one set: of the others nothing need be known. */
    public function trialInputsOf(BakeSet $set): TrialInputs
    {
        $rays = $this->measures->clearanceOf($set);

        return $this->inputs($rays === null ? [] : [$set->name => $rays], []);
    }

    /**
     * @param  array<string, SetClearance>  $clearances
     * @param  array<string, string>  $notMeasured
     */
    private function inputs(array $clearances, array $notMeasured): TrialInputs
    {
        return new TrialInputs(
            $this->measures->asset, $clearances, $notMeasured, $this->surfaces(),
            fn (): IdColors => $this->measures->ofAsset(Kind\Colors::class), fn (): array => $this->measures->ofAsset(Kind\Layout::class)->vectors ?? [],
        );
    }

    /**
     * @return array<string, SetSurfaces> of all sets
     */
    public function surfaces(): array
    {
        if ($this->surfaces === null) {
            $this->surfaces = [];
            foreach ($this->measures->asset->sets as $set) {
                $this->surfaces[$set->name] = SetSurfaces::of($set, $this->measures->asset->standard->rays->smooth);
            }
        }

        return $this->surfaces;
    }

    /** Bounds of what the rays of a set are to meet: asked of every set by every other. */
    public function boundsOfTarget(BakeSet $set): ?Bounds
    {
        if (! array_key_exists($set->name, $this->targets)) {
            $this->targets[$set->name] = RoledPart::boundsOf($set->target());
        }

        return $this->targets[$set->name];
    }

    /** What the trees of the set before take is given back, where that was a large one. */
    public function goTo(Subject $subject): void
    {
        $set = $this->at;
        $this->at = $subject->scope === Scope::Set ? $subject->ofSet() : null;
        if ($set !== null && $set->name !== $this->at?->name && isset($this->surfaces[$set->name]) && $this->surfaces[$set->name]->triangleCount() > self::LARGE) {
            $this->surfaces[$set->name] = SetSurfaces::of($set, $this->measures->asset->standard->rays->smooth);
        }
    }

    /**
     * The low poly that hides what lies behind it, and the first triangle in it of each set.
     *
     * @return array{TriangleTree, list<array{int, string}>}
     */
    public function assembledLow(): array
    {
        return $this->assembledLow ??= AssetClearance::assembled($this->measures->asset, $this->surfaces());
    }

    /** Whether all of a set counts as seen: what covers it comes off in use. */
    public function isAllSeen(BakeSet $set): bool
    {
        $this->allSeen ??= AssetClearance::allSeen($this->measures->asset);

        return isset($this->allSeen[$set->name]);
    }

    /**
     * Which low parts of a set are cards: masked or blended by their material, or named so in the choices.
     *
     * @return array<int, true> numbers among the set's low parts
     */
    public function cardsOf(BakeSet $set): array
    {
        $out = [];
        foreach ($set->low as $number => $part) {
            if ($this->measures->asset->isCard($part)) {
                $out[$number] = true;
            }
        }

        return $out;
    }

    /** Of the low poly that hides what lies behind it. */
    public function hashOfStaying(): string
    {
        return $this->hashOfStaying ??= hash('sha256', implode(' ', array_merge(...array_map(static fn (BakeSet $set): array => Measures::hashes($set->low), AssetClearance::staying($this->measures->asset)))));
    }

    /** How many rays a set is given of those of the asset. */
    public function samplesOf(BakeSet $set): int
    {
        $this->samples ??= AssetClearance::sampleCounts($this->measures->asset, function (RoledPart $part): array {
            $contents = $this->measures->ofPart(Kind\Contents::class, $part);

            return [$contents->uvArea ?? 0.0, $contents->area ?? 0.0];
        });

        return $this->samples[$set->name] ?? 0;
    }
}
