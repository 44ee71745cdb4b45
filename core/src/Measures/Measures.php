<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Asset\Asset;
use Anvil\Asset\GivenMap;
use Anvil\Asset\LastDelivery;
use Anvil\Asset\ReadFile;
use Anvil\Cage\HeldCage;
use Anvil\Clearance\AssetClearance;
use Anvil\Clearance\NotMeasured;
use Anvil\Clearance\SetClearance;
use Anvil\Explode\Assembled;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Place\QuarterTurn;
use Anvil\Place\TiePlace;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Choices;
use Anvil\Standard\Standard;
use Anvil\Version;
use LogicException;

/**
 * All that is measured of an asset: each measure of each subject when somebody asks for it, and once. Where there is a store, what was kept under
 * the same inputs is taken from it; where nothing is computed, only that.
 */
final class Measures
{
    /** @var array<string, array<string, mixed>> class → subject → result */
    private array $results = [];

    /** @var array<string, array<string, string>> class → subject → hash of its inputs */
    private array $keys = [];

    /** @var array<string, float> seconds that computing took, by class */
    private array $seconds = [];

    /** @var array<string, true> classes that were asked for since `asked` told them */
    private array $asked = [];

    private int $depth = 0;

    private ?Common $common = null;

    /** @var array<int, int>|null part → its number, by object number */
    private ?array $numbers = null;

    /** @var array<string, BakeSet>|null */
    private ?array $sets = null;

    /** @var array<int, BakeSet>|null the whole set of each low and high part, by object number */
    private ?array $setOf = null;

    /** @var array<string, string>|null */
    private ?array $notMeasured = null;

    /** @var array<int, self> each file by itself, once for all checks */
    private array $files = [];

    /** @var array<string, bool> set → whether its rays and places are known */
    private array $isMeasured = [];

    /** @var array<string, true> keys whose results came out of the store */
    private array $known = [];

    /**
     * @param  Assembled|null  $assembled  what it was before it was exploded
     * @param  bool  $computes  false: what is not in the store is not known
     * @param  array{float|null, bool}  $layout  clearance of an exploded layout in file units (null: 2 % of D), and whether all sets are moved apart
     * @param  bool  $soFar  of sets, only those are told of that are measured
     */
    private function __construct(
        public readonly Asset $asset,
        public readonly ?Assembled $assembled = null,
        private readonly ?MeasureStore $store = null,
        private readonly bool $computes = true,
        public readonly array $layout = [null, false],
        private readonly bool $soFar = false,
    ) {
    }

    /**
     * @param  list<ReadFile>  $files
     * @param  list<GivenMap>  $maps  that came back from a baker
     */
    public static function of(array $files, Standard $standard, Choices $choices, array $maps = []): self
    {
        return new self(Asset::of($files, $standard, $choices, $maps));
    }

    /** The same as an exploded layout of something that was assembled. */
    public function exploded(Assembled $assembled): self
    {
        return new self($this->asset, $assembled, $this->store, $this->computes, $this->layout);
    }

    /** The same, held against what was handed in before. */
    public function since(?LastDelivery $last): self
    {
        return new self($this->asset->since($last), $this->assembled, $this->store, $this->computes, $this->layout);
    }

    /** The same files, held to other rules: parts are matched by those, and what goes by them is measured anew. */
    public function under(Standard $standard): self
    {
        return new self($this->asset->under($standard), $this->assembled, $this->store, $this->computes, $this->layout);
    }

    /** The same with a store. */
    public function keptIn(MeasureStore $store, bool $computes): self
    {
        return new self($this->asset, $this->assembled, $store, $computes, $this->layout);
    }

    /** What is known of it by now, while the rest is still measured: sets that are not are passed over. */
    public function soFar(): self
    {
        return new self($this->asset, $this->assembled, $this->store, false, $this->layout, true);
    }

