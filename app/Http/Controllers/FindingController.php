<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Deliveries\ChangesPage;
use App\Deliveries\FixLists;
use App\Deliveries\Waivers;
use App\Http\Data\EventData;
use App\Http\Data\HistoryData;
use App\Http\Requests\SendBackRequest;
use App\Http\Requests\WaiveRequest;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Event;
use App\Models\Finding;
use App\Models\FixList;
use App\Models\Person;
use App\Models\Waiver;
use App\People\Decisions;
use App\People\Letters;
use App\People\Who;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\Response;

/**
 * What becomes of findings: waived, sent back, mended; and what changed and was done.
 */
final class FindingController extends Controller
{
    /** Events that are told at once. */
    private const PAGE = 200;

    /** Accepts findings, with a reason, and if wanted until a day. */
    #[OA\Post(path: '/api/deliveries/{delivery}/waivers', operationId: 'waive', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['findings', 'reason'], properties: [new OA\Property(property: 'findings', description: 'their numbers', type: 'array', items: new OA\Items(type: 'integer')), new OA\Property(property: 'reason', type: 'string'), new OA\Property(property: 'until', description: 'the last day, 2026-12-24', type: 'string', nullable: true)])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Waived'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function waive(WaiveRequest $request, Delivery $delivery): Response
    {
        $this->needsDone($delivery);
        // Of another delivery, or none at all: they are not there.
        $findings = $delivery->findings()->whereKey($request->findings())->get();
        if ($findings->count() !== count($request->findings())) {
            throw ValidationException::withMessages(['findings' => 'one of these findings is not there any more; look again']);
        }
        $never = $findings->first(static fn (Finding $one): bool => in_array($one->code, ['file-unreadable', 'waiver-died'], true));
        if ($never !== null) {
            throw ValidationException::withMessages(['findings' => $never->code === 'waiver-died' ? 'waive the finding that got worse itself, at its new value' : 'a file that cannot be read cannot be accepted; hand in another']);
        }
        $this->startOver($delivery, function (Delivery $delivery) use ($request, $findings): void {
            foreach ($findings as $finding) {
                // One waiver a finding: what is accepted now takes the place of what was.
                foreach (Waivers::inForce($delivery) as $old) {
                    if (Waivers::isOf(Waivers::on($old, $delivery), $finding)) {
                        $old->update(['withdrawn_at' => now(), 'withdrawn_by' => $this->user()]);
                    }
                }
                Waiver::query()->create([
                    'asset_id' => $delivery->asset_id, 'delivery_id' => $delivery->id, 'code' => $finding->code, 'subject' => Waivers::subject($finding->subject), 'measure' => $finding->measure, 'message' => $finding->message,
                    'reason' => $request->reason(), 'until' => $request->until(), 'person_id' => Who::person()?->id, 'by' => $this->user(),
                ]);
            }
            $delivery->asset->update(['changed_by' => $this->user()]);
            $count = $findings->count();
            $areas = $findings->map(static fn (Finding $one): string => self::areaOf($one->code, Waivers::subject($one->subject)))->unique()->implode(' ');
            Decisions::record($delivery->asset, $delivery, [$areas => 'waived '.($count === 1 ? '1 finding' : "$count findings").' of '.implode(', ', array_unique($findings->map(static fn (Finding $one): string => $one->code)->all())).($request->until() === null ? '' : " until {$request->until()}").": {$request->reason()}"]);
        });

        return response()->noContent();
    }

    /** Takes a waiver back. */
    #[OA\Delete(path: '/api/deliveries/{delivery}/waivers/{waiver}', operationId: 'withdraw', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer')), new OA\Parameter(name: 'waiver', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 204, description: 'Taken back')])]
    public function withdraw(Delivery $delivery, Waiver $waiver): Response
    {
        abort_unless($waiver->asset_id === $delivery->asset_id && $waiver->withdrawn_at === null, 404, 'there is no such waiver');
        $this->startOver($delivery, function (Delivery $delivery) use ($waiver): void {
            // Of two who take it back at once, one does.
            abort_unless(Waiver::query()->whereKey($waiver->id)->whereNull('withdrawn_at')->update(['withdrawn_at' => now(), 'withdrawn_by' => $this->user()]) === 1, 404, 'there is no such waiver');
            $delivery->asset->update(['changed_by' => $this->user()]);
            Decisions::record($delivery->asset, $delivery, [self::areaOf($waiver->code, $waiver->subject) => "took back the waiver of $waiver->code by $waiver->by"]);
        });

        return response()->noContent();
    }

