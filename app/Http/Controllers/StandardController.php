<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Checks\About;
use Anvil\Checks\Catalogue;
use Anvil\Inspection\LearnedStandard;
use Anvil\Standard\Standard as Rules;
use App\Deliveries\Effects;
use App\Deliveries\KeptValues;
use App\Deliveries\Steps;
use App\Deliveries\Turn;
use App\Http\Data\CheckLimitsData;
use App\Http\Data\LearnedData;
use App\Http\Data\LearnedLimitData;
use App\Http\Data\StandardAssetData;
use App\Http\Data\StandardPageData;
use App\Http\Data\StandardRowData;
use App\Http\Data\StandardVersionData;
use App\Http\Requests\AssetStandardRequest;
use App\Http\Requests\LearnRequest;
use App\Http\Requests\StandardRequest;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Standard;
use App\Models\StandardVersion;
use App\Models\State\DeliveryState;
use App\People\ChangedMeanwhile;
use App\People\Decisions;
use App\People\History;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * A studio's standards: their limits, versions, what a change of them would do, and what good assets ask for.
 */
final class StandardController extends Controller
{
    /** Assets of a standard that its page names. */
    private const MOST_NAMED = 300;

    #[OA\Get(path: '/api/standards', operationId: 'standards', responses: [new OA\Response(response: 200, description: 'All standards', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: '#/components/schemas/StandardRowData')))])]
    public function index(): JsonResponse
    {
        $all = Standard::query()->withCount('assets')->orderBy('id')->get();
        $first = $all->first()?->id;

        return response()->json(array_values($all->map(static fn (Standard $one): StandardRowData => new StandardRowData($one->id, $one->name, $one->version, self::count($one), $one->changed_by, $one->updated_at->toIso8601String(), $one->id === $first, Standard::text($one->parsed()->named($one->name))))->all()));
    }

    /** The checks, with what is built in: what a standard may set. */
    #[OA\Get(path: '/api/checks', operationId: 'checks', responses: [new OA\Response(response: 200, description: 'All checks', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: '#/components/schemas/CheckLimitsData')))])]
    public function checks(): JsonResponse
    {
        return response()->json(array_values(array_map(static fn (About $about): CheckLimitsData => new CheckLimitsData($about->code, $about->title, $about->station->value, $about->severity->value, $about->limit, $about->caution, $about->unit === 'length' ? 'share' : $about->unit, $about->limitWords), Catalogue::about())));
    }

    #[OA\Get(path: '/api/standards/{standard}', operationId: 'standard', parameters: [new OA\Parameter(name: 'standard', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'A standard', content: new OA\JsonContent(ref: '#/components/schemas/StandardPageData'))])]
    public function show(Standard $standard): JsonResponse
    {
        $versions = array_values($standard->versions()->limit(100)->get()->map(static fn (StandardVersion $one): StandardVersionData => new StandardVersionData($one->version, $one->name, $one->changed_by, $one->created_at->toIso8601String(), $one->reason, Standard::text($one->parsed()->named($one->name))))->all());
        $assets = [];
        foreach ($standard->assets()->limit(self::MOST_NAMED)->get() as $asset) {
            $newest = Delivery::query()->where('asset_id', $asset->id)->orderByDesc('number')->first(['id', 'verdict', 'standard_version', 'state']);
            $assets[] = new StandardAssetData($asset->id, $asset->name, $newest?->verdict, $newest !== null && $newest->state === DeliveryState::Done && $newest->standard_version !== $standard->version);
        }

        return response()->json(new StandardPageData($standard->id, $standard->name, $standard->version, $standard->changed_by, $standard->updated_at->toIso8601String(), Standard::text($standard->parsed()->named($standard->name)), $versions, $assets, $standard->assets()->count()));
    }

