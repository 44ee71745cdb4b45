<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Checks\About;
use Anvil\Checks\Search;
use App\Guide\Manual;
use App\Http\Data\FoundAssetData;
use App\Http\Data\FoundCheckData;
use App\Http\Data\FoundData;
use App\Http\Data\FoundGuideData;
use App\Http\Data\FoundPartData;
use App\Http\Requests\SearchRequest;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;

/**
 * What the search finds: assets and parts by letters of their names, checks by their names and by what a bad bake looks like.
 */
final class SearchController extends Controller
{
    /** Of each kind. */
    private const MOST = 8;

    #[OA\Get(path: '/api/search', operationId: 'search', parameters: [new OA\Parameter(name: 'find', in: 'query', required: true, schema: new OA\Schema(type: 'string')), new OA\Parameter(name: 'delivery', in: 'query', description: 'the delivery that is looked at: its parts come first', schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'What was found', content: new OA\JsonContent(ref: '#/components/schemas/FoundData'))])]
    public function __invoke(SearchRequest $request): JsonResponse
    {
        $find = trim($request->string('find')->toString());
        $like = '%'.addcslashes(mb_strtolower($find), '\\%_').'%';
        $newest = static fn (): Builder => DB::table('assets')->join('deliveries', 'deliveries.id', '=', DB::raw('(select max(d.id) from deliveries d where d.asset_id = assets.id)'));
        $assets = $newest()->whereRaw('lower(assets.name) like ?', [$like])->orderBy('assets.name')->limit(self::MOST)->get(['assets.id as asset', 'assets.name', 'deliveries.id as delivery']);
        $here = $request->integer('delivery');
        $parts = static fn (Builder $deliveries): Builder => $deliveries->join('parts', 'parts.delivery_id', '=', 'deliveries.id')->join('files', 'files.id', '=', 'parts.file_id')
            ->whereRaw('lower(parts.name) like ?', [$like])->orderBy('parts.name')->limit(self::MOST);
        $columns = ['assets.id as asset', 'assets.name as asset_name', 'deliveries.id as delivery', 'parts.name', 'files.name as file'];
        $found = $parts(DB::table('assets')->join('deliveries', 'deliveries.asset_id', '=', 'assets.id')->where('deliveries.id', $here))->get($columns);
        if ($found->count() < self::MOST) {
            $found = $found->concat($parts($newest()->where('deliveries.id', '!=', $here)->whereNotExists(static fn (Builder $same): Builder => $same->from('deliveries as looked_at')->where('looked_at.id', $here)->whereColumn('looked_at.asset_id', 'assets.id')))->limit(self::MOST - $found->count())->get($columns));
        }

        return response()->json(new FoundData(
            array_values($assets->map(static fn (object $row): FoundAssetData => new FoundAssetData(self::number($row, 'asset'), self::text($row, 'name'), self::number($row, 'delivery')))->all()),
            array_values($found->map(static fn (object $row): FoundPartData => new FoundPartData(self::number($row, 'asset'), self::text($row, 'asset_name'), self::number($row, 'delivery'), self::text($row, 'name'), self::text($row, 'file')))->all()),
            array_map(static fn (About $about): FoundCheckData => new FoundCheckData($about->code, $about->title, $about->station->value, $about->afterBake, $about->remedy), array_slice(Search::of($find), 0, self::MOST)),
            array_map(static fn (array $one): FoundGuideData => new FoundGuideData($one['page'], $one['title'], $one['anchor'], $one['told']), Manual::search($find, self::MOST)),
        ));
    }

    private static function number(object $row, string $key): int
    {
        $value = get_object_vars($row)[$key] ?? null;

        return is_numeric($value) ? (int) $value : 0;
    }

    private static function text(object $row, string $key): string
    {
        $value = get_object_vars($row)[$key] ?? null;

        return is_string($value) ? $value : '';
    }
}
