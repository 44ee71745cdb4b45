<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Data\CrewData;
use App\Http\Data\MeData;
use App\Http\Data\SessionData;
use App\Http\Middleware\FirstOnLoopback;
use App\Http\Requests\ForgotRequest;
use App\Http\Requests\SetPasswordRequest;
use App\Http\Requests\SignInRequest;
use App\Models\Letter;
use App\Models\Person;
use App\People\Crew;
use App\People\FixesToDo;
use App\People\Leave;
use App\People\Who;
use Illuminate\Auth\SessionGuard;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Password;
use Illuminate\Validation\ValidationException;
use OpenApi\Attributes as OA;
use RuntimeException;
use Symfony\Component\HttpFoundation\Response;

/**
 * Signing in and out, and setting a password by a link.
 */
final class SessionController extends Controller
{
    #[OA\Get(path: '/api/session', operationId: 'session', responses: [new OA\Response(response: 200, description: 'Who is signed in', content: new OA\JsonContent(ref: '#/components/schemas/SessionData'))])]
    public function show(Request $request): JsonResponse
    {
        return response()->json($this->session($request));
    }

    #[OA\Post(path: '/api/session', operationId: 'signIn', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['email', 'password'], properties: [new OA\Property(property: 'email', type: 'string'), new OA\Property(property: 'password', type: 'string')])), responses: [new OA\Response(response: 200, description: 'Signed in', content: new OA\JsonContent(ref: '#/components/schemas/SessionData')), new OA\Response(response: 422, description: 'Not signed in')])]
    public function signIn(SignInRequest $request): JsonResponse
    {
        if (! self::web()->attempt(['email' => $request->email(), 'password' => $request->string('password')->toString(), 'disabled_at' => null])) {
            Log::warning('sign-in refused', ['ip' => $request->ip()]);
            // The same words whether there is such an account or not.
            throw ValidationException::withMessages(['email' => 'e-mail and password do not fit']);
        }

        return $this->begun($request);
    }

    /** Signs one of the demo's crew in; from this machine alone. */
    #[OA\Post(path: '/api/session/demo', operationId: 'signInDemo', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['person'], properties: [new OA\Property(property: 'person', type: 'integer')])), responses: [new OA\Response(response: 200, description: 'Signed in', content: new OA\JsonContent(ref: '#/components/schemas/SessionData'))])]
    public function demo(Request $request): JsonResponse
    {
        foreach (FirstOnLoopback::isLoopback($request) ? Crew::all() : [] as $person) {
            if ($person->id === $request->integer('person')) {
                self::web()->login($person);

                return $this->begun($request);
            }
        }
        abort(404, 'there is no such person in the demo');
    }

    #[OA\Delete(path: '/api/session', operationId: 'signOut', responses: [new OA\Response(response: 204, description: 'Signed out')])]
    public function signOut(Request $request): Response
    {
        if ($request->hasSession()) {
            self::web()->logout();
            $request->session()->invalidate();
            $request->session()->regenerateToken();
        }

        return response()->noContent();
    }

    /** Sends a link that sets a new password; says the same whether there is such an account or not. */
    #[OA\Post(path: '/api/password/forgot', operationId: 'forgot', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['email'], properties: [new OA\Property(property: 'email', type: 'string')])), responses: [new OA\Response(response: 204, description: 'Sent, where there is such an account')])]
    public function forgot(ForgotRequest $request): Response
    {
        $person = Person::query()->where('email', $request->email())->whereNull('disabled_at')->where('is_demo', false)->first();
        if ($person !== null) {
            // After the answer: how long it takes tells nothing.
            app()->terminating(static fn () => Password::broker('people')->sendResetLink(['email' => $person->email]));
        }

        return response()->noContent();
    }

