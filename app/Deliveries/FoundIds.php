<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\ColorId\IdColor;
use Anvil\Geometry\DeltaE00;
use Anvil\Measures\Kind\Colors;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;

/**
 * The IDs that were handed in with a delivery, as they are kept in its report.
 */
final class FoundIds
{
    /**
     * @return array<string, mixed>
     */
    public static function of(Measures $measures): array
    {
        $ids = $measures->ofAsset(Colors::class);
        $all = array_values(array_slice($ids->colors, 0, 500));
        $labs = array_map(static fn (IdColor $id): array => $id->color->lab(), $all);
        $colors = [];
        $least = null;
        foreach ($all as $i => $id) {
            $nearest = null;
            $nearestName = null;
            foreach ($labs as $j => $lab) {
                $distance = $i === $j ? INF : DeltaE00::of($labs[$i], $lab);
                if ($distance < ($nearest ?? INF)) {
                    $nearest = $distance;
                    $nearestName = $all[$j]->name();
                }
            }
            $least = $nearest === null ? $least : min($least ?? INF, $nearest);
            $colors[] = [
                'hex' => $id->color->hex(), 'name' => $id->name(), 'names' => $id->names,
                'parts' => array_values(array_unique(array_map(static fn ($part): string => $part->part->name, $id->parts))),
                'nearest' => $nearest, 'nearestName' => $nearestName,
            ];
        }

        return [
            'source' => $ids->source, 'colors' => $colors, 'least' => $least,
            'missing' => array_map(static fn (array $row): string => $row['part']->part->name, $ids->missing),
            'canGive' => $measures->asset->judged(Role::High) !== [],
        ];
    }
}
