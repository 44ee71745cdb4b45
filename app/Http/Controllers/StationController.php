<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Deliveries\DeliveryPage;
use App\Deliveries\Stations\ClearancePage;
use App\Deliveries\Stations\ColorIdPage;
use App\Deliveries\Stations\HandOffPage;
use App\Deliveries\Stations\IntakePage;
use App\Deliveries\Stations\PairingPage;
use App\Deliveries\Stations\SetsPage;
use App\Deliveries\Stations\SurfacePage;
use App\Http\Data\DeliveryProgressData;
use App\Http\Middleware\Unchanged;
use App\Models\Delivery;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;

/**
 * What each station shows of a delivery, and how far it is. Answers carry an ETag (`Unchanged`).
 */
final class StationController extends Controller
{
    #[OA\Get(path: '/api/deliveries/{delivery}/progress', operationId: 'progress', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'How far it is', content: new OA\JsonContent(ref: '#/components/schemas/DeliveryProgressData'))])]
    public function progress(Request $request, Delivery $delivery): JsonResponse
    {
        return response()->json(new DeliveryProgressData(Unchanged::markOf($request), $delivery->state, $delivery->error, DeliveryPage::progress($delivery)));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/intake', operationId: 'intake', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Intake', content: new OA\JsonContent(ref: '#/components/schemas/IntakeData'))])]
    public function intake(Delivery $delivery): JsonResponse
    {
        return response()->json(IntakePage::of($delivery));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/pairing', operationId: 'pairing', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Pairing', content: new OA\JsonContent(ref: '#/components/schemas/PairingData'))])]
    public function pairing(Delivery $delivery): JsonResponse
    {
        return response()->json(PairingPage::of($delivery));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/sets', operationId: 'sets', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Sets', content: new OA\JsonContent(ref: '#/components/schemas/SetsData'))])]
    public function sets(Delivery $delivery): JsonResponse
    {
        return response()->json(SetsPage::of($delivery));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/color-id', operationId: 'colorId', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Color ID', content: new OA\JsonContent(ref: '#/components/schemas/ColorIdData'))])]
    public function colorId(Delivery $delivery): JsonResponse
    {
        return response()->json(ColorIdPage::of($delivery));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/clearance', operationId: 'clearance', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Clearance', content: new OA\JsonContent(ref: '#/components/schemas/ClearanceData'))])]
    public function clearance(Delivery $delivery): JsonResponse
    {
        return response()->json(ClearancePage::of($delivery));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/surface', operationId: 'surface', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Surface', content: new OA\JsonContent(ref: '#/components/schemas/SurfaceData'))])]
    public function surface(Delivery $delivery): JsonResponse
    {
        return response()->json(SurfacePage::of($delivery));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/hand-off', operationId: 'handOff', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'Hand-off', content: new OA\JsonContent(ref: '#/components/schemas/HandOffData'))])]
    public function handOff(Delivery $delivery): JsonResponse
    {
        return response()->json(HandOffPage::of($delivery));
    }
}