    /** Sets a password by a link that was sent; it works once. */
    #[OA\Post(path: '/api/password', operationId: 'setPassword', requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['email', 'token', 'password'], properties: [new OA\Property(property: 'email', type: 'string'), new OA\Property(property: 'token', type: 'string'), new OA\Property(property: 'password', type: 'string'), new OA\Property(property: 'invite', type: 'boolean'), new OA\Property(property: 'name', description: 'with an invitation', type: 'string'), new OA\Property(property: 'newEmail', description: 'of the first person', type: 'string'), new OA\Property(property: 'endTokens', description: 'whether the tokens of the person are ended, too; they are unless it is false', type: 'boolean')])), responses: [new OA\Response(response: 200, description: 'Set, and signed in', content: new OA\JsonContent(ref: '#/components/schemas/SessionData')), new OA\Response(response: 422, description: 'Not set, in words')])]
    public function setPassword(SetPasswordRequest $request): JsonResponse
    {
        $isInvite = $request->boolean('invite');
        $set = null;
        // Under the person's lock: of several who use a link at once, one gets in.
        $answer = DB::transaction(function () use ($request, $isInvite, &$set): mixed {
            Person::query()->where('email', $request->email())->lockForUpdate()->first();

            return self::resetBy($request, $isInvite, $set);
        });
        if ($answer !== Password::PASSWORD_RESET || $set === null) {
            throw ValidationException::withMessages(['token' => 'this link was used already, or is too old; ask for another']);
        }
        self::web()->login($set);

        return $this->begun($request);
    }

    private static function resetBy(SetPasswordRequest $request, bool $isInvite, ?Person &$set): mixed
    {
        return Password::broker($isInvite ? 'invites' : 'people')->reset(
            ['email' => $request->email(), 'password' => $request->string('password')->toString(), 'token' => $request->string('token')->toString(), 'disabled_at' => null],
            static function (Person $person, string $password) use ($request, $isInvite, &$set): void {
                $name = $isInvite ? trim($request->string('name')->toString()) : '';
                $email = $isInvite ? $request->newEmail() : null;
                $person->update(['password' => $password, ...($name === '' ? [] : ['name' => $name]), ...($email === null ? [] : ['email' => $email])]);
                // Whoever had it before is out, by whatever way.
                DB::table('sessions')->where('user_id', $person->id)->delete();
                $person->endLinks($request->email());
                if ($request->boolean('endTokens', true)) {
                    $person->tokens()->delete();
                }
                $set = $person;
            },
        );
    }

    private function begun(Request $request): JsonResponse
    {
        // A session that somebody else may know is not gone on with.
        $request->session()->regenerate();
        $person = self::web()->user();
        if ($person instanceof Person) {
            $person->update(['signed_in_at' => now()]);
            Auth::setUser($person);
            Log::info('signed in', ['person' => $person->id]);
        }

        return response()->json($this->session($request));
    }

    private function session(Request $request): SessionData
    {
        $person = Who::person();
        if ($person === null) {
            $crew = FirstOnLoopback::isLoopback($request) ? Crew::all() : [];

            return new SessionData(null, array_map(static fn (Person $one): CrewData => new CrewData($one->id, $one->name, $one->role), $crew), $crew === [] && Person::query()->whereNotNull('password')->doesntExist());
        }
        $crew = $person->is_demo && FirstOnLoopback::isLoopback($request) ? Crew::all() : [];
        $may = array_values(array_filter(Leave::cases(), static fn (Leave $leave): bool => $person->may($leave)));

        return new SessionData(
            new MeData($person->id, $person->name, $person->email, $person->role, $may, $person->is_demo, count(FixesToDo::of($person)), self::letters($person)->whereNull('read_at')->count()),
            array_map(static fn (Person $one): CrewData => new CrewData($one->id, $one->name, $one->role), $crew), false,
        );
    }

    /**
     * The mails that somebody may read: their own; a lead all, so that nobody is locked out where no mail server is set.
     *
     * @return \Illuminate\Database\Eloquent\Builder<Letter>
     */
    public static function letters(Person $person): \Illuminate\Database\Eloquent\Builder
    {
        return $person->may(Leave::People) ? Letter::query() : Letter::query()->where('to', $person->email);
    }

    public static function web(): SessionGuard
    {
        $guard = Auth::guard('web');

        return $guard instanceof SessionGuard ? $guard : throw new RuntimeException('sessions are not set up');
    }
}
