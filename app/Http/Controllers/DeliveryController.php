<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Formats\FormatCatalogue;
use Anvil\Standard\Choices;
use Anvil\Standard\Role;
use App\Deliveries\Deletion;
use App\Deliveries\DeliveryPage;
use App\Deliveries\DisplayFile;
use App\Deliveries\HandIn;
use App\Deliveries\SealedTicket;
use App\Deliveries\Steps;
use App\Deliveries\Store;
use App\Deliveries\StreamedZip;
use App\Deliveries\Turn;
use App\Http\Data\DeliveredData;
use App\Http\Data\RaysData;
use App\Http\Middleware\Unchanged;
use App\Http\Requests\BoardRequest;
use App\Http\Requests\ChoiceRequest;
use App\Http\Requests\DeleteDeliveryRequest;
use App\Http\Requests\HandInRequest;
use App\Http\Requests\LayoutRequest;
use App\Http\Requests\MirroredRequest;
use App\Http\Requests\OutputRequest;
use App\Http\Requests\ReachRequest;
use App\Http\Requests\RoleRequest;
use App\Http\Requests\SealRequest;
use App\Jobs\MakeOutput;
use App\Jobs\SealPackage;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\Package;
use App\Models\State\DeliveryState;
use App\Models\State\FileState;
use App\Models\Upload;
use Generator;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Number;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;

/**
 * Deliveries: handing in, looking at, mending, writing, sealing.
 */
final class DeliveryController extends Controller
{
    #[OA\Post(path: '/api/deliveries', operationId: 'handIn', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['uploads'], properties: [new OA\Property(property: 'uploads', type: 'array', items: new OA\Items(type: 'string')), new OA\Property(property: 'assetId', type: 'integer', nullable: true), new OA\Property(property: 'asNew', description: 'true: makes a delivery even where one has the same files, byte for byte', type: 'boolean'), new OA\Property(property: 'once', description: 'true: makes no delivery where the newest one of the asset has the same files, byte for byte', type: 'boolean')])), responses: [new OA\Response(response: 201, description: 'Uploaded', content: new OA\JsonContent(ref: '#/components/schemas/DeliveredData'))])]
    public function store(HandInRequest $request, HandIn $handIn): JsonResponse
    {
        $ids = $request->uploads();
        $found = Upload::own()->findMany($ids)->keyBy('id');
        $uploads = array_map(static fn (string $id): Upload => $found[$id] ?? throw ValidationException::withMessages(['uploads' => 'one of these files was not uploaded, or was handed in already; hand them in again']), $ids);
        $total = array_sum(array_map(static fn (Upload $upload): int => $upload->bytes, $uploads));
        if ($total > config()->integer('anvil.largest_delivery')) {
            throw ValidationException::withMessages(['uploads' => 'together these files are '.Number::fileSize($total).'; a delivery takes at most '.Number::fileSize(config()->integer('anvil.largest_delivery'))]);
        }
        $names = [];
        $meshes = 0;
        foreach ($uploads as $upload) {
            if ($upload->received !== $upload->bytes) {
                throw ValidationException::withMessages(['uploads' => "$upload->name: only $upload->received of $upload->bytes bytes have come in; hand it in again"]);
            }
            if (isset($names[$upload->name])) {
                throw ValidationException::withMessages(['uploads' => "$upload->name was handed in twice; one name, one file"]);
            }
            $names[$upload->name] = true;
            $meshes += in_array(strtolower(pathinfo($upload->name, PATHINFO_EXTENSION)), FormatCatalogue::endings(), true) ? 1 : 0;
        }
        if ($meshes === 0) {
            throw ValidationException::withMessages(['uploads' => 'there is no mesh file among these; hand in .glb, .gltf, .obj, .dae, .usda, .ply or .stl, or a .zip of these']);
        }
        $delivery = $handIn->deliver($uploads, $request->asset(), asNew: $request->boolean('asNew'), once: $request->boolean('once'));

        return response()->json(new DeliveredData($delivery->asset_id, $delivery->id, $delivery->number, $delivery->wasKnown), 201);
    }

