<?php

declare(strict_types=1);

namespace Anvil\Measures;

/**
 * A measure whose inputs are hashed without their names: what was kept comes back under the names that they have now, so that renaming
 * computes nothing.
 */
interface Renamable
{
    /**
     * What the inputs are called, in the order in which they are hashed.
     *
     * @return array<string, mixed>
     */
    public function names(Measures $measures, Subject $subject): array;

    /**
     * @param  array<mixed>  $stored  of `toArray`
     * @param  array<string, mixed>  $then  of `names`, when it was computed
     * @param  array<string, mixed>  $now
     * @return array<mixed>
     */
    public function renamed(array $stored, array $then, array $now): array;
}
