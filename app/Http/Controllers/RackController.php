<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Deliveries\Deletion;
use App\Deliveries\Rack;
use App\Http\Data\AssetData;
use App\Http\Data\DeliveryRowData;
use App\Http\Data\RackData;
use App\Http\Requests\DeleteAssetRequest;
use App\Http\Requests\RackRequest;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Standard;
use Illuminate\Http\JsonResponse;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * The rack, and an asset with its deliveries.
 */
final class RackController extends Controller
{
    #[OA\Get(path: '/api/rack', operationId: 'rack', parameters: [new OA\Parameter(name: 'page', in: 'query', description: 'from 1; a hundred assets each', schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'find', in: 'query', description: 'letters in the name of the asset or of one of its parts', schema: new OA\Schema(type: 'string')), new OA\Parameter(name: 'verdict', in: 'query', schema: new OA\Schema(type: 'string', enum: ['all', 'blocked', 'ready']))], responses: [new OA\Response(response: 200, description: 'A page of the assets', content: new OA\JsonContent(ref: '#/components/schemas/RackData'))])]
    public function index(RackRequest $request): JsonResponse
    {
        $verdict = $request->string('verdict', 'all')->toString();
        $rack = new Rack(trim($request->string('find')->toString()), $verdict === 'blocked' || $verdict === 'ready' ? $verdict : 'all');
        $counts = $rack->counts();
        $fitting = $rack->fitting();

        return response()->json(new RackData(
            $rack->page($request->integer('page', 1)), $fitting, (int) ceil($fitting / Rack::PAGE), $counts['total'], $counts['ready'], $counts['blocked'], $counts['computing'],
            Standard::query()->orderBy('id')->first()->name ?? 'built-in', $this->user(), config()->integer('anvil.largest_upload'),
        ));
    }

    #[OA\Get(path: '/api/assets/{asset}', operationId: 'asset', parameters: [new OA\Parameter(name: 'asset', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'An asset', content: new OA\JsonContent(ref: '#/components/schemas/AssetData'))])]
    public function show(Asset $asset): JsonResponse
    {
        return response()->json(new AssetData($asset->id, $asset->name, array_values($asset->deliveries->sortByDesc('number')->map(static fn (Delivery $d): DeliveryRowData => new DeliveryRowData(
            $d->id, $d->number, $d->state, $d->verdict, $d->blockers, $d->made_by_words, $d->created_at->toIso8601String(), $d->handed_in_by,
        ))->all()), $asset->changed_by));
    }

    /** Deletes an asset with all its deliveries; asked for twice, by its name. */
    #[OA\Delete(path: '/api/assets/{asset}', operationId: 'deleteAsset', parameters: [new OA\Parameter(name: 'asset', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['name'], properties: [new OA\Property(property: 'name', description: 'the name of the asset, once more', type: 'string')])), responses: [new OA\Response(response: 204, description: 'Deleted'), new OA\Response(response: 422, description: 'Not confirmed')])]
    public function destroy(DeleteAssetRequest $request, Asset $asset, Deletion $deletion): Response
    {
        if ($request->string('name')->toString() !== $asset->name) {
            throw ValidationException::withMessages(['name' => "to delete it, give its name once more: $asset->name"]);
        }
        $deletion->ofAsset($asset);

        return response()->noContent();
    }
}
