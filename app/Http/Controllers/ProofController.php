<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Asset\GivenMap;
use App\Deliveries\DisplayFile;
use App\Deliveries\Stations\ProofPage;
use App\Deliveries\Store;
use App\Deliveries\Trial;
use App\Http\Requests\MapsRequest;
use App\Http\Requests\ProofRequest;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\State\DeliveryState;
use App\Models\State\FileState;
use App\Models\State\MakingState;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * The trial bake, and the maps that came back.
 */
final class ProofController extends Controller
{
    /** More maps than this a delivery has none. */
    private const MOST_MAPS = 400;

    #[OA\Get(path: '/api/deliveries/{delivery}/proof', operationId: 'proof', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Proof', content: new OA\JsonContent(ref: '#/components/schemas/ProofData'))])]
    public function show(Delivery $delivery): JsonResponse
    {
        return response()->json(ProofPage::of($delivery));
    }

    /** Begins what is not there yet, nor being made. */
    #[OA\Post(path: '/api/deliveries/{delivery}/proof', operationId: 'bakeTrial', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(properties: [new OA\Property(property: 'size', description: 'px, 64 to 2048', type: 'integer'), new OA\Property(property: 'samples', type: 'integer', enum: [1, 4]), new OA\Property(property: 'through', type: 'string', enum: ['in-use', 'reach', 'fitted']), new OA\Property(property: 'exploded', description: 'occlusion in the exploded layout', type: 'boolean'), new OA\Property(property: 'page', description: 'one page; without it all', type: 'string')])), responses: [new OA\Response(response: 204, description: 'Begun'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function bake(ProofRequest $request, Delivery $delivery): Response
    {
        $this->needsDone($delivery);
        $pages = ProofPage::pages($delivery);
        if ($pages === []) {
            throw ValidationException::withMessages(['delivery' => 'there is no page to bake: the low poly has no UVs, or was measured by an earlier version']);
        }
        if ($request->has('page')) {
            $pages = array_values(array_intersect($pages, [$request->string('page')->toString()]));
            if ($pages === []) {
                throw ValidationException::withMessages(['page' => 'there is no such page in this delivery']);
            }
        }
        $size = min($request->integer('size', 256), $delivery->asset->rules()->mapSize);
        $samples = $request->integer('samples', 1);
        DB::transaction(function () use ($request, $delivery, $pages, $size, $samples): void {
            Delivery::query()->whereKey($delivery->id)->lockForUpdate()->first();
            Trial::begin($delivery, $pages, $size, $samples, $request->through(), $request->boolean('exploded'), $this->user());
        });

        return response()->noContent();
    }

