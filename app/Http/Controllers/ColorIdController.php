<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Unreadable;
use App\Deliveries\Derived;
use App\Deliveries\IdCut;
use App\Deliveries\Steps;
use App\Deliveries\Store;
use App\Http\Data\DeliveredData;
use App\Http\Requests\IdCutRequest;
use App\Http\Requests\IdSheetRequest;
use App\Http\Requests\OutputRequest;
use App\Jobs\MakeOutput;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Output;
use App\Models\State\MakingState;
use App\People\Decisions;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * The IDs that are to be given: the high poly is cut into pieces, IDs are decided on, and written into a delivery.
 */
final class ColorIdController extends Controller
{
    #[OA\Post(path: '/api/deliveries/{delivery}/id-cut', operationId: 'cutForIds', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['by', 'angle'], properties: [new OA\Property(property: 'by', type: 'string', enum: ['part', 'material', 'shell', 'region', 'set', 'colors']), new OA\Property(property: 'angle', description: 'degrees', type: 'number')])), responses: [new OA\Response(response: 201, description: 'Begun')])]
    public function cut(IdCutRequest $request, Delivery $delivery): JsonResponse
    {
        $this->needsDone($delivery);
        $output = DB::transaction(function () use ($request, $delivery): Output {
            $output = $delivery->outputs()->create(['kind' => IdCut::KIND, 'detail' => $request->cut(), 'made_by' => $this->user()]);
            MakeOutput::dispatch($delivery->id, $output->id)->onQueue(Steps::queueOf($delivery));

            return $output;
        });

        return response()->json(['id' => $output->id], 201);
    }

    /** Keeps a sheet for the asset, its colors as they are or spread anew; tells how far they are apart. */
    #[OA\Post(path: '/api/deliveries/{delivery}/id-sheet', operationId: 'idSheet', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['cut', 'act', 'allEyes', 'pins', 'ids'], properties: [
        new OA\Property(property: 'cut', type: 'integer'), new OA\Property(property: 'act', type: 'string', enum: ['spread', 'keep']), new OA\Property(property: 'allEyes', type: 'boolean'),
        new OA\Property(property: 'pins', type: 'object', additionalProperties: new OA\AdditionalProperties(type: 'string')),
        new OA\Property(property: 'ids', type: 'array', items: new OA\Items(type: 'object', required: ['name', 'hex', 'pinned', 'pieces'], properties: [new OA\Property(property: 'name', type: 'string'), new OA\Property(property: 'hex', type: 'string', nullable: true), new OA\Property(property: 'pinned', type: 'boolean'), new OA\Property(property: 'pieces', type: 'array', items: new OA\Items(type: 'string'))])),
    ])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 200, description: 'The sheet', content: new OA\JsonContent(ref: '#/components/schemas/IdSheetData'))])]
    public function sheet(IdSheetRequest $request, Delivery $delivery): JsonResponse
    {
        $cut = $delivery->outputs()->whereKey($request->integer('cut'))->where('kind', IdCut::KIND)->where('state', MakingState::Done)->first();
        if ($cut === null) {
            throw ValidationException::withMessages(['cut' => 'the high poly is not cut yet, or was cut anew meanwhile; wait a moment and try it again']);
        }
        try {
            $plan = IdCut::plan($cut, $request->sheet());
        } catch (Unreadable $error) {
            throw ValidationException::withMessages(['ids' => $error->getMessage()]);
        }
        Decisions::change($delivery->asset, $delivery, static function (Asset $asset) use ($delivery, $plan): void {
            IdCut::keep($asset, $plan->kept());
            $delivery->setRelation('asset', $asset);
        });

        return response()->json(IdCut::data($delivery, $cut, $plan));
    }

    /** Writes the IDs into the files of the delivery, as a new delivery that is checked. */
    #[OA\Post(path: '/api/deliveries/{delivery}/id-files', operationId: 'handInIds', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['kind'], properties: [new OA\Property(property: 'kind', type: 'string', enum: ['ids']), new OA\Property(property: 'onto', type: 'string', enum: ['copy', 'high']), new OA\Property(property: 'as', type: 'string', enum: ['materials', 'vertex-colors'])])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 201, description: 'Begun', content: new OA\JsonContent(ref: '#/components/schemas/DeliveredData'))])]
    public function handIn(OutputRequest $request, Delivery $delivery): JsonResponse
    {
        $this->needsDone($delivery);
        $new = Derived::deliver($delivery, [], "color IDs written from delivery $delivery->number", true, $request->ids());

        return response()->json(new DeliveredData($new->asset_id, $new->id, $new->number, $new->wasKnown), 201);
    }

    /** The pieces of a cut, for the screen. */
    #[OA\Get(path: '/api/deliveries/{delivery}/pieces/{output}', operationId: 'idPieces', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'output', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Light meshes of the pieces in the frame of the asset: length of a JSON header, the header, float32 positions and uint32 triangles a piece', content: new OA\MediaType(mediaType: 'application/octet-stream'))])]
    public function pieces(Delivery $delivery, Output $output): Response
    {
        abort_unless($output->delivery_id === $delivery->id && $output->kind === IdCut::KIND && $output->state === MakingState::Done, 404, 'the high poly is not cut yet');

        abort_unless(Store::has(IdCut::path($delivery, $output)), 404, 'the high poly was cut anew since');

        return Store::answer(IdCut::path($delivery, $output), null, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, max-age=86400']);
    }
}