    /** One of its files by itself, in the frame of all: what is known of that one. */
    public function ofFile(int $number): self
    {
        return $this->files[$number] ??= new self($this->asset->ofFile($number), null, $this->store, $this->computes, $this->layout);
    }

    /** The same, moved apart by other rules than the usual ones. */
    public function laidOut(?float $clearance, bool $all): self
    {
        return new self($this->asset, $this->assembled, $this->store, $this->computes, [$clearance, $all]);
    }

    /**
     * @template T
     *
     * @param  class-string<Measure<T>>  $class
     * @return T
     *
     * @throws NotKnown where it is not in the store, and nothing is computed or a mesh that it needs was left out
     */
    public function get(string $class, Subject $subject): mixed
    {
        if ($this->depth === 0) {
            $this->asked[$class] = true;
        }
        if (array_key_exists($subject->key, $this->results[$class] ?? [])) {
            /** @var T */
            return $this->results[$class][$subject->key];
        }
        $measure = MeasureCatalogue::get($class);
        $this->depth++;
        try {
            return $this->results[$class][$subject->key] = $this->found($measure, $subject);
        } finally {
            $this->depth--;
        }
    }

    /**
     * @template T
     *
     * @param  Measure<T>  $measure
     * @return T
     */
    private function found(Measure $measure, Subject $subject): mixed
    {
        $key = null;
        if ($this->store !== null) {
            $key = $this->key($measure, $subject);
            $kept = $this->store->find($key);
            if ($kept !== null) {
                $stored = $kept['stored'];
                if ($measure instanceof Renamable && $stored !== null && $kept['names'] !== null) {
                    $stored = $measure->renamed($stored, $kept['names'], $measure->names($this, $subject));
                }
                $this->known["{$measure->name()} $subject->key"] = true;

                return $measure->ofArray($stored, $this, $subject);
            }
            if (! $this->computes) {
                throw NotKnown::of($measure->name(), $subject);
            }
        }
        foreach ($measure->meshes($this, $subject) as $part) {
            if ($part->part->mesh->triangles === [] && $part->part->triangleCount() > 0) {
                // Of a mesh that was left out nothing is said.
                throw NotKnown::of($measure->name(), $subject);
            }
        }
        $start = hrtime(true);
        $stored = $measure->toArray($measure->compute($this, $subject), $this, $subject);
        $this->took($measure::class, (hrtime(true) - $start) / 1e9);
        if ($key !== null) {
            $this->store?->keep($key, $measure->name(), $stored, $measure instanceof Renamable ? $measure->names($this, $subject) : null);
        }

        // What comes out is the same whether it was computed here, by another process, or kept.
        return $measure->ofArray($stored, $this, $subject);
    }

    /**
     * The hash of all that a result depends on.
     *
     * @param  Measure<*>  $measure
     *
     * @throws NotKnown where a result that it depends on is not known
     */
    public function key(Measure $measure, Subject $subject): string
    {
        $this->depth++;
        try {
            return $this->keys[$measure::class][$subject->key] ??= hash('sha256', json_encode([$measure->name(), $measure->revision(), Version::CORE, $measure->inputs($this, $subject)], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE | JSON_PRESERVE_ZERO_FRACTION));
        } finally {
            $this->depth--;
        }
    }

    public function isKept(): bool
    {
        return $this->store !== null;
    }

    /** Whether a result came out of the store. */
    public function wasKnown(string $measure, Subject $subject): bool
    {
        return isset($this->known["$measure $subject->key"]);
    }

    /**
     * Takes over what another process computed.
     *
     * @param  array<mixed>|null  $stored
     */
    public function take(Task $task, ?array $stored, float $seconds): void
    {
        $this->results[$task->measure::class][$task->subject->key] = $task->measure->ofArray($stored, $this, $task->subject);
        $this->took($task->measure::class, $seconds);
    }

    private function took(string $class, float $seconds): void
    {
        $this->seconds[$class] = ($this->seconds[$class] ?? 0.0) + $seconds;
    }

