<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Formats\FormatCatalogue;
use Anvil\Formats\PlainName;
use App\Deliveries\Store;
use App\Http\Data\UploadData;
use App\Http\Requests\PieceRequest;
use App\Http\Requests\UploadRequest;
use App\Models\Upload;
use App\People\Who;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Number;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;

/**
 * Files come in piece by piece and go straight to disk; an upload that broke off goes on where it stopped.
 */
final class UploadController extends Controller
{
    private const BLOCK = 1 << 20;

    #[OA\Post(path: '/api/uploads', operationId: 'beginUpload', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['name', 'bytes'], properties: [new OA\Property(property: 'name', type: 'string'), new OA\Property(property: 'bytes', type: 'integer')])), responses: [new OA\Response(response: 201, description: 'Begun', content: new OA\JsonContent(ref: '#/components/schemas/UploadData')), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function store(UploadRequest $request): JsonResponse
    {
        $name = $request->string('name')->toString();
        $bytes = $request->integer('bytes');
        $largest = config()->integer('anvil.largest_upload');
        $ending = strtolower(pathinfo($name, PATHINFO_EXTENSION));
        $refusal = match (true) {
            preg_match('#[/\\\\]#', $name) === 1 || in_array($name, ['.', '..'], true) => 'the name holds a path or control characters; hand in plain file names',
            ! in_array($ending, FormatCatalogue::SIDE_ENDINGS, true) && ! FormatCatalogue::isExplodePlan($name) && FormatCatalogue::refusalOf($ending) !== null => FormatCatalogue::refusalOf($ending),
            strlen($name) > 4000 => 'the name is too long',
            ! PlainName::is($name) => 'the name holds a line break or another control character; rename the file',
            $bytes > $largest => 'it is '.Number::fileSize($bytes).'; at most '.Number::fileSize($largest).' is taken',
            $bytes === 0 => 'the file is empty; export it again',
            default => null,
        };
        if ($refusal !== null) {
            throw ValidationException::withMessages(['name' => "$name: $refusal"]);
        }
        Store::needsRoom(2 * $bytes, 'this file');
        $upload = Upload::query()->create(['name' => $name, 'bytes' => $bytes, 'uploaded_by' => $this->user(), 'person_id' => Who::person()?->id]);
        Store::here()->put($upload->path(), '');

        return response()->json(self::data($upload), 201);
    }

    /** How far an upload has come, so that a browser that was closed goes on with it. */
    #[OA\Get(path: '/api/uploads/{upload}', operationId: 'upload', parameters: [new OA\Parameter(name: 'upload', in: 'path', required: true, schema: new OA\Schema(type: 'string'))], responses: [new OA\Response(response: 200, description: 'How far it has come', content: new OA\JsonContent(ref: '#/components/schemas/UploadData'))])]
    public function show(Upload $upload): JsonResponse
    {
        self::needsOwn($upload);

        return response()->json(self::data($upload));
    }

    #[OA\Put(path: '/api/uploads/{upload}', operationId: 'continueUpload', parameters: [new OA\Parameter(name: 'upload', in: 'path', required: true, schema: new OA\Schema(type: 'string')), new OA\Parameter(name: 'offset', in: 'query', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Taken', content: new OA\JsonContent(ref: '#/components/schemas/UploadData')), new OA\Response(response: 409, description: 'Another offset is wanted', content: new OA\JsonContent(ref: '#/components/schemas/UploadData'))])]
    public function update(PieceRequest $request, Upload $upload): JsonResponse
    {
        self::needsOwn($upload);
        $offset = $request->integer('offset');
        $piece = $request->getContent(true);
        $buffer = fopen('php://temp/maxmemory:'.self::BLOCK, 'w+b');
        $length = $buffer === false ? 0 : (int) stream_copy_to_stream($piece, $buffer);
        if ($buffer === false || $length === 0) {
            throw ValidationException::withMessages(['name' => "$upload->name: the piece is empty"]);
        }

        // One piece at a time: of two that come at once, the second sees what the first has written.
        return DB::transaction(function () use ($upload, $offset, $length, $buffer): JsonResponse {
            $locked = Upload::query()->whereKey($upload->id)->lockForUpdate()->firstOrFail();
            $file = fopen(Store::here()->path($locked->path()), 'r+b');
            if ($file === false) {
                abort(410, 'the upload is gone; begin it again');
            }
            try {
                return $this->take($locked, $file, $offset, $length, $buffer);
            } finally {
                fclose($file);
                fclose($buffer);
            }
        });
    }

    /**
     * @param  resource  $file
     * @param  resource  $buffer
     */
    private function take(Upload $upload, $file, int $offset, int $length, $buffer): JsonResponse
    {
        if ($offset + $length > $upload->bytes) {
            throw ValidationException::withMessages(['name' => "$upload->name: more bytes came than were announced; hand it in again"]);
        }
        rewind($buffer);
        if ($offset !== $upload->received) {
            // A piece that came in before, and whose answer was lost on the way, is taken as come in.
            $isKnown = $offset + $length <= $upload->received && fseek($file, $offset) === 0 && (string) fread($file, max(1, $length)) === stream_get_contents($buffer);

            return response()->json(self::data($upload), $isKnown ? 200 : 409);
        }
        fseek($file, $offset);
        $written = stream_copy_to_stream($buffer, $file);
        if ($written !== $length || ! fflush($file)) {
            ftruncate($file, max(0, $offset));
            abort(507, 'the disk is full; free some space, then the upload goes on where it is');
        }
        $upload->update(['received' => $offset + $length]);

        return response()->json(self::data($upload));
    }

    private static function data(Upload $upload): UploadData
    {
        return new UploadData($upload->id, $upload->name, $upload->bytes, $upload->received ?? 0);
    }

    /** An upload is its own's who began it: to others it is not there. */
    private static function needsOwn(Upload $upload): void
    {
        abort_unless($upload->person_id === Who::person()?->id, 404, 'there is no such upload');
    }
}
