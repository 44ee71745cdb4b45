<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Data\PersonData;
use App\Http\Requests\PersonRequest;
use App\Models\Person;
use App\People\Leave;
use App\People\Letters;
use App\People\Standing;
use App\People\Who;
use Illuminate\Auth\Passwords\PasswordBroker;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Password;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use RuntimeException;
use Symfony\Component\HttpFoundation\Response;

/**
 * The people of the studio, looked after by leads.
 */
final class PeopleController extends Controller
{
    #[OA\Get(path: '/api/people', operationId: 'people', responses: [new OA\Response(response: 200, description: 'Who works here', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: '#/components/schemas/PersonData')))])]
    public function index(): JsonResponse
    {
        $isLead = Who::person()?->may(Leave::People) === true;
        $people = Person::query()->orderBy('name')->orderBy('id');
        if (! $isLead) {
            $people->whereNull('disabled_at');
        }

        return response()->json(array_values($people->get()->map(static fn (Person $one): PersonData => new PersonData(
            $one->id, $one->name, $isLead ? $one->email : null, $one->role,
            $one->disabled_at !== null ? 'locked out' : ($one->password === null && ! $one->is_demo ? 'invited' : 'active'), $isLead ? $one->signed_in_at?->toIso8601String() : null,
        ))->all()));
    }

    #[OA\Post(path: '/api/people', operationId: 'invite', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['name', 'email', 'role'], properties: [new OA\Property(property: 'name', type: 'string'), new OA\Property(property: 'email', type: 'string'), new OA\Property(property: 'role', ref: '#/components/schemas/Standing')])), responses: [new OA\Response(response: 201, description: 'Invited'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function store(PersonRequest $request): JsonResponse
    {
        if (Person::query()->where('email', $request->email())->exists()) {
            throw ValidationException::withMessages(['email' => 'there is somebody with this e-mail already']);
        }
        $person = Person::query()->create(['name' => $request->name(), 'email' => $request->email(), 'role' => $request->role()]);
        $isSent = Letters::invite($person, self::invites()->createToken($person), $this->user());
        Log::info('person invited', ['by' => Who::person()?->id, 'person' => $person->id, 'role' => $person->role->value]);

        return response()->json(['id' => $person->id, 'sent' => $isSent], 201);
    }

    #[OA\Put(path: '/api/people/{person}', operationId: 'changePerson', parameters: [new OA\Parameter(name: 'person', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['role', 'lockedOut'], properties: [new OA\Property(property: 'role', ref: '#/components/schemas/Standing'), new OA\Property(property: 'lockedOut', type: 'boolean')])), responses: [new OA\Response(response: 204, description: 'Changed'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function update(PersonRequest $request, Person $person): Response
    {
        $locked = $request->boolean('lockedOut');
        DB::transaction(static function () use ($request, $person, $locked): void {
            $leads = Person::query()->where('role', Standing::Lead)->whereNull('disabled_at')->where(static fn ($one) => $one->whereNotNull('password')->orWhere('is_demo', true))->lockForUpdate()->pluck('id')->all();
            if ($leads === [$person->id] && ($locked || $request->role() !== Standing::Lead)) {
                throw ValidationException::withMessages(['role' => "$person->name is the only lead; make somebody else one first"]);
            }
            $person->update(['role' => $request->role(), 'disabled_at' => $locked ? ($person->disabled_at ?? now()) : null]);
            if ($locked) {
                DB::table('sessions')->where('user_id', $person->id)->delete();
                $person->tokens()->delete();
            }
        });
        Log::info('person changed', ['by' => Who::person()?->id, 'person' => $person->id, 'role' => $request->role()->value, 'lockedOut' => $locked]);

        return response()->noContent();
    }

    /** Sends the link again that sets a password. */
    #[OA\Post(path: '/api/people/{person}/invite', operationId: 'inviteAgain', parameters: [new OA\Parameter(name: 'person', in: 'path', required: true, schema: new OA\Schema(type: 'integer'))], responses: [new OA\Response(response: 204, description: 'Sent'), new OA\Response(response: 422, description: 'Refused, in words')])]
    public function invite(Person $person): Response
    {
        if ($person->disabled_at !== null || $person->is_demo) {
            throw ValidationException::withMessages(['person' => "$person->name is locked out, or of the demo"]);
        }
        if (! Letters::invite($person, self::invites()->createToken($person), $this->user())) {
            throw ValidationException::withMessages(['person' => 'the mail could not be sent; the log says why']);
        }

        return response()->noContent();
    }

    public static function invites(): PasswordBroker
    {
        $broker = Password::broker('invites');

        return $broker instanceof PasswordBroker ? $broker : throw new RuntimeException('invitations are not set up');
    }
}
