<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Guide\Manual;
use App\Http\Data\GuidePageData;
use Illuminate\Http\JsonResponse;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * The manual: walks and checks.
 */
final class GuideController extends Controller
{
    #[OA\Get(path: '/api/guide', operationId: 'guide', responses: [new OA\Response(response: 200, description: 'The walks', content: new OA\JsonContent(type: 'array', items: new OA\Items(required: ['page', 'title'], properties: [new OA\Property(property: 'page', type: 'string'), new OA\Property(property: 'title', type: 'string')], type: 'object')))])]
    public function index(): JsonResponse
    {
        return response()->json(array_map(static fn (string $page): array => ['page' => $page, 'title' => Manual::title($page)], Manual::WALKS));
    }

    #[OA\Get(path: '/api/guide/{page}', operationId: 'guidePage', parameters: [new OA\Parameter(name: 'page', in: 'path', required: true, schema: new OA\Schema(type: 'string'))], responses: [new OA\Response(response: 200, description: 'A walk, or a check by its code', content: new OA\JsonContent(ref: '#/components/schemas/GuidePageData'))])]
    public function show(string $page): JsonResponse
    {
        abort_unless(Manual::has($page), 404, 'there is no such page in the guide');

        return response()->json(new GuidePageData($page, Manual::title($page), Manual::html($page), ! in_array($page, Manual::WALKS, true)));
    }

    #[OA\Get(path: '/api/guide/pictures/{picture}', operationId: 'guidePicture', parameters: [new OA\Parameter(name: 'picture', in: 'path', required: true, schema: new OA\Schema(type: 'string'))], responses: [new OA\Response(response: 200, description: 'A picture', content: new OA\MediaType(mediaType: 'image/png'))])]
    public function picture(string $picture): Response
    {
        $path = Manual::picture($picture);
        abort_if($path === null, 404, 'there is no such picture');

        return response()->file($path, ['Content-Type' => str_ends_with($picture, '.svg') ? 'image/svg+xml' : 'image/png', 'Cache-Control' => 'private, max-age=3600']);
    }
}
