<?php

declare(strict_types=1);

namespace Anvil\Asset;

use Anvil\Geometry\Mesh;
use Anvil\Pairing\RoledPart;
use Closure;

/**
 * What was handed in before: the parts that those of now are held against.
 */
final readonly class LastDelivery
{
    /**
     * @param  list<LastPart>  $parts
     * @param  bool  $isSource  what is judged now was made from it here: nobody forgot anything
     */
    private function __construct(public array $parts, public bool $isSource)
    {
    }

    /**
     * @param  Closure(RoledPart, int): Mesh|null  $mesh  of a part, by its number; null: they are there
     */
    public static function of(Asset $before, bool $isSource = false, ?Closure $mesh = null): self
    {
        $parts = [];
        foreach ($before->parts as $number => $part) {
            if (! $part->mixed && ! $before->choices->leavesOut($part->base, $part->part->name)) {
                $parts[] = new LastPart(
                    $part->part->name, $part->role, $part->base, $part->part->hash(), $part->part->triangleCount(), $part->part->bounds(), $part->part->colors,
                    static fn (): Mesh => $mesh === null ? $part->part->mesh : $mesh($part, $number),
                );
            }
        }

        return new self($parts, $isSource);
    }
}
