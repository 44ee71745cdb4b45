<?php

declare(strict_types=1);

namespace App\Deliveries;

use App\Http\Data\AssetRowData;
use App\Http\Data\FixStateData;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\State\MakingState;
use Illuminate\Database\Eloquent\Builder as EloquentBuilder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\Relation;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * A page of the rack, searched and counted in the database: each asset by its newest delivery.
 */
final readonly class Rack
{
    public const PAGE = 100;

    /** What is read of a delivery: all but its report, which is large. */
    private const COLUMNS = ['id', 'asset_id', 'number', 'standard_version', 'state', 'step', 'run', 'verdict', 'waits_for', 'blockers', 'cautions', 'notes', 'summary', 'checked_at', 'created_at'];

    /**
     * @param  string  $find  letters in the name of the asset or of one of its parts; empty for all
     * @param  'all'|'blocked'|'ready'  $verdict
     */
    public function __construct(private string $find = '', private string $verdict = 'all')
    {
    }

    /**
     * @return array{total: int, ready: int, blocked: int, computing: int} of all assets, whatever is looked for
     */
    public function counts(): array
    {
        $row = $this->newest()->selectRaw("count(*) as total, coalesce(sum(deliveries.verdict = 'ready'), 0) as ready, coalesce(sum(deliveries.verdict = 'blocked'), 0) as blocked, coalesce(sum(deliveries.state not in ('done', 'failed', 'cancelled')), 0) as computing")->first();
        $count = static fn (string $key): int => is_numeric($row->{$key} ?? null) ? (int) $row->{$key} : 0;

        return ['total' => $count('total'), 'ready' => $count('ready'), 'blocked' => $count('blocked'), 'computing' => $count('computing')];
    }

    /** How many assets fit what is looked for. */
    public function fitting(): int
    {
        return $this->wanted()->count();
    }

    /**
     * @param  int  $page  from 1
     * @return list<AssetRowData>
     */
    public function page(int $page): array
    {
        $ids = $this->wanted()->orderByDesc('assets.updated_at')->orderBy('assets.id')->forPage($page, self::PAGE)->pluck('deliveries.id');
        $deliveries = Delivery::query()->select(self::COLUMNS)->with(['asset' => static fn (Relation $assets): EloquentBuilder => $assets->getQuery()->withCount('deliveries'), 'asset.standard'])
            ->withExists(['packages as is_sealed' => static fn (EloquentBuilder $packages): EloquentBuilder => $packages->where('state', MakingState::Done), 'packages as is_current' => static fn (EloquentBuilder $packages): EloquentBuilder => $packages->where('state', MakingState::Done)->whereColumn('sealed_of', 'deliveries.judged_of')])->whereIn('id', $ids)->get();
        $this->fill($deliveries->filter(static fn (Delivery $delivery): bool => RackRow::kept($delivery) === null));
        $byId = $deliveries->keyBy('id');
        $sentBack = FixLists::states($deliveries->map(static fn (Delivery $one): int => $one->asset_id)->all());
        $rows = [];
        foreach ($ids as $id) {
            $delivery = is_int($id) ? $byId->get($id) : null;
            if ($delivery !== null) {
                $rows[] = self::row($delivery, $sentBack[$delivery->asset_id] ?? null);
            }
        }

        return $rows;
    }

    private static function row(Delivery $delivery, ?FixStateData $sentBack): AssetRowData
    {
        $asset = $delivery->asset;
        $row = RackRow::kept($delivery) ?? RackRow::of($delivery, $asset->standard->parsed());
        $wasSealed = (bool) $delivery->getAttribute('is_sealed');
        $isSealed = $wasSealed && (bool) $delivery->getAttribute('is_current') && $delivery->standard_version === $asset->standard->version;
        $deliveries = $asset->getAttribute('deliveries_count');

        return new AssetRowData(
            $asset->id, $asset->name, $delivery->number, $delivery->id, is_int($deliveries) ? $deliveries : 1, $delivery->state, $delivery->isOver() ? null : DeliveryPage::progress($delivery)->doing, $delivery->verdict,
            $delivery->blockers, $delivery->cautions, $delivery->notes, $row->parts, $row->sets, $row->low, $row->high,
            $row->stations($isSealed), ($delivery->checked_at ?? $delivery->created_at)->toIso8601String(), $asset->changed_by, $isSealed, $delivery->waits_for, $sentBack, $wasSealed && ! $isSealed,
        );
    }

    /**
     * Loads what a row is made of, for deliveries that have none or go on; keeps those that are over.
     *
     * @param  Collection<int, Delivery>  $deliveries
     */
    private function fill(Collection $deliveries): void
    {
        if ($deliveries->isEmpty()) {
            return;
        }
        $reports = Delivery::query()->whereKey($deliveries->modelKeys())->pluck('report', 'id');
        $deliveries->load(['files:id,delivery_id,name,kind,role,state,position', 'parts:id,delivery_id,file_id,name,triangles', 'sets:id,delivery_id,name,state', 'findings:id,delivery_id,station,severity,waived,position', 'packages:id,delivery_id,state,sealed_of']);
        foreach ($deliveries as $delivery) {
            $delivery->setAttribute('report', $reports[$delivery->id] ?? null);
            if ($delivery->isOver()) {
                $kept = RackRow::of($delivery, $delivery->asset->standard->parsed())->toKeep($delivery->run, $delivery->state);
                DB::table('deliveries')->where('id', $delivery->id)->where('run', $delivery->run)->where('state', $delivery->state)->update(['summary' => json_encode($kept, JSON_THROW_ON_ERROR)]);
                $delivery->setAttribute('summary', $kept);
            }
        }
    }

    private function newest(): Builder
    {
        return DB::table('assets')->join('deliveries', 'deliveries.id', '=', DB::raw('(select max(d.id) from deliveries d where d.asset_id = assets.id)'));
    }

    private function wanted(): Builder
    {
        $query = $this->newest();
        if ($this->verdict !== 'all') {
            $query->where('deliveries.verdict', $this->verdict);
        }
        if ($this->find !== '') {
            $like = '%'.addcslashes(mb_strtolower($this->find), '\\%_').'%';
            $query->where(static fn (Builder $either): Builder => $either->whereRaw('lower(assets.name) like ?', [$like])
                ->orWhereExists(static fn (Builder $parts): Builder => $parts->from('parts')->whereColumn('parts.delivery_id', 'deliveries.id')->whereRaw('lower(parts.name) like ?', [$like])));
        }

        return $query;
    }
}
