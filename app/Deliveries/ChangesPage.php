<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Changes\PartChange;
use Anvil\Checks\Catalogue;
use Anvil\Checks\Finding;
use Anvil\Checks\Words;
use Anvil\Report\FindingChanges;
use App\Http\Data\ChangesData;
use App\Http\Data\FindingChangeData;
use App\Http\Data\MeasureData;
use App\Http\Data\PartChangeData;
use App\Models\Delivery;
use App\Models\Finding as Row;
use App\Models\State\DeliveryState;

/**
 * What changed since the delivery before: parts, and findings with them.
 */
final class ChangesPage
{
    public static function of(Delivery $delivery): ChangesData
    {
        /** @var array{last: int, isSource: bool, same: int, parts: list<array<mixed>>, renames: array<string, string>}|null $changes */
        $changes = $delivery->report['changes'] ?? null;
        $before = $changes === null ? Since::before($delivery) : Delivery::query()->find($changes['last']);
        if ($changes === null || $before === null || $delivery->state !== DeliveryState::Done) {
            return new ChangesData($before?->number, $before?->id, false, false, [], 0, [], [], [], [], 0, []);
        }
        $asset = (new StoredDelivery($delivery))->alone()->asset;
        $length = static fn (float $value): string => Words::length($value, $asset);
        $parts = array_map(static function (array $one) use ($length): PartChangeData {
            $change = PartChange::ofArray($one);

            return new PartChangeData($change->name, $change->was, $change->role?->value, $change->states, array_map(static fn (string $state): string => self::words($change, $state, $length), $change->states));
        }, $changes['parts']);
        // Waivers that died are told by themselves.
        $rows = array_values($delivery->findings->where('code', '!=', 'waiver-died')->all());
        $then = array_map(FixLists::ofRow(...), array_values($before->findings->where('code', '!=', 'waiver-died')->all()));
        $now = array_map(FixLists::ofRow(...), $rows);
        $found = FindingChanges::of($then, $now, $changes['renames']);
        // Each finding of now by its row: a link leads to it.
        $ids = [];
        foreach ($rows as $i => $row) {
            $ids[spl_object_id($now[$i])] = $row;
        }
        $new = array_map(static fn (Finding $one): FindingChangeData => self::finding($one, null, $ids[spl_object_id($one)] ?? null), $found->new);

        return new ChangesData(
            $before->number, $before->id, $changes['isSource'], true, $parts, $changes['same'],
            array_map(static fn (Finding $one): FindingChangeData => self::finding($one, null, null), $found->gone),
            $new,
            self::both($found->better, $ids), self::both($found->worse, $ids), count($found->same),
            array_values(array_map(static fn (Row $row): FindingChangeData => self::finding(FixLists::ofRow($row), null, $row), $delivery->findings->where('code', 'waiver-died')->all())),
        );
    }

    /**
     * @param  list<array{Finding, Finding}>  $pairs  then and now
     * @param  array<int, Row>  $rows  by object number of the finding
     * @return list<FindingChangeData>
     */
    private static function both(array $pairs, array $rows): array
    {
        return array_map(static fn (array $pair): FindingChangeData => self::finding($pair[1], $pair[0], $rows[spl_object_id($pair[1])] ?? null), $pairs);
    }

    private static function finding(Finding $one, ?Finding $before, ?Row $row): FindingChangeData
    {
        $about = Catalogue::about()[$one->code] ?? null;

        return new FindingChangeData($one->code, $about->title ?? $one->code, $about?->station->value ?? '', $one->severity->value, $one->message, $before?->message, self::measure($one), $before === null ? null : self::measure($before), $row?->id, $one->waived);
    }

    private static function measure(Finding $one): ?MeasureData
    {
        return $one->measure === null ? null : new MeasureData($one->measure->value, $one->measure->limit, $one->measure->unit);
    }

    /**
     * A state with its measure, as people say it.
     *
     * @param  callable(float): string  $length
     */
    public static function words(PartChange $change, string $state, callable $length): string
    {
        $of = static fn (string $key): float => $change->measure[$key] ?? 0.0;
        $share = static fn (string $key): string => Words::percent($of($key)).' of its triangles';

        return match ($state) {
            'renamed' => "renamed, was $change->was",
            'moved' => ($of('distance') > 1e-4 * $of('greatest') ? 'moved by '.$length($of('distance')) : 'moved in place').($of('turn') > 0.001 ? ', turned by '.Words::degrees($of('turn')) : '').(abs($of('factor') - 1) > 1e-5 ? sprintf(', scaled by %.4g', $of('factor')) : ''),
            'reshaped' => $of('greatest') > 0.0 ? 'reshaped: '.Words::percent($of('share')).' of its area, up to '.$length($of('greatest')) : sprintf('other triangles on the same surface: %s before, %s now', number_format($of('wasTriangles')), number_format($of('triangles'))),
            're-unwrapped' => 'other UVs: '.$share('uvShare'),
            're-shaded' => 'other normals: '.$share('shadingShare'),
            'recoloured' => 'other materials or colors: '.$share('colorShare'),
            'added' => 'added',
            'gone' => 'gone',
            default => $state,
        };
    }
}