    #[OA\Post(path: '/api/deliveries/{delivery}/proof/{output}/cancel', operationId: 'cancelTrial', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'output', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Cancelled')])]
    public function cancelTrial(Delivery $delivery, Output $output): Response
    {
        abort_unless($output->delivery_id === $delivery->id && $output->kind === Trial::KIND, 404);
        DB::transaction(function () use ($output): void {
            $row = Output::query()->whereKey($output->id)->lockForUpdate()->first();
            if ($row !== null && $row->state !== MakingState::Done) {
                $row->update(['state' => MakingState::Failed, 'error' => "cancelled by {$this->user()}"]);
            }
        });

        return response()->noContent();
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/proof/{output}/{kind}', operationId: 'trialMap', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'output', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'kind', in: 'path', required: true, schema: new OA\Schema(type: 'string', enum: ['normal', 'ao', 'id', 'height', 'miss', 'rays']))], responses: [new OA\Response(response: 200, description: 'A trial map as PNG; or, of each texel from the top, low point and high point as six float32', content: [new OA\MediaType(mediaType: 'image/png'), new OA\MediaType(mediaType: 'application/octet-stream')])])]
    public function map(Delivery $delivery, Output $output, string $kind): Response
    {
        abort_unless($output->delivery_id === $delivery->id && $output->kind === Trial::KIND && $output->state === MakingState::Done, 404, 'this map is not baked yet');
        $path = Trial::path($delivery, $output, $kind);
        abort_unless(Store::has($path), 404, 'this map is not baked yet');

        // Another trial has another number.
        return Store::answer($path, null, ['Content-Type' => $kind === 'rays' ? 'application/octet-stream' : 'image/png', 'Cache-Control' => 'private, max-age=86400']);
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/retouch/{page}', operationId: 'retouchMask', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'page', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'The retouch mask at the map size, PNG', content: new OA\MediaType(mediaType: 'image/png'))])]
    public function retouch(Delivery $delivery, int $page): Response
    {
        $path = DisplayFile::proofPath($delivery, "retouch-$page.png");
        abort_unless(Store::has($path), 404, 'the retouch mask is not ready yet');

        return Store::answer($path, null, ['Content-Type' => 'image/png', 'Cache-Control' => 'no-cache', 'Content-Disposition' => "inline; filename=\"{$delivery->asset->key}_$page".'_retouch.png"']);
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/maps/{number}/{what}', operationId: 'returnedMap', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'number', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'what', in: 'path', required: true, schema: new OA\Schema(type: 'string', enum: ['map', 'difference']))], responses: [new OA\Response(response: 200, description: 'A map that came back at the size of the trial, or how far each texel is off: 128 as far as it may', content: new OA\MediaType(mediaType: 'image/png'))])]
    public function returned(Delivery $delivery, int $number, string $what): Response
    {
        $path = DisplayFile::proofPath($delivery, "$what-$number.png");
        abort_unless(Store::has($path), 404, 'this map is not judged yet');

        return Store::answer($path, null, ['Content-Type' => 'image/png', 'Cache-Control' => 'no-cache']);
    }

    /** Adds maps that came back to a delivery, and judges them. One of a name, kind and page that is there already takes its place. */
    #[OA\Post(path: '/api/deliveries/{delivery}/maps', operationId: 'handInMaps', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['uploads'], properties: [new OA\Property(property: 'uploads', type: 'array', items: new OA\Items(type: 'string')), new OA\Property(property: 'kind', description: 'where names do not tell', type: 'string', enum: ['normal', 'ao', 'id', 'height']), new OA\Property(property: 'page', description: 'where names do not tell', type: 'string')])), responses: [new OA\Response(response: 204, description: 'Taken'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function maps(MapsRequest $request, Delivery $delivery): Response
    {
        if ($delivery->state === DeliveryState::Writing) {
            throw ValidationException::withMessages(['delivery' => 'its mended files are being written; wait for them']);
        }
        $found = Upload::own()->findMany($request->uploads())->keyBy('id');
        $uploads = array_map(static fn (string $id): Upload => $found[$id] ?? throw ValidationException::withMessages(['uploads' => 'one of these files was not uploaded, or was handed in already; hand them in again']), $request->uploads());
        foreach ($uploads as $upload) {
            if ($upload->received !== $upload->bytes) {
                throw ValidationException::withMessages(['uploads' => "$upload->name: only $upload->received of $upload->bytes bytes have come in; hand it in again"]);
            }
            if (! in_array(strtolower(pathinfo($upload->name, PATHINFO_EXTENSION)), GivenMap::ENDINGS, true)) {
                throw ValidationException::withMessages(['uploads' => "$upload->name is no map: maps come back as PNG, TGA or TIFF"]);
            }
        }
        if ($delivery->files()->where('kind', 'map')->count() + count($uploads) > self::MOST_MAPS) {
            throw ValidationException::withMessages(['uploads' => 'a delivery takes at most '.self::MOST_MAPS.' maps']);
        }
        $stored = [];
        try {
            foreach ($uploads as $upload) {
                $path = $delivery->folder().'/maps/'.Str::uuid()->toString();
                Store::copy(Store::here()->path($upload->path()), $path);
                $stored[] = [$upload, $path, (string) hash_file('sha256', Store::here()->path($upload->path()))];
            }
            $this->startOver($delivery, function (Delivery $delivery) use ($request, $stored): void {
                $last = $delivery->files()->max('position');
                $next = is_numeric($last) ? (int) $last + 1 : 0;
                foreach ($stored as $number => [$upload, $path, $sha256]) {
                    // The one that it takes the place of stays as it is, but is judged no more.
                    $delivery->files()->where('kind', 'map')->where('name', $upload->name)->where('role', $request->kind())->where('page', $request->page())->update(['kind' => 'replaced']);
                    $delivery->files()->create([
                        'position' => $next + $number, 'name' => $upload->name, 'path' => $path, 'kind' => 'map', 'role' => $request->kind(), 'page' => $request->page(), 'bytes' => $upload->bytes,
                        'state' => FileState::Read, 'sha256' => $sha256,
                    ]);
                }
                $delivery->asset->update(['changed_by' => $this->user()]);
                Upload::query()->whereIn('id', array_map(static fn (array $one): string => $one[0]->id, $stored))->delete();
            });
        } catch (\Throwable $error) {
            array_map(static fn (array $one) => Store::dropFile($one[1]), $stored);
            throw $error;
        }
        foreach ($stored as [$upload]) {
            Store::here()->delete($upload->path());
        }

        return response()->noContent();
    }

    /** Takes a map that came back out of the delivery's judgement; the file stays. */
    #[OA\Post(path: '/api/deliveries/{delivery}/maps/{file}/take-back', operationId: 'takeMapBack', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'file', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Taken back')])]
    public function takeBack(Delivery $delivery, File $file): Response
    {
        abort_unless($file->delivery_id === $delivery->id && $file->kind === 'map', 404);
        $this->startOver($delivery, static function () use ($file): void {
            $file->update(['kind' => 'replaced']);
        });

        return response()->noContent();
    }
}