    /** A new one: from nothing, a copy, or a file. */
    #[OA\Post(path: '/api/standards', operationId: 'makeStandard', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['rules'], properties: [new OA\Property(property: 'rules', description: 'JSON, as the file has it', type: 'string'), new OA\Property(property: 'reason', type: 'string', nullable: true)])), responses: [new OA\Response(response: 201, description: 'Made'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function store(StandardRequest $request): JsonResponse
    {
        $rules = $request->standard();
        $standard = DB::transaction(function () use ($request, $rules): Standard {
            self::needsName($rules);
            $made = new Standard(['name' => $rules->name, 'rules' => Standard::text($rules), 'changed_by' => $this->user(), 'version' => 1]);
            $made->reason = $request->reason();
            $made->save();

            return $made;
        });
        History::tell(null, null, "made the standard \"$standard->name\"");

        return response()->json(['id' => $standard->id], 201);
    }

    #[OA\Put(path: '/api/standards/{standard}', operationId: 'changeStandard', parameters: [new OA\Parameter(name: 'standard', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['rules', 'version'], properties: [new OA\Property(property: 'rules', type: 'string'), new OA\Property(property: 'version', description: 'the one that was changed', type: 'integer'), new OA\Property(property: 'reason', type: 'string', nullable: true), new OA\Property(property: 'recheck', description: 'check the newest delivery of each asset again', type: 'boolean')])), responses: [new OA\Response(response: 200, description: 'Changed: how many deliveries are checked again'), new OA\Response(response: 409, description: 'Somebody else changed it since that version', content: new OA\JsonContent(ref: '#/components/schemas/ChangedMeanwhileData')), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function update(StandardRequest $request, Standard $standard): JsonResponse
    {
        $rules = $request->standard();
        DB::transaction(function () use ($request, $standard, $rules): void {
            $locked = Standard::query()->whereKey($standard->id)->lockForUpdate()->firstOrFail();
            if ($locked->version !== $request->integer('version')) {
                $since = $locked->versions()->where('version', '>', $request->integer('version'))->reorder('version')->get();
                $by = array_values($since->map(static fn (StandardVersion $one): array => ['who' => $one->changed_by, 'when' => $one->created_at->toIso8601String(), 'words' => "saved version $one->version of the standard \"$one->name\"".($one->reason === null ? '' : ": $one->reason")])->all());
                throw ChangedMeanwhile::by($by === [] ? [['who' => $locked->changed_by, 'when' => $locked->updated_at->toIso8601String(), 'words' => "saved version $locked->version of the standard \"$locked->name\""]] : $by, $locked->version);
            }
            self::needsName($rules, $standard->id);
            $locked->reason = $request->reason();
            $locked->update(['name' => $rules->name, 'rules' => Standard::text($rules), 'version' => $locked->version + 1, 'changed_by' => $this->user()]);
        });
        $standard->refresh();
        History::tell(null, null, "changed the standard \"$standard->name\" to version $standard->version".($request->reason() === null ? '' : ": {$request->reason()}"));

        return response()->json(['version' => $standard->version, 'rechecked' => $request->boolean('recheck') ? self::checkAgain($standard) : 0]);
    }

    /** What these rules would change on the assets that are held to this standard. */
    #[OA\Post(path: '/api/standards/{standard}/effect', operationId: 'effectOfStandard', parameters: [new OA\Parameter(name: 'standard', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['rules'], properties: [new OA\Property(property: 'rules', type: 'string'), new OA\Property(property: 'after', description: 'the asset that was told last', type: 'integer')])), responses: [new OA\Response(response: 200, description: 'The effect, or a slice of it', content: new OA\JsonContent(ref: '#/components/schemas/EffectData'))])]
    public function effect(StandardRequest $request, Standard $standard): JsonResponse
    {
        return response()->json(Effects::of($standard, $request->standard(), $request->integer('after')));
    }