    /**
     * @return array<string, float> what computing took, by class
     */
    public function seconds(): array
    {
        return $this->seconds;
    }

    /**
     * @param  array<string, float>  $seconds  of `seconds`
     */
    public function resetSeconds(array $seconds): void
    {
        $this->seconds = $seconds;
    }

    /** What computing a measure took, in seconds, all subjects together. */
    public function secondsOf(string $class): float
    {
        return $this->seconds[$class] ?? 0.0;
    }

    /** Whether a measure was computed of anything. */
    public function has(string $class): bool
    {
        return isset($this->results[$class]);
    }

    /**
     * The measures that were asked for from outside since this was asked last.
     *
     * @return list<string> classes
     */
    public function asked(): array
    {
        $asked = array_keys($this->asked);
        $this->asked = [];

        return $asked;
    }

    /** What several measures need. */
    public function common(): Common
    {
        return $this->common ??= new Common($this);
    }

    public function subject(RoledPart $part): Subject
    {
        if ($this->numbers === null) {
            $this->numbers = [];
            foreach ($this->asset->parts as $number => $one) {
                $this->numbers[spl_object_id($one)] = $number;
            }
        }

        return Subject::part($this->numbers[spl_object_id($part)], $part);
    }

    /** The subject of a key. */
    public function subjectOf(Scope $scope, string $key): Subject
    {
        return match ($scope) {
            Scope::Part => Subject::part((int) $key, $this->asset->parts[(int) $key]),
            Scope::Set => Subject::set($this->set($key) ?? throw new LogicException("there is no set $key")),
            Scope::Asset => Subject::asset(),
        };
    }

    /**
     * @template T
     *
     * @param  class-string<Measure<T>>  $class
     * @return T
     */
    public function ofPart(string $class, RoledPart $part): mixed
    {
        return $this->get($class, $this->subject($part));
    }

    /**
     * @template T
     *
     * @param  class-string<Measure<T>>  $class
     * @return T
     */
    public function ofSet(string $class, BakeSet $set): mixed
    {
        return $this->get($class, Subject::set($set));
    }

    /**
     * @template T
     *
     * @param  class-string<Measure<T>>  $class
     * @return T
     */
    public function ofAsset(string $class): mixed
    {
        return $this->get($class, Subject::asset());
    }

    /**
     * @param  list<RoledPart>  $parts
     * @return list<string>
     */
    public static function hashes(array $parts): array
    {
        return array_map(static fn (RoledPart $part): string => $part->part->hash(), $parts);
    }

    public function set(string $name): ?BakeSet
    {
        if ($this->sets === null) {
            $this->sets = [];
            foreach ($this->asset->sets as $set) {
                $this->sets[$set->name] = $set;
            }
        }

        return $this->sets[$name] ?? null;
    }

    /**
     * @return list<BakeSet> those with something to shoot from and at
     */
    public function wholeSets(): array
    {
        $all = array_values(array_filter($this->asset->sets, static fn (BakeSet $set): bool => $set->isWhole()));

        // What is known of all sets together hangs on all of them.
        return $this->soFar && $this->depth === 0 ? array_values(array_filter($all, $this->isMeasured(...))) : $all;
    }

    /**
     * @return int whole sets that are not measured yet, while others are
     */
    public function setsToCome(): int
    {
        return $this->soFar ? count(array_filter($this->asset->sets, fn (BakeSet $set): bool => $set->isWhole() && ! $this->isMeasured($set))) : 0;
    }

    /** Whether rays and places of a set are known. */
    private function isMeasured(BakeSet $set): bool
    {
        return $this->isMeasured[$set->name] ??= $this->isKnown(Kind\Rays::class, $set) && $this->isKnown(Kind\Places::class, $set);
    }

