<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Anvil\Formats\FormatCatalogue;
use App\Http\Data\UploadData;
use App\Models\Upload;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Storage;
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
    public function store(Request $request): JsonResponse
    {
        $request->validate(['name' => ['required', 'string', 'max:200'], 'bytes' => ['required', 'integer', 'min:0']]);
        $name = $request->string('name')->toString();
        $bytes = $request->integer('bytes');
        $largest = config()->integer('anvil.largest_upload');
        $ending = strtolower(pathinfo($name, PATHINFO_EXTENSION));
        $refusal = match (true) {
            preg_match('#[/\\\\\x00-\x1f]#', $name) === 1 || in_array($name, ['.', '..'], true) => 'the name holds a path or control characters; hand in plain file names',
            ! in_array($ending, FormatCatalogue::SIDE_ENDINGS, true) && ! FormatCatalogue::isExplodePlan($name) && FormatCatalogue::refusalOf($ending) !== null => FormatCatalogue::refusalOf($ending),
            $bytes > $largest => 'it is '.Number::fileSize($bytes).'; at most '.Number::fileSize($largest).' is taken',
            $bytes === 0 => 'the file is empty; export it again',
            default => null,
        };
        if ($refusal !== null) {
            throw ValidationException::withMessages(['name' => "$name: $refusal"]);
        }
        $upload = Upload::query()->create(['name' => $name, 'bytes' => $bytes, 'uploaded_by' => $this->user()]);
        Storage::put($upload->path(), '');

        return response()->json(self::data($upload), 201);
    }

    #[OA\Put(path: '/api/uploads/{upload}', operationId: 'continueUpload', parameters: [new OA\Parameter(name: 'upload', in: 'path', required: true, schema: new OA\Schema(type: 'string')), new OA\Parameter(name: 'offset', in: 'query', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Taken', content: new OA\JsonContent(ref: '#/components/schemas/UploadData')), new OA\Response(response: 409, description: 'Another offset is wanted', content: new OA\JsonContent(ref: '#/components/schemas/UploadData'))])]
    public function update(Request $request, Upload $upload): JsonResponse
    {
        if ($request->integer('offset', -1) !== $upload->received) {
            return response()->json(self::data($upload), 409);
        }
        $in = $request->getContent(true);
        $out = fopen(Storage::path($upload->path()), 'r+b');
        if ($out === false) {
            abort(410, 'the upload is gone; begin it again');
        }
        fseek($out, $upload->received);
        $received = $upload->received;
        while (! feof($in)) {
            $block = (string) fread($in, self::BLOCK);
            $received += strlen($block);
            if ($received > $upload->bytes) {
                fclose($out);
                throw ValidationException::withMessages(['name' => "$upload->name: more bytes came than were announced; hand it in again"]);
            }
            fwrite($out, $block);
        }
        fclose($out);
        $upload->update(['received' => $received]);

        return response()->json(self::data($upload));
    }

    private static function data(Upload $upload): UploadData
    {
        return new UploadData($upload->id, $upload->name, $upload->bytes, $upload->received ?? 0);
    }
}
