<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Pairing\NameReading;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Role;
use App\Deliveries\Deletion;
use App\Deliveries\DeliveryPage;
use App\Deliveries\StationStates;
use App\Http\Data\AssetData;
use App\Http\Data\AssetRowData;
use App\Http\Data\DeliveryRowData;
use App\Http\Data\RackData;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Part;
use App\Models\Standard;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * The rack, and an asset with its deliveries.
 */
final class RackController extends Controller
{
    #[OA\Get(path: '/api/rack', operationId: 'rack', responses: [new OA\Response(response: 200, description: 'All assets', content: new OA\JsonContent(ref: '#/components/schemas/RackData'))])]
    public function index(): JsonResponse
    {
        $rows = [];
        foreach (Asset::query()->with('deliveries')->orderByDesc('updated_at')->orderBy('id')->get() as $asset) {
            $delivery = $asset->deliveries->sortByDesc('number')->first();
            if ($delivery !== null) {
                $rows[] = $this->row($asset, $delivery);
            }
        }

        return response()->json(new RackData($rows, Standard::query()->orderBy('id')->first()->name ?? 'built-in', $this->user(), config()->integer('anvil.largest_upload')));
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
    public function destroy(Request $request, Asset $asset, Deletion $deletion): Response
    {
        $request->validate(['name' => ['required', 'string']]);
        if ($request->string('name')->toString() !== $asset->name) {
            throw ValidationException::withMessages(['name' => "to delete it, give its name once more: $asset->name"]);
        }
        $deletion->ofAsset($asset);

        return response()->noContent();
    }

    private function row(Asset $asset, Delivery $delivery): AssetRowData
    {
        $standard = $asset->standard->parsed();
        $roles = [];
        foreach ($delivery->files as $file) {
            $roles[$file->id] = [$file->role, RoledPart::roleOfFile($file->name, $standard)?->value];
        }
        $triangles = [Role::Low->value => 0, Role::High->value => 0];
        $names = [];
        foreach (Part::query()->where('delivery_id', $delivery->id)->orderBy('id')->get(['file_id', 'name', 'triangles']) as $part) {
            [$chosen, $ofFile] = $roles[$part->file_id] ?? [null, null];
            $role = $chosen ?? NameReading::of($part->name, $standard)->role->value ?? $ofFile;
            if ($role !== null && isset($triangles[$role])) {
                $triangles[$role] += $part->triangles;
            }
            $names[] = $part->name;
        }

        return new AssetRowData(
            $asset->id, $asset->name, $delivery->number, $delivery->id, $asset->deliveries->count(), $delivery->state, DeliveryPage::progress($delivery)->doing, $delivery->verdict,
            $delivery->blockers, $delivery->cautions, $delivery->notes, count($names), $delivery->sets->count(), $triangles['low'], $triangles['high'],
            StationStates::of($delivery), ($delivery->checked_at ?? $delivery->created_at)->toIso8601String(), $asset->changed_by,
            $delivery->packages->where('state', 'done')->isNotEmpty(), array_slice($names, 0, 4000),
        );
    }
}