    /** Limits that these assets all pass, each with the asset that sets it. */
    #[OA\Post(path: '/api/standards/{standard}/learn', operationId: 'learnStandard', parameters: [new OA\Parameter(name: 'standard', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['assets'], properties: [new OA\Property(property: 'assets', type: 'array', items: new OA\Items(type: 'integer'))])), responses: [new OA\Response(response: 200, description: 'A proposal', content: new OA\JsonContent(ref: '#/components/schemas/LearnedData'))])]
    public function learn(LearnRequest $request, Standard $standard): JsonResponse
    {
        $values = $unknown = [];
        foreach (Asset::query()->whereKey($request->assets())->orderBy('name')->get() as $asset) {
            $newest = Delivery::query()->where('asset_id', $asset->id)->where('state', DeliveryState::Done)->orderByDesc('number')->value('id');
            $own = is_int($newest) ? KeptValues::of([$newest])[$newest] ?? null : null;
            if ($own === null) {
                $unknown[] = $asset->name;
            } else {
                $values[$asset->name] = $own;
            }
        }
        $learned = LearnedStandard::ofValues($values, $standard->parsed());
        $about = Catalogue::about();
        $left = array_map(static fn (string $asset, array $words): array => ['asset' => $asset, 'words' => $words], array_map(strval(...), array_keys($learned->left)), array_values($learned->left));

        return response()->json(new LearnedData(
            Standard::text($learned->standard->named($standard->name)),
            array_map(static fn (array $one): LearnedLimitData => new LearnedLimitData($one['code'], $about[$one['code']]->title, $one['of'], $one['was'], $one['limit'], $one['value'], $one['unit'], $one['asset'], $one['others']), $learned->limits),
            $left, $unknown,
        ));
    }

    #[OA\Delete(path: '/api/standards/{standard}', operationId: 'deleteStandard', parameters: [new OA\Parameter(name: 'standard', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Deleted'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function destroy(Standard $standard): Response
    {
        DB::transaction(static function () use ($standard): void {
            Standard::query()->whereKey($standard->id)->lockForUpdate()->first();
            $held = $standard->assets()->count();
            if ($held > 0) {
                throw ValidationException::withMessages(['standard' => "$held ".($held === 1 ? 'asset is' : 'assets are').' held to it; hold them to another one first']);
            }
            if (Standard::query()->orderBy('id')->value('id') === $standard->id) {
                throw ValidationException::withMessages(['standard' => 'new assets are held to it; it cannot be deleted']);
            }
            $standard->delete();
        });
        History::tell(null, null, "deleted the standard \"$standard->name\"");

        return response()->noContent();
    }

    /** Holds an asset to another standard, and checks its newest delivery again. */
    #[OA\Put(path: '/api/assets/{asset}/standard', operationId: 'holdTo', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'asset', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['standard'], properties: [new OA\Property(property: 'standard', type: 'integer')])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Held to it'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function hold(AssetStandardRequest $request, Asset $asset): Response
    {
        $standard = $request->standard();
        $newest = Delivery::query()->where('asset_id', $asset->id)->orderByDesc('number')->first();
        $change = function (Asset $held) use ($standard): void {
            $held->update(['standard_id' => $standard->id, 'changed_by' => $this->user()]);
        };
        $newest === null ? Decisions::change($asset, null, $change) : $this->startOver($newest, static fn (Delivery $delivery) => $change($delivery->asset));

        return response()->noContent();
    }

    /** Begins to check the newest delivery of each asset again; those that are being checked take the new rules by themselves, or are begun again. */
    private static function checkAgain(Standard $standard): int
    {
        $count = 0;
        foreach (Delivery::query()->whereIn('id', Delivery::query()->selectRaw('max(deliveries.id)')->join('assets', 'assets.id', '=', 'deliveries.asset_id')->where('assets.standard_id', $standard->id)->groupBy('deliveries.asset_id'))->orderBy('id')->pluck('id') as $id) {
            Turn::locked(is_int($id) ? $id : 0, static function (Delivery $locked) use (&$count): void {
                if ($locked->state !== DeliveryState::Writing && $locked->state !== DeliveryState::Cancelled) {
                    Steps::begin($locked);
                    $count++;
                }
            });
        }

        return $count;
    }

    private static function needsName(Rules $rules, int $but = 0): void
    {
        if (Standard::query()->where('name', $rules->name)->whereKeyNot($but)->exists()) {
            throw ValidationException::withMessages(['rules' => "there is a standard \"$rules->name\" already; give this one another name"]);
        }
    }

    private static function count(Standard $standard): int
    {
        $count = $standard->getAttribute('assets_count');

        return is_numeric($count) ? (int) $count : 0;
    }
}
