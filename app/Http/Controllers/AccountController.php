<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Data\FixListData;
use App\Http\Data\LetterData;
use App\Http\Data\NewTokenData;
use App\Http\Data\SentFixListData;
use App\Http\Data\TokenData;
use App\Http\Requests\AccountRequest;
use App\Http\Requests\PasswordRequest;
use App\Http\Requests\TokenRequest;
use App\Models\Letter;
use App\Models\Person;
use App\People\FixesToDo;
use App\People\Who;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\Log;
use Illuminate\Validation\ValidationException;
use Laravel\Sanctum\PersonalAccessToken;
use OpenApi\Attributes as OA;
use RuntimeException;
use Symfony\Component\HttpFoundation\Response;

/**
 * What somebody does with their own account. A token does none of it.
 */
final class AccountController extends Controller
{
    #[OA\Put(path: '/api/me', operationId: 'changeMe', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['name'], properties: [new OA\Property(property: 'name', type: 'string')])), responses: [new OA\Response(response: 204, description: 'Changed')])]
    public function update(AccountRequest $request): Response
    {
        self::me()->update(['name' => $request->name()]);

        return response()->noContent();
    }

    #[OA\Post(path: '/api/me/password', operationId: 'changePassword', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['current', 'password'], properties: [new OA\Property(property: 'current', type: 'string'), new OA\Property(property: 'password', type: 'string'), new OA\Property(property: 'endTokens', description: 'true: ends the tokens, too', type: 'boolean')])), responses: [new OA\Response(response: 204, description: 'Changed; other sessions are ended')])]
    public function password(PasswordRequest $request): Response
    {
        $me = self::me();
        if ($me->password === null || ! Hash::check($request->string('current')->toString(), $me->password)) {
            throw ValidationException::withMessages(['current' => 'that is not your present password']);
        }
        DB::transaction(function () use ($request, $me): void {
            $me->update(['password' => $request->string('password')->toString()]);
            $me->endLinks();
            $this->endOthers($request, $me, $request->boolean('endTokens'));
        });
        Log::info('password changed', ['person' => $me->id]);

        return response()->noContent();
    }

    /** Ends all other sessions; the one at hand goes on. */
    #[OA\Delete(path: '/api/me/sessions', operationId: 'signOutEverywhere', requestBody: new OA\RequestBody(content: new OA\JsonContent(properties: [new OA\Property(property: 'endTokens', description: 'whether the tokens are ended, too; they are unless it is false', type: 'boolean')])), responses: [new OA\Response(response: 204, description: 'Ended')])]
    public function signOutEverywhere(Request $request): Response
    {
        $me = self::me();
        $this->endOthers($request, $me, $request->boolean('endTokens', true));
        Log::info('signed out everywhere', ['person' => $me->id]);

        return response()->noContent();
    }

    private function endOthers(Request $request, Person $me, bool $withTokens): void
    {
        if ($withTokens) {
            $me->tokens()->delete();
        }
        DB::table('sessions')->where('user_id', $me->id)->where('id', '!=', $request->hasSession() ? $request->session()->getId() : '')->delete();
    }

    #[OA\Get(path: '/api/me/tokens', operationId: 'tokens', responses: [new OA\Response(response: 200, description: 'Tokens', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: '#/components/schemas/TokenData')))])]
    public function tokens(): JsonResponse
    {
        return response()->json(array_values(self::me()->tokens()->orderBy('id')->get()->map(static fn (PersonalAccessToken $one): TokenData => new TokenData(
            (int) $one->id, $one->name, array_values(array_filter($one->abilities ?? [], is_string(...))), (string) $one->created_at?->toIso8601String(), $one->last_used_at?->toIso8601String(), $one->expires_at?->toIso8601String(),
        ))->all()));
    }

    #[OA\Post(path: '/api/me/tokens', operationId: 'makeToken', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['name', 'scopes'], properties: [new OA\Property(property: 'name', type: 'string'), new OA\Property(property: 'scopes', type: 'array', items: new OA\Items(type: 'string', enum: ['read', 'hand-in', 'decide'])), new OA\Property(property: 'days', description: 'that it is good for; without it, for good', type: 'integer', nullable: true)])), responses: [new OA\Response(response: 201, description: 'Made; it is said this once', content: new OA\JsonContent(ref: '#/components/schemas/NewTokenData'))])]
    public function makeToken(TokenRequest $request): JsonResponse
    {
        $me = self::me();
        $made = $me->createToken($request->name(), $request->scopes(), $request->days() === null ? null : now()->addDays($request->days()));
        Log::info('token made', ['person' => $me->id, 'token' => $made->accessToken->id, 'scopes' => $request->scopes()]);

        return response()->json(new NewTokenData($made->plainTextToken), 201);
    }

    #[OA\Delete(path: '/api/me/tokens/{token}', operationId: 'revokeToken', parameters: [new OA\Parameter(name: 'token', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Revoked')])]
    public function revokeToken(string $token): Response
    {
        // Another's is not there.
        abort_unless(preg_match('/^[1-9]\d{0,17}$/D', $token) === 1 && self::me()->tokens()->whereKey((int) $token)->delete() === 1, 404, 'there is no such token');
        Log::info('token revoked', ['person' => self::me()->id, 'token' => (int) $token]);

        return response()->noContent();
    }

    #[OA\Get(path: '/api/me/fix-lists', operationId: 'myFixLists', responses: [new OA\Response(response: 200, description: 'What is to be mended', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: '#/components/schemas/SentFixListData')))])]
    public function fixLists(): JsonResponse
    {
        return response()->json(array_map(static fn (FixListData $one): SentFixListData => new SentFixListData($one->id, $one->asset, $one->assetId, $one->deliveryId, $one->delivery, $one->by, $one->sentAt, count($one->causes), $one->mended, $one->against), FixesToDo::of(self::me())));
    }

    #[OA\Get(path: '/api/me/letters', operationId: 'letters', responses: [new OA\Response(response: 200, description: 'Mail, the newest first', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: '#/components/schemas/LetterData')))])]
    public function letters(): JsonResponse
    {
        return response()->json(array_values(SessionController::letters(self::me())->orderByDesc('id')->limit(200)->get()->map(static fn (Letter $one): LetterData => new LetterData($one->id, $one->to, $one->subject, $one->text, $one->created_at->toIso8601String(), $one->read_at !== null))->all()));
    }

    #[OA\Post(path: '/api/me/letters/{letter}/read', operationId: 'readLetter', parameters: [new OA\Parameter(name: 'letter', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Read')])]
    public function readLetter(Letter $letter): Response
    {
        abort_unless(SessionController::letters(self::me())->whereKey($letter->id)->exists(), 404, 'there is no such mail');
        $letter->update(['read_at' => $letter->read_at ?? now()]);

        return response()->noContent();
    }

    private static function me(): Person
    {
        return Who::person() ?? throw new RuntimeException('nobody is signed in');
    }
}