    /**
     * @template T
     *
     * @param  class-string<Measure<T>>  $class
     */
    private function isKnown(string $class, BakeSet $set): bool
    {
        $this->depth++;
        try {
            $this->get($class, Subject::set($set));

            return true;
        } catch (NotKnown) {
            return false;
        } finally {
            $this->depth--;
        }
    }

    /** The whole set that a part is a low or high part of. */
    public function setOf(RoledPart $part): ?BakeSet
    {
        if ($this->setOf === null) {
            $this->setOf = [];
            foreach ($this->wholeSets() as $set) {
                foreach ([...$set->low, ...$set->high] as $one) {
                    $this->setOf[spl_object_id($one)] = $set;
                }
            }
        }

        return $this->setOf[spl_object_id($part)] ?? null;
    }

    /** Triangles of the set that has most, low and high together. */
    public function largestSet(): int
    {
        return max([0, ...array_map(static fn (BakeSet $set): int => RoledPart::triangles([...$set->low, ...$set->target()]), $this->asset->sets)]);
    }

    /**
     * What the rays of each set met, of those that were shot.
     *
     * @return array<string, SetClearance> by set
     */
    public function clearances(): array
    {
        $out = [];
        foreach ($this->wholeSets() as $set) {
            $one = $this->ofSet(Kind\Rays::class, $set);
            if ($one instanceof SetClearance) {
                $out[$set->name] = $one;
            }
        }

        return $out;
    }

    public function clearanceOf(BakeSet $set): ?SetClearance
    {
        $one = $set->isWhole() && (! $this->soFar || $this->depth > 0 || $this->isMeasured($set)) ? $this->ofSet(Kind\Rays::class, $set) : null;

        return $one instanceof SetClearance ? $one : null;
    }

    /**
     * @return array<string, string> set → why its rays were not shot
     */
    public function notMeasured(): array
    {
        $out = [];
        foreach ($this->wholeSets() as $set) {
            $one = $this->ofSet(Kind\Rays::class, $set);
            if ($one instanceof NotMeasured) {
                $out[$set->name] = $one->reason;
            }
        }

        return $out;
    }

    /** Why the rays of a set are not to be shot; null where they are. */
    public function refusal(BakeSet $set): ?string
    {
        $turn = $this->ofAsset(Kind\Turn::class);
        $this->notMeasured ??= AssetClearance::notMeasured($this->asset, $turn);

        return $this->notMeasured[$set->name] ?? null;
    }

    /** Why low and high of a set are not held against each other; null where they are. */
    public function unplaced(BakeSet $set): ?string
    {
        $refusal = $this->refusal($set);
        if ($refusal === null && array_sum(array_map(fn (RoledPart $part): float => $this->ofPart(Kind\Contents::class, $part)->area ?? 0.0, $set->low)) <= 0.0) {
            return AssetClearance::NO_AREA;
        }

        return $refusal;
    }

    /**
     * @param  string  $set  a whole one
     * @return list<TiePlace> of its ties
     */
    public function placesOf(string $set): array
    {
        $one = $this->set($set);

        return $one === null ? [] : $this->ofSet(Kind\Places::class, $one);
    }

    /** How low and high of a tie lie on each other; null where that was not measured. */
    public function placeOf(Tie $tie): ?TiePlace
    {
        $set = $tie->low === [] ? null : $this->setOf($tie->low[0]);
        foreach ($set === null ? [] : $this->ofSet(Kind\Places::class, $set) as $place) {
            if ($place->base === $tie->base && $place->low === $tie->low[0]->part->name) {
                return $place;
            }
        }

        return null;
    }

    /**
     * The cages that were handed in, set by set.
     *
     * @return list<HeldCage>
     */
    public function heldCages(): array
    {
        return array_map(fn (Subject $subject): HeldCage => $this->get(Kind\Cage::class, $subject), MeasureCatalogue::get(Kind\Cage::class)->subjects($this));
    }

    public function quarterTurn(): ?QuarterTurn
    {
        return $this->ofAsset(Kind\Turn::class);
    }
}
