<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Geometry\Part;

/**
 * The parts of a file in the order in which they stand there, with what is worn: found again by name, and by which of that name they are.
 *
 * @internal
 */
final class WornParts
{
    /**
     * @param  list<Part>  $parts  of the file
     * @param  list<WornPart>  $worn  in the same order
     * @return list<WornPart|null> null for parts that wear nothing
     */
    public static function inOrder(array $parts, array $worn): array
    {
        $waiting = [];
        foreach ($worn as $one) {
            $waiting[$one->part->part->name][] = $one;
        }

        return array_map(static function (Part $part) use (&$waiting): ?WornPart {
            return isset($waiting[$part->name]) ? array_shift($waiting[$part->name]) : null;
        }, $parts);
    }
}
