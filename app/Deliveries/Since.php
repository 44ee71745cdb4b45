<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Asset\Asset;
use Anvil\Asset\LastDelivery;
use Anvil\Changes\PartChanges;
use Anvil\Geometry\Mesh;
use Anvil\Measures\Kind\Changed;
use Anvil\Measures\Measures;
use Anvil\Measures\NotKnown;
use Anvil\Pairing\RoledPart;
use App\Models\Delivery;
use App\Models\State\DeliveryState;

/**
 * The delivery before one, and what its names became.
 */
final class Since
{
    /** What a delivery is held against, since it was paired. */
    public static function before(Delivery $delivery): ?Delivery
    {
        return $delivery->compared_to === null ? null : Delivery::query()->find($delivery->compared_to);
    }

    /**
     * What it is to be held against: what it was made of here, else the newest before it that was judged and is no exploded layout.
     */
    public static function choose(Delivery $delivery): ?Delivery
    {
        if ($delivery->derived_from !== null) {
            return Delivery::query()->find($delivery->derived_from);
        }

        return Delivery::query()->where('asset_id', $delivery->asset_id)->where('number', '<', $delivery->number)->where('state', DeliveryState::Done)
            ->whereNull('exploded_from')->whereDoesntHave('files', static fn ($files) => $files->where('kind', 'plan'))->orderByDesc('number')->first();
    }

    /** As the core wants it: parts without meshes, each fetched where it is compared. */
    public static function last(Delivery $delivery): ?LastDelivery
    {
        $before = self::before($delivery);
        if ($before === null) {
            return null;
        }
        $stored = new StoredDelivery($before);
        $asset = $stored->alone()->asset;

        return LastDelivery::of($asset, $delivery->derived_from !== null, static fn (RoledPart $part, int $number): Mesh => self::mesh($stored, $asset, $part, $number));
    }

    private static function mesh(StoredDelivery $stored, Asset $asset, RoledPart $part, int $number): Mesh
    {
        return $stored->meshOf($stored->parts()[$number])->placedBy($asset->frames[$part->file]);
    }

    /**
     * What the parts of the last delivery are called now.
     *
     * @return array<string, string> name then → name now; none while it is not known
     */
    public static function renamesOf(Measures $measures): array
    {
        if ($measures->asset->last === null) {
            return [];
        }
        try {
            return PartChanges::renames($measures->ofAsset(Changed::class), $measures->asset->standard);
        } catch (NotKnown) {
            return [];
        }
    }

    /**
     * What names became from one delivery to a later one of the asset, over all between.
     *
     * @return array<string, string> name then → name now
     */
    public static function renames(Delivery $from, Delivery $to): array
    {
        $steps = [];
        for ($at = $to, $i = 0; $at !== null && $at->number > $from->number && $i < 1000; $i++) {
            /** @var array{last: int, renames: array<string, string>}|null $changes */
            $changes = $at->report['changes'] ?? null;
            $steps[] = $changes['renames'] ?? [];
            $at = $changes === null ? null : Delivery::query()->find($changes['last']);
        }
        $out = [];
        foreach (array_reverse($steps) as $step) {
            $out = self::then($out, $step);
        }

        return $out;
    }

    /**
     * @param  array<string, string>  $first
     * @param  array<string, string>  $second
     * @return array<string, string>
     */
    public static function then(array $first, array $second): array
    {
        return array_map(static fn (string $name): string => $second[$name] ?? $name, $first) + $second;
    }
}