    /** Sends causes to an artist to be mended: a fix list, and a mail that leads to it. */
    #[OA\Post(path: '/api/deliveries/{delivery}/fix-lists', operationId: 'sendBack', parameters: [new OA\Parameter(ref: '#/components/parameters/Version'), new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['causes', 'to'], properties: [new OA\Property(property: 'causes', description: 'their numbers', type: 'array', items: new OA\Items(type: 'integer')), new OA\Property(property: 'to', description: 'the number of a person', type: 'integer'), new OA\Property(property: 'note', type: 'string', nullable: true)])), responses: [new OA\Response(response: 409, ref: '#/components/responses/ChangedMeanwhile'), new OA\Response(response: 201, description: 'Sent'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function sendBack(SendBackRequest $request, Delivery $delivery): JsonResponse
    {
        $this->needsDone($delivery);
        $to = Person::query()->whereNull('disabled_at')->find($request->integer('to'));
        if ($to === null) {
            throw ValidationException::withMessages(['to' => 'there is no such person, or they are locked out']);
        }
        $causes = array_values(array_filter(FixLists::causes($delivery, $request->causes()), static fn (array $one): bool => $one['findings'] !== []));
        if (count($causes) !== count($request->causes())) {
            throw ValidationException::withMessages(['causes' => 'one of these causes is waived, or not there any more; look again']);
        }
        $list = DB::transaction(function () use ($delivery, $to, $request, $causes): FixList {
            Asset::query()->whereKey($delivery->asset_id)->lockForUpdate()->first();
            $list = FixList::query()->create(['asset_id' => $delivery->asset_id, 'delivery_id' => $delivery->id, 'person_id' => $to->id, 'to' => $to->name, 'by' => $this->user(), 'note' => $request->note(), 'causes' => $causes]);
            $delivery->asset->update(['changed_by' => $this->user()]);
            $count = count($causes);
            $areas = implode(' ', array_map(static fn (array $one): string => Decisions::area('cause', (string) json_encode([$one['code'], $one['message']], JSON_INVALID_UTF8_SUBSTITUTE)), $causes));
            Decisions::record($delivery->asset, $delivery, [$areas => "sent $count ".($count === 1 ? 'cause' : 'causes')." back to $to->name"]);

            return $list;
        });
        $count = count($causes);
        $lines = array_map(static fn (array $one): string => '- '.(is_string($one['message']) ? $one['message'] : '')."\n  ".(is_string($one['remedy']) ? $one['remedy'] : ''), $causes);
        $isSent = Letters::send($to, "{$delivery->asset->name}: $count to mend", "Hello $to->name,\n\n{$this->user()} sent {$delivery->asset->name}, delivery $delivery->number, back to you:\n\n".implode("\n", $lines).($request->note() === null ? '' : "\n\n{$request->note()}")."\n\nThe list, with a picture of each place:\n".Letters::address("/fix-lists/$list->id"));

        return response()->json(['id' => $list->id, 'sent' => $isSent], 201);
    }

    #[OA\Get(path: '/api/fix-lists/{fixList}', operationId: 'fixList', parameters: [new OA\Parameter(name: 'fixList', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'A fix list', content: new OA\JsonContent(ref: '#/components/schemas/FixListData'))])]
    public function fixList(FixList $fixList): JsonResponse
    {
        Gate::authorize('view', $fixList->delivery);

        return response()->json(FixLists::of($fixList));
    }

    /**
     * A finding that is waived, as a thing to decide on.
     *
     * @param  array<string, string>  $subject
     */
    private static function areaOf(string $code, array $subject): string
    {
        ksort($subject);

        return Decisions::area('waiver', $code, (string) json_encode($subject, JSON_INVALID_UTF8_SUBSTITUTE));
    }

    #[OA\Get(path: '/api/deliveries/{delivery}/changes', operationId: 'changes', parameters: [new OA\Parameter(name: 'delivery', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'What changed since the delivery before', content: new OA\JsonContent(ref: '#/components/schemas/ChangesData'))])]
    public function changes(Delivery $delivery): JsonResponse
    {
        return response()->json(ChangesPage::of($delivery));
    }

    #[OA\Get(path: '/api/assets/{asset}/history', operationId: 'history', parameters: [new OA\Parameter(name: 'asset', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 200, description: 'What was done', content: new OA\JsonContent(ref: '#/components/schemas/HistoryData'))])]
    public function history(Request $request, Asset $asset): JsonResponse
    {
        $deliveries = $asset->deliveries->pluck('id', 'number')->all();
        $events = Event::query()->where('asset_id', $asset->id)->orderByDesc('id')->limit(self::PAGE + 1)->get();

        return response()->json(new HistoryData($asset->name, $asset->deliveries->last()?->id, array_values($events->take(self::PAGE)->map(static fn (Event $one): EventData => new EventData(
            $one->id, $one->who, $one->via, $one->words, $one->delivery, is_int($deliveries[$one->delivery ?? 0] ?? null) ? $deliveries[$one->delivery ?? 0] : null, $one->created_at->toIso8601String(),
        ))->all()), $events->count() > self::PAGE));
    }
}
