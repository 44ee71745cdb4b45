<?php

declare(strict_types=1);

namespace Anvil\Measures;

use Anvil\Asset\Asset;
use Anvil\Pairing\RoledPart;

/**
 * Something that is computed of a part, a set or an asset. One class in `Kind/` each; the catalogue finds it there.
 *
 * @template T what comes out
 */
interface Measure
{
    /** Lower case with hyphens; part of the hash under which a result is kept. */
    public function name(): string;

    public function scope(): Scope;

    /** Raised when other numbers come out of the same files, so that what was kept before is not taken for them. */
    public function revision(): int;

    /** What is being done, in words: "shooting rays of winch". */
    public function words(Subject $subject): string;

    /**
     * The measures that this one reads; they are there before it.
     *
     * @return list<class-string<Measure<*>>>
     */
    public function reads(): array;

    /**
     * What it is computed of in an asset.
     *
     * @return list<Subject>
     */
    public function subjects(Measures $measures): array;

    /**
     * The parts whose meshes are read.
     *
     * @return list<RoledPart>
     */
    public function meshes(Measures $measures, Subject $subject): array;

    /**
     * All that the result depends on, hashes in place of meshes, as JSON can hold it: the same inputs give the same result.
     *
     * @return array<mixed>
     */
    public function inputs(Measures $measures, Subject $subject): array;

    /**
     * @return T
     */
    public function compute(Measures $measures, Subject $subject): mixed;

    /**
     * For a store, or another process.
     *
     * @param  T  $result
     * @return array<mixed>|null
     */
    public function toArray(mixed $result, Measures $measures, Subject $subject): ?array;

    /**
     * @param  array<mixed>|null  $stored  of `toArray`
     * @return T
     */
    public function ofArray(?array $stored, Measures $measures, Subject $subject): mixed;
}
