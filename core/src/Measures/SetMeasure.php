<?php

declare(strict_types=1);

namespace Anvil\Measures;

/**
 * A measure of one bake set among the others.
 *
 * @template T
 *
 * @implements Measure<T>
 */
abstract class SetMeasure implements Measure
{
    public function scope(): Scope
    {
        return Scope::Set;
    }
}