    #[OA\Get(path: '/api/deliveries/{delivery}', operationId: 'delivery', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'A delivery', content: new OA\JsonContent(ref: '#/components/schemas/DeliveryData'))])]
    public function show(Request $request, Delivery $delivery): JsonResponse
    {
        return response()->json((new DeliveryPage($delivery, Unchanged::markOf($request)))->data());
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/mesh/{kind}', operationId: 'cageMesh', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'kind', in: 'path', required: true, schema: new OA\Schema(type: 'string', enum: ['single', 'fitted', 'surface', 'lit']))], responses: [new OA\Response(response: 200, description: 'Light meshes of a cage: length of a JSON header, the header, float32 positions and uint32 triangles a part; or the low poly with its UVs: the header, then of each part float32 positions and UVs of all corners, uint32 islands and edges of all triangles', content: new OA\MediaType(mediaType: 'application/octet-stream'))])]
    public function mesh(Delivery $delivery, string $kind): Response
    {
        return self::meshes(DisplayFile::path($delivery, in_array($kind, DisplayFile::KINDS, true) ? $kind : DisplayFile::SINGLE), 'no-cache');
    }

    /** The light meshes of a file, as soon as it is read. */
    #[OA\Get(path: '/api/deliveries/{delivery}/files/{file}/mesh', operationId: 'fileMesh', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'file', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Light meshes in the file\'s own unit and axes: length of a JSON header, the header, float32 positions and uint32 triangles a part', content: new OA\MediaType(mediaType: 'application/octet-stream'))])]
    public function fileMesh(Delivery $delivery, File $file): Response
    {
        abort_unless($file->delivery_id === $delivery->id, 404);
        abort_unless($file->state === FileState::Read, 404, 'the file is not read yet');

        // A file never changes.
        return self::meshes(DisplayFile::ofFile($delivery, $file), 'private, max-age=86400');
    }

    private static function meshes(string $path, string $kept): Response
    {
        abort_unless(Store::has($path), 404, 'the meshes are not ready yet');

        return Store::answer($path, null, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => $kept]);
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/rays', operationId: 'rays', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'set', in: 'query', required: true, schema: new OA\Schema(type: 'string'))], responses: [new OA\Response(response: 200, description: 'Rays that go astray', content: new OA\JsonContent(ref: '#/components/schemas/RaysData'))])]
    public function rays(Request $request, Delivery $delivery): JsonResponse
    {
        $set = $request->query('set');
        if (! is_string($set)) {
            throw ValidationException::withMessages(['set' => 'give the name of one set']);
        }
        $evidence = $delivery->sets()->where('name', $set)->firstOrFail()->measured()->evidence ?? [];

        return response()->json(new RaysData($evidence['miss'] ?? [], $evidence['wrong'] ?? [], $evidence['short'] ?? []));
    }

    #[OA\Post(path: '/api/deliveries/{delivery}/cancel', operationId: 'cancel', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Cancelled')])]
    public function cancel(Delivery $delivery): Response
    {
        Turn::locked($delivery->id, function (Delivery $delivery): void {
            if (! $delivery->isOver()) {
                Turn::to($delivery, DeliveryState::Cancelled, null, ['error' => "cancelled by {$this->user()}"]);
            }
        });

        return response()->noContent();
    }

    #[OA\Post(path: '/api/deliveries/{delivery}/recheck', operationId: 'recheck', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Begun again')])]
    public function recheck(Delivery $delivery): Response
    {
        $this->startOver($delivery);

        return response()->noContent();
    }

    /** Gives a file a role, or takes it back so that the names tell. */
    #[OA\Post(path: '/api/deliveries/{delivery}/files/{file}/role', operationId: 'setRole', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'file', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(properties: [new OA\Property(property: 'role', type: 'string', nullable: true)])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Set')])]
    public function role(RoleRequest $request, Delivery $delivery, File $file): Response
    {
        abort_unless($file->delivery_id === $delivery->id, 404);
        $this->startOver($delivery, function (Delivery $delivery) use ($request, $file): void {
            $file->update(['role' => $request->role()?->value]);
            $delivery->asset->update(['changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    /** Declares that a UV island may lie on others, or no more; it holds over deliveries for as long as the island does. */
    #[OA\Post(path: '/api/deliveries/{delivery}/mirrored', operationId: 'declareMirrored', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['part', 'island', 'mirrored'], properties: [new OA\Property(property: 'part', type: 'string'), new OA\Property(property: 'island', description: 'the key of the island', type: 'string'), new OA\Property(property: 'mirrored', type: 'boolean')])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Declared')])]
    public function mirrored(MirroredRequest $request, Delivery $delivery): Response
    {
        $this->startOver($delivery, function (Delivery $delivery) use ($request): void {
            $islands = $delivery->asset->decided()->mirroredIslands;
            $own = array_values(array_diff($islands[$request->part()] ?? [], [$request->island()]));
            $islands[$request->part()] = $request->boolean('mirrored') ? [...$own, $request->island()] : $own;
            $delivery->asset->update(['choices' => [...$delivery->asset->choices, 'mirroredIslands' => array_filter($islands)], 'changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    /** Bakes a base on itself, leaves it out, or takes either back. */
    #[OA\Post(path: '/api/deliveries/{delivery}/choices', operationId: 'choose', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['base', 'choice'], properties: [new OA\Property(property: 'base', type: 'string'), new OA\Property(property: 'choice', type: 'string', enum: ['self', 'out', 'none'])])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Chosen')])]
    public function choose(ChoiceRequest $request, Delivery $delivery): Response
    {
        $base = $request->string('base')->toString();
        $choice = $request->string('choice')->toString();
        $this->startOver($delivery, function (Delivery $delivery) use ($base, $choice): void {
            $choices = $delivery->asset->choices;
            foreach (['bakedOnItself' => 'self', 'leftOut' => 'out'] as $key => $value) {
                $list = is_array($choices[$key] ?? null) ? array_values(array_filter($choices[$key], static fn (mixed $one): bool => $one !== $base)) : [];
                $choices[$key] = $choice === $value ? [...$list, $base] : $list;
            }
            $delivery->asset->update(['choices' => $choices, 'changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/download', operationId: 'downloadDelivery', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'The files of the delivery in one zip', content: new OA\MediaType(mediaType: 'application/zip'))])]
    public function download(Delivery $delivery): StreamedResponse
    {
        $paths = $delivery->files->mapWithKeys(static fn (File $file): array => [$file->name => $file->path])->all();

        return response()->streamDownload(static function () use ($paths): void {
            $local = (static function () use ($paths): Generator {
                foreach ($paths as $name => $path) {
                    yield (string) $name => Store::local($path);
                }
            })();
            StreamedZip::send($local, static function (string $piece): void {
                echo $piece;
                flush();
            });
        }, "{$delivery->asset->key}_delivery_$delivery->number.zip", ['Content-Type' => 'application/zip', 'X-Accel-Buffering' => 'no']);
    }

    /** Puts the board's sets, and what is left out, baked on itself or detachable, into the asset's choices. */
    #[OA\Post(path: '/api/deliveries/{delivery}/board', operationId: 'arrange', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(ref: '#/components/schemas/BoardData')), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Arranged')])]
    public function board(BoardRequest $request, Delivery $delivery): Response
    {
        $choices = $request->choices();
        $this->startOver($delivery, function (Delivery $delivery) use ($choices): void {
            $delivery->asset->update(['choices' => [...$delivery->asset->choices, ...$choices], 'changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    /** Sets the reach of one set for this asset, or takes it back so that the standard or the recommendation holds. */
    #[OA\Post(path: '/api/deliveries/{delivery}/reach', operationId: 'setReach', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['set', 'out', 'in'], properties: [new OA\Property(property: 'set', type: 'string'), new OA\Property(property: 'out', description: 'in file units', type: 'number', nullable: true), new OA\Property(property: 'in', type: 'number', nullable: true)])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Set')])]
    public function reach(ReachRequest $request, Delivery $delivery): Response
    {
        $set = $request->string('set')->toString();
        if ($delivery->sets()->where('name', $set)->doesntExist()) {
            throw ValidationException::withMessages(['set' => "there is no set \"$set\" in this delivery"]);
        }
        $this->startOver($delivery, function (Delivery $delivery) use ($request, $set): void {
            $reaches = $delivery->asset->reaches ?? [];
            unset($reaches[$set]);
            if ($request->reach() !== null) {
                $reaches[$set] = $request->reach();
            }
            $delivery->asset->update(['reaches' => $reaches, 'changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    /** How far, and whether every set, is moved apart; for this asset from now on. */
    #[OA\Post(path: '/api/deliveries/{delivery}/explode', operationId: 'chooseExplode', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['clearance', 'all'], properties: [new OA\Property(property: 'clearance', description: 'gap between boxes, in file units; null: 2 % of the asset', type: 'number', nullable: true), new OA\Property(property: 'all', type: 'boolean')])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Laid out again')])]
    public function explode(LayoutRequest $request, Delivery $delivery): Response
    {
        $this->startOver($delivery, function (Delivery $delivery) use ($request): void {
            $delivery->asset->update(['explode' => $request->layout(), 'changed_by' => $this->user()]);
        });

        return response()->noContent();
    }

    #[OA\Post(path: '/api/deliveries/{delivery}/outputs', operationId: 'makeOutput', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['kind'], properties: [new OA\Property(property: 'kind', type: 'string', enum: ['exploded', 'ids', 'cage']), new OA\Property(property: 'onto', description: 'of IDs: files of their own, or onto the high files', type: 'string', enum: ['copy', 'high']), new OA\Property(property: 'as', type: 'string', enum: ['materials', 'vertex-colors'])])), responses: [new OA\Response(response: 201, description: 'Begun')])]
    public function output(OutputRequest $request, Delivery $delivery): JsonResponse
    {
        $this->needsDone($delivery);
        $output = DB::transaction(function () use ($request, $delivery): Output {
            $output = $delivery->outputs()->create(['kind' => $request->string('kind')->toString(), 'detail' => $request->string('kind')->toString() === 'ids' ? $request->ids()->toArray() : null, 'made_by' => $this->user()]);
            MakeOutput::dispatch($delivery->id, $output->id)->onQueue(Steps::queueOf($delivery));

            return $output;
        });

        return response()->json(['id' => $output->id], 201);
    }

    #[OA\Post(path: '/api/deliveries/{delivery}/packages', operationId: 'seal', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(content: new OA\JsonContent(properties: [new OA\Property(property: 'with', description: 'what goes along', type: 'array', items: new OA\Items(type: 'string', enum: ['exploded', 'cage', 'ids', 'trial', 'retouch']))])), responses: [new OA\Response(response: 201, description: 'Begun'), new OA\Response(response: 422, description: 'Not ready')])]
    public function seal(SealRequest $request, Delivery $delivery): JsonResponse
    {
        $this->needsDone($delivery);
        if ($delivery->verdict !== 'ready') {
            throw ValidationException::withMessages(['delivery' => 'the asset is not ready; mend or waive what blocks it first']);
        }
        if ($delivery->standard_version !== $delivery->asset->standard->version) {
            throw ValidationException::withMessages(['delivery' => 'the standard changed since it was checked; check the delivery again first']);
        }
        $package = DB::transaction(function () use ($request, $delivery): Package {
            $package = $delivery->packages()->create(['sealed_by' => $this->user(), 'with' => $request->kinds()]);
            SealPackage::dispatch($delivery->id, $package->id)->onQueue(Steps::queueOf($delivery));

            return $package;
        });

        return response()->json(['id' => $package->id], 201);
    }

    /** The ticket as it would be sealed now: a page that stands alone and prints, or JSON. */
    #[OA\Get(path: '/api/deliveries/{delivery}/ticket/{form}', operationId: 'ticket', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'form', in: 'path', required: true, schema: new OA\Schema(type: 'string', enum: ['html', 'json']))], responses: [new OA\Response(response: 200, description: 'The ticket', content: new OA\MediaType(mediaType: 'text/html')), new OA\Response(response: 422, description: 'Still being checked')])]
    public function ticket(Delivery $delivery, string $form): Response
    {
        $this->needsDone($delivery);
        $text = SealedTicket::of($delivery, $form === 'html');

        return response($text, 200, ['Content-Type' => $form === 'html' ? 'text/html; charset=utf-8' : 'application/json', 'Content-Disposition' => ($form === 'html' ? 'inline' : 'attachment')."; filename=\"{$delivery->asset->key}_ticket.$form\"", 'Cache-Control' => 'no-cache']);
    }

    #[OA\Get(path: '/api/outputs/{output}', operationId: 'downloadOutput', parameters: [new OA\Parameter(name: 'output', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'A zip', content: new OA\MediaType(mediaType: 'application/zip'))])]
    public function downloadOutput(Output $output): Response
    {
        Gate::authorize('view', $output->delivery);
        abort_unless($output->path !== null, 404, 'it is not written yet');

        return Store::answer((string) $output->path, (string) $output->name);
    }

    #[OA\Get(path: '/api/packages/{package}', operationId: 'downloadPackage', parameters: [new OA\Parameter(name: 'package', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'A zip', content: new OA\MediaType(mediaType: 'application/zip'))])]
    public function downloadPackage(Package $package): Response
    {
        Gate::authorize('view', $package->delivery);
        abort_unless($package->path !== null, 404, 'it is not sealed yet');

        return Store::answer((string) $package->path, (string) $package->name);
    }

    /** Deletes a delivery with its files and all that was made of them; asked for twice, by its number. */
    #[OA\Delete(path: '/api/deliveries/{delivery}', operationId: 'deleteDelivery', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['number'], properties: [new OA\Property(property: 'number', description: 'the number of the delivery, once more', type: 'integer')])), responses: [new OA\Response(response: 204, description: 'Deleted'), new OA\Response(response: 422, description: 'Not confirmed')])]
    public function destroy(DeleteDeliveryRequest $request, Delivery $delivery, Deletion $deletion): Response
    {
        if ($request->integer('number') !== $delivery->number) {
            throw ValidationException::withMessages(['number' => "to delete it, give its number once more: $delivery->number"]);
        }
        $deletion->ofDelivery($delivery);

        return response()->noContent();
    }
}
