<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Deliveries\Cleaning;
use App\Models\Delivery;
use App\Models\Letter;
use App\Models\Person;
use App\People\Crew;
use App\People\Owner;
use App\People\Standing;
use Database\Factories\PersonFactory;
use Illuminate\Database\Events\QueryExecuted;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Testing\TestResponse;
use Laravel\Sanctum\PersonalAccessToken;
use Symfony\Component\HttpFoundation\Response;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** Signing in and out, invitations, passwords, roles and tokens, each as a browser or a program does it. */
final class PeopleTest extends TestCase
{
    use HandsIn;

    private const WORDS = 'seven gulls over the mole';

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
        DB::table('people')->delete();
        $this->nobody();
    }

    public function test_who_has_e_mail_and_password_comes_in_and_goes_out(): void
    {
        $person = Person::factory()->create(['role' => Standing::Artist]);
        $this->getJson('/api/session')->assertOk()->assertExactJson(['me' => null, 'crew' => [], 'isFresh' => false]);
        $wrong = $this->postJson('/api/session', ['email' => $person->email, 'password' => 'not this one'])->assertUnprocessable()->json('message');
        self::assertSame($wrong, $this->postJson('/api/session', ['email' => 'nobody@harbor.example', 'password' => 'not this one'])->assertUnprocessable()->json('message'), 'whether there is such an account is not told');
        $in = $this->postJson('/api/session', ['email' => strtoupper($person->email), 'password' => PersonFactory::PASSWORD])->assertOk()->assertJsonPath('me.name', $person->name)->assertJsonPath('me.may', ['view', 'mend']);
        self::assertNotNull($person->refresh()->signed_in_at);
        $cookie = self::cookie($in);
        self::assertStringContainsStringIgnoringCase('samesite=strict', implode($in->headers->all('set-cookie')));
        $this->browser($cookie)->getJson('/api/rack')->assertOk();
        // Signed out, the session is nobody's: a copy of its cookie leads nowhere.
        $this->browser($cookie)->deleteJson('/api/session')->assertNoContent();
        $this->browser($cookie)->getJson('/api/rack')->assertUnauthorized();
    }

    public function test_a_session_begun_before_signing_in_is_another_afterwards(): void
    {
        $person = Person::factory()->create();
        $before = self::cookie($this->getJson('/api/session')->assertOk());
        $after = self::cookie($this->browser($before)->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD])->assertOk());
        self::assertNotSame($before, $after);
        $this->browser($before)->getJson('/api/rack')->assertUnauthorized();
        $this->browser($after)->getJson('/api/rack')->assertOk();
    }

    public function test_who_is_not_signed_in_leaves_no_rows_behind(): void
    {
        foreach (['/api/rack', '/api/deliveries/7', '/api/nothing'] as $path) {
            $this->nobody()->getJson($path);
        }
        self::assertSame(0, DB::table('sessions')->count());
        $this->nobody()->getJson('/api/session')->assertOk();
        self::assertSame(1, DB::table('sessions')->count(), 'who may be about to sign in');
        $person = Person::factory()->create();
        $cookie = self::cookie($this->nobody()->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD])->assertOk());
        DB::table('sessions')->update(['last_activity' => now()->subHours(2)->timestamp]);
        Cleaning::run();
        self::assertSame([$person->id], DB::table('sessions')->pluck('user_id')->all(), 'of nobody, after an hour');
        $this->browser($cookie)->getJson('/api/rack')->assertOk();
        self::assertGreaterThan(now()->subMinute()->timestamp, DB::table('sessions')->value('last_activity'));
    }

    public function test_guesses_are_few_a_minute_for_an_account_and_for_an_address(): void
    {
        $person = Person::factory()->create();
        for ($i = 0; $i < 5; $i++) {
            $this->postJson('/api/session', ['email' => $person->email, 'password' => "guess $i of mine"])->assertUnprocessable();
        }
        $this->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD])->assertTooManyRequests();
        // From many addresses at once the account is still guarded, by the hour.
        DB::table('cache')->delete();
        for ($i = 0; $i < 50; $i++) {
            $this->withServerVariables(['REMOTE_ADDR' => "10.0.0.$i"])->postJson('/api/session', ['email' => $person->email, 'password' => "guess $i of mine"])->assertUnprocessable();
        }
        $this->withServerVariables(['REMOTE_ADDR' => '10.0.1.1'])->postJson('/api/session', ['email' => $person->email, 'password' => 'one more guess'])->assertTooManyRequests();
        // And one address does not try one account after the other.
        DB::table('cache')->delete();
        for ($i = 0; $i < 30; $i++) {
            $this->withServerVariables(['REMOTE_ADDR' => '10.0.2.1'])->postJson('/api/session', ['email' => "someone$i@harbor.example", 'password' => 'the same for all'])->assertUnprocessable();
        }
        $this->withServerVariables(['REMOTE_ADDR' => '10.0.2.1'])->postJson('/api/session', ['email' => 'another@harbor.example', 'password' => 'the same for all'])->assertTooManyRequests();
    }

    public function test_somebody_is_invited_and_the_link_works_once(): void
    {
        $lead = $this->as(Person::factory()->create());
        $this->postJson('/api/people', ['name' => 'Mara Lind', 'email' => 'not an address', 'role' => 'artist'])->assertUnprocessable();
        $this->postJson('/api/people', ['name' => 'Mara Lind', 'email' => $lead->email, 'role' => 'artist'])->assertUnprocessable()->assertJsonPath('message', 'there is somebody with this e-mail already');
        $this->postJson('/api/people', ['name' => 'Mara Lind', 'email' => 'Mara@Harbor.example', 'role' => 'harbor master'])->assertUnprocessable();
        $this->postJson('/api/people', ['name' => 'Mara Lind', 'email' => 'Mara@Harbor.example', 'role' => 'artist'])->assertCreated()->assertJsonPath('sent', true);
        $this->getJson('/api/people')->assertJsonFragment(['name' => 'Mara Lind', 'email' => 'mara@harbor.example', 'state' => 'invited']);
        $letter = Letter::query()->where('to', 'mara@harbor.example')->firstOrFail();
        // The lead finds it in the inbox, and no secret stands where a server would see it.
        $this->getJson('/api/me/letters')->assertJsonPath('0.subject', 'You are invited to Yellow Anvil');
        [$path, $said] = self::link($letter->text);
        self::assertSame('/password', $path);
        $this->nobody();
        $body = ['email' => $said['email'], 'token' => $said['token'], 'invite' => true, 'name' => 'Mara  Lind'];
        $this->postJson('/api/session', ['email' => 'mara@harbor.example', 'password' => ''])->assertUnprocessable();
        foreach (['short words' => 'at least 12', 'password1234' => 'many people use', 'aaaaaaaaaaaaaaaa' => 'many people use', str_repeat('long words ', 8) => 'at most 72'] as $weak => $why) {
            DB::table('cache')->delete();
            $refused = $this->postJson('/api/password', [...$body, 'password' => $weak])->assertUnprocessable()->json('message');
            self::assertStringContainsString($why, is_string($refused) ? $refused : '');
        }
        $this->postJson('/api/password', [...$body, 'password' => self::WORDS, 'token' => 'another'])->assertUnprocessable();
        $this->postJson('/api/password', [...$body, 'password' => self::WORDS, 'invite' => false])->assertUnprocessable();
        $this->postJson('/api/password', [...$body, 'password' => self::WORDS, 'newEmail' => 'another@harbor.example'])->assertOk()->assertJsonPath('me.email', 'mara@harbor.example')->assertJsonPath('me.role', 'artist');
        DB::table('cache')->delete();
        $this->nobody();
        $again = $this->postJson('/api/password', [...$body, 'password' => 'another set of words'])->assertUnprocessable()->json('message');
        self::assertStringContainsString('used already', is_string($again) ? $again : '');
        self::assertTrue(Hash::check(self::WORDS, (string) Person::query()->where('email', 'mara@harbor.example')->firstOrFail()->password));
    }

    public function test_a_new_password_ends_earlier_links_and_tokens_unless_they_are_kept(): void
    {
        $lead = $this->as(Person::factory()->create());
        $mara = Person::factory()->create(['email' => 'mara@harbor.example']);
        $this->postJson("/api/people/$mara->id/invite")->assertNoContent();
        $invite = self::link(Letter::query()->firstOrFail()->text)[1];
        $tokens = static fn (): int => $mara->tokens()->count();
        $forgot = function (?bool $endTokens) use ($mara): void {
            $mara->createToken('farm', ['read']);
            DB::table('cache')->delete();
            DB::table('password_reset_tokens')->delete();
            $this->nobody();
            $this->postJson('/api/password/forgot', ['email' => $mara->email])->assertNoContent();
            $said = self::link(Letter::query()->orderByDesc('id')->firstOrFail()->text)[1];
            $this->postJson('/api/password', ['email' => $mara->email, 'token' => $said['token'], 'password' => self::WORDS, ...($endTokens === null ? [] : ['endTokens' => $endTokens])])->assertOk();
        };
        $forgot(false);
        self::assertSame(1, $tokens());
        $forgot(null);
        self::assertSame(0, $tokens());
        $this->nobody();
        DB::table('cache')->delete();
        // The invitation of before is a way in no more.
        $this->postJson('/api/password', ['email' => $invite['email'], 'token' => $invite['token'], 'invite' => true, 'password' => 'another set of words'])->assertUnprocessable();
        // A password that is changed ends links too; tokens only when asked to.
        $this->postJson('/api/password/forgot', ['email' => $mara->email])->assertNoContent();
        $said = self::link(Letter::query()->orderByDesc('id')->firstOrFail()->text)[1];
        $mara->createToken('farm', ['read']);
        $this->as($mara->refresh());
        $this->postJson('/api/me/password', ['current' => self::WORDS, 'password' => 'words of another kind'])->assertNoContent();
        self::assertSame(1, $tokens());
        $this->postJson('/api/me/password', ['current' => 'words of another kind', 'password' => self::WORDS, 'endTokens' => true])->assertNoContent();
        self::assertSame(0, $tokens());
        $this->nobody();
        $this->postJson('/api/password', ['email' => $mara->email, 'token' => $said['token'], 'password' => 'another set of words'])->assertUnprocessable();
        // Out everywhere is out everywhere, unless the scripts are to go on.
        $this->as($mara->refresh());
        $mara->createToken('farm', ['read']);
        $this->deleteJson('/api/me/sessions', ['endTokens' => false])->assertNoContent();
        self::assertSame(1, $tokens());
        $this->deleteJson('/api/me/sessions')->assertNoContent();
        self::assertSame(0, $tokens());
        self::assertSame(0, $lead->tokens()->count());
    }

    public function test_a_link_is_used_up_under_the_lock_of_its_person(): void
    {
        $person = Person::factory()->create();
        $this->postJson('/api/password/forgot', ['email' => $person->email])->assertNoContent();
        $said = self::link(Letter::query()->orderByDesc('id')->firstOrFail()->text)[1];
        $this->nobody();
        $order = [];
        DB::listen(static function (QueryExecuted $query) use (&$order): void {
            foreach (['lock' => '/^select .* from `people` .* for update$/', 'look' => '/^select .* from `password_reset_tokens`/', 'set' => '/^update `people` set .*`password`/', 'end' => '/^delete from `password_reset_tokens`/'] as $name => $what) {
                if (preg_match($what, $query->sql) === 1) {
                    $order[] = $name.$query->connection->transactionLevel();
                }
            }
        });
        $this->postJson('/api/password', ['email' => $person->email, 'token' => $said['token'], 'password' => self::WORDS])->assertOk();
        self::assertSame(['lock1', 'look1', 'set1', 'end1'], array_slice($order, 0, 4));
    }

    public function test_junk_in_place_of_a_token_is_refused_and_uses_nothing_up(): void
    {
        $person = Person::factory()->create();
        $this->postJson('/api/password/forgot', ['email' => $person->email])->assertNoContent();
        $said = self::link(Letter::query()->orderByDesc('id')->firstOrFail()->text)[1];
        $this->nobody();
        $body = ['email' => $person->email, 'token' => $said['token'], 'password' => self::WORDS];
        $token = $person->createToken('farm', ['read'])->plainTextToken;
        foreach (['', 'junk', 'Basic aW5lczp3b3Jkcw==', 'Bearer', 'Bearer ', 'Bearer a b', 'Bearer '.str_repeat('x', 400), "Bearer $token"] as $junk) {
            $this->postJson('/api/password', $body, ['Authorization' => $junk])->assertBadRequest();
        }
        foreach (['', 'junk', 'Bearer a b'] as $junk) {
            $this->getJson('/api/rack', ['Authorization' => $junk])->assertBadRequest();
        }
        $this->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD], ['Authorization' => "Bearer $token"])->assertBadRequest();
        $this->flushHeaders()->withHeader('X-Anvil', '1');
        $this->postJson('/api/password', $body)->assertOk();
    }

    public function test_a_link_is_too_old_after_three_days_and_another_one_is_sent(): void
    {
        $lead = $this->as(Person::factory()->create());
        $this->postJson('/api/people', ['name' => 'Mara Lind', 'email' => 'mara@harbor.example', 'role' => 'artist'])->assertCreated();
        $old = self::link(Letter::query()->firstOrFail()->text)[1];
        $this->travel(73)->hours();
        $this->nobody();
        $this->postJson('/api/password', ['email' => $old['email'], 'token' => $old['token'], 'invite' => true, 'password' => self::WORDS])->assertUnprocessable();
        $this->as($lead);
        $mara = Person::query()->where('email', 'mara@harbor.example')->firstOrFail();
        $this->postJson("/api/people/$mara->id/invite")->assertNoContent();
        $new = self::link(Letter::query()->orderByDesc('id')->firstOrFail()->text)[1];
        $this->nobody();
        $this->postJson('/api/password', ['email' => $new['email'], 'token' => $new['token'], 'invite' => true, 'password' => self::WORDS])->assertOk();
    }

    public function test_the_first_person_signs_up_by_the_link_of_the_first_start(): void
    {
        Artisan::call('anvil-people:begin');
        $first = Artisan::output();
        Artisan::call('anvil-people:begin');
        $second = Artisan::output();
        self::assertSame(1, Person::query()->count());
        $this->getJson('/api/session')->assertJsonPath('isFresh', true);
        $of = static fn (string $text): array => self::link($text)[1];
        // A new start makes the link of the one before void.
        $this->postJson('/api/password', ['email' => $of($first)['email'], 'token' => $of($first)['token'], 'invite' => true, 'password' => self::WORDS, 'name' => 'Ines Falk', 'newEmail' => 'ines@harbor.example'])->assertUnprocessable();
        $this->postJson('/api/password', ['email' => $of($second)['email'], 'token' => $of($second)['token'], 'invite' => true, 'password' => self::WORDS, 'name' => 'Ines Falk', 'newEmail' => 'ines@harbor.example'])
            ->assertOk()->assertJsonPath('me.role', 'lead')->assertJsonPath('me.name', 'Ines Falk')->assertJsonPath('me.email', 'ines@harbor.example');
        self::assertNull(Owner::link());
        Artisan::call('anvil-people:begin');
        self::assertSame('', Artisan::output());
        // Whoever runs the machine lets somebody in whom no mail reaches.
        self::assertSame(0, Artisan::call('anvil-people:link', ['email' => 'ines@harbor.example']));
        self::assertSame('ines@harbor.example', self::link(Artisan::output())[1]['email']);
        self::assertSame(1, Artisan::call('anvil-people:link', ['email' => 'nobody@harbor.example']));
    }

    public function test_a_forgotten_password_is_set_by_mail_and_ends_all_sessions(): void
    {
        $person = Person::factory()->create();
        $cookie = self::cookie($this->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD])->assertOk());
        $this->nobody();
        $this->postJson('/api/password/forgot', ['email' => 'nobody@harbor.example'])->assertNoContent();
        self::assertSame(0, Letter::query()->count());
        $this->postJson('/api/password/forgot', ['email' => $person->email])->assertNoContent();
        $said = self::link(Letter::query()->where('to', $person->email)->firstOrFail()->text)[1];
        self::assertArrayNotHasKey('invite', $said);
        $this->travel(59)->minutes();
        $this->postJson('/api/password', ['email' => $person->email, 'token' => $said['token'], 'password' => self::WORDS])->assertOk();
        $this->browser($cookie)->getJson('/api/rack')->assertUnauthorized();
        $this->nobody();
        $this->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD])->assertUnprocessable();
        $this->postJson('/api/session', ['email' => $person->email, 'password' => self::WORDS])->assertOk();
        // An hour is all it has, and nobody is flooded with mail.
        $this->nobody();
        $this->postJson('/api/password/forgot', ['email' => $person->email])->assertNoContent();
        $late = self::link(Letter::query()->orderByDesc('id')->firstOrFail()->text)[1];
        $this->travel(61)->minutes();
        $this->postJson('/api/password', ['email' => $person->email, 'token' => $late['token'], 'password' => 'late words are no words'])->assertUnprocessable();
        for ($i = 0; $i < 4; $i++) {
            $last = $this->postJson('/api/password/forgot', ['email' => $person->email]);
        }
        $last->assertTooManyRequests();
    }

    public function test_a_password_is_changed_with_the_present_one_and_other_sessions_end(): void
    {
        $person = Person::factory()->create();
        $in = fn (): string => self::cookie($this->nobody()->postJson('/api/session', ['email' => $person->email, 'password' => PersonFactory::PASSWORD])->assertOk());
        [$here, $there] = [$in(), $in()];
        $this->browser($here)->postJson('/api/me/password', ['current' => 'not this one', 'password' => self::WORDS])->assertUnprocessable()->assertJsonPath('message', 'that is not your present password');
        $this->browser($there)->getJson('/api/rack')->assertOk();
        $this->browser($here)->postJson('/api/me/password', ['current' => PersonFactory::PASSWORD, 'password' => self::WORDS])->assertNoContent();
        $this->browser($there)->getJson('/api/rack')->assertUnauthorized();
        $this->browser($here)->getJson('/api/rack')->assertOk();
        $other = self::cookie($this->nobody()->postJson('/api/session', ['email' => $person->email, 'password' => self::WORDS])->assertOk());
        $this->browser($here)->deleteJson('/api/me/sessions')->assertNoContent();
        $this->browser($other)->getJson('/api/rack')->assertUnauthorized();
        $this->browser($here)->putJson('/api/me', ['name' => "line\nbreak"])->assertUnprocessable();
        $this->browser($here)->putJson('/api/me', ['name' => ' Ines Falk '])->assertNoContent();
        self::assertSame('Ines Falk', $person->refresh()->name);
    }

    public function test_roles_change_at_once_and_one_lead_is_left(): void
    {
        $lead = Person::factory()->create();
        $artist = Person::factory()->create(['role' => Standing::Artist]);
        $token = $artist->createToken('farm', ['read'])->plainTextToken;
        $cookie = self::cookie($this->postJson('/api/session', ['email' => $artist->email, 'password' => PersonFactory::PASSWORD])->assertOk());
        $this->browser($cookie)->getJson('/api/people')->assertOk()->assertJsonPath('0.email', null);
        $this->as($lead);
        $this->putJson("/api/people/$lead->id", ['role' => 'artist', 'lockedOut' => false])->assertUnprocessable()->assertJsonPath('message', "$lead->name is the only lead; make somebody else one first");
        $this->putJson("/api/people/$lead->id", ['role' => 'lead', 'lockedOut' => true])->assertUnprocessable();
        $this->putJson("/api/people/$artist->id", ['role' => 'technical-artist', 'lockedOut' => false])->assertNoContent();
        $this->browser($cookie)->getJson('/api/session')->assertJsonPath('me.may', ['view', 'mend', 'decide', 'waive', 'sendBack', 'seal']);
        $this->as($lead)->refresh();
        $this->putJson("/api/people/$artist->id", ['role' => 'technical-artist', 'lockedOut' => true])->assertNoContent();
        $this->browser($cookie)->getJson('/api/rack')->assertUnauthorized();
        self::assertSame(0, PersonalAccessToken::query()->count());
        $this->nobody()->getJson('/api/rack', ['Authorization' => "Bearer $token"])->assertUnauthorized();
        $this->nobody()->postJson('/api/session', ['email' => $artist->email, 'password' => PersonFactory::PASSWORD])->assertUnprocessable();
        $this->nobody()->postJson('/api/password/forgot', ['email' => $artist->email])->assertNoContent();
        self::assertSame(0, Letter::query()->count());
    }

    public function test_a_token_is_named_scoped_said_once_and_revoked(): void
    {
        $me = $this->as(Person::factory()->create(['role' => Standing::TechnicalArtist]));
        foreach ([['name' => '', 'scopes' => ['read']], ['name' => 'farm', 'scopes' => []], ['name' => 'farm', 'scopes' => ['everything']], ['name' => 'farm', 'scopes' => ['read'], 'days' => 0]] as $wrong) {
            $this->postJson('/api/me/tokens', $wrong)->assertUnprocessable();
        }
        $plain = $this->postJson('/api/me/tokens', ['name' => 'build farm', 'scopes' => ['read', 'hand-in'], 'days' => 30])->assertCreated()->json('token');
        self::assertIsString($plain);
        self::assertMatchesRegularExpression('/^\d+\|anvil_\w{40,}$/', $plain);
        $kept = PersonalAccessToken::query()->firstOrFail();
        self::assertSame(hash('sha256', explode('|', $plain)[1]), $kept->token, 'only its hash is kept');
        $listed = $this->getJson('/api/me/tokens')->assertJsonPath('0.name', 'build farm')->assertJsonPath('0.scopes', ['read', 'hand-in'])->assertJsonPath('0.usedAt', null)->getContent();
        self::assertStringNotContainsString(explode('|', $plain)[1], (string) $listed);
        self::assertStringNotContainsString((string) $kept->token, (string) $listed);
        $delivery = Delivery::factory()->create(['state' => 'failed']);
        $with = ['Authorization' => "Bearer $plain"];
        // What it does is signed with the person and the token.
        $this->nobody()->postJson("/api/deliveries/$delivery->id/recheck", [], $with)->assertNoContent();
        $this->nobody()->getJson("/api/assets/$delivery->asset_id/history", $with)->assertOk()->assertJsonPath('events.0.who', $me->name)->assertJsonPath('events.0.via', 'build farm')->assertJsonPath('events.0.words', 'had it checked again');
        $this->nobody()->postJson("/api/deliveries/$delivery->id/board", [], $with)->assertForbidden();
        // A token makes no tokens, and no answer to it sets a cookie.
        $this->nobody()->postJson('/api/me/tokens', ['name' => 'more', 'scopes' => ['read']], $with)->assertForbidden();
        self::assertFalse($this->nobody()->getJson('/api/rack', $with)->assertOk()->headers->has('Set-Cookie'));
        $this->travel(31)->days();
        $this->nobody()->getJson('/api/rack', $with)->assertUnauthorized();
        $this->travelBack();
        $this->as($me);
        $this->deleteJson("/api/me/tokens/$kept->id")->assertNoContent();
        $this->nobody()->getJson('/api/rack', $with)->assertUnauthorized();
    }

    public function test_what_did_not_change_is_told_only_to_who_may_see_it(): void
    {
        $delivery = Delivery::factory()->create();
        $this->as($person = Person::factory()->create());
        $tag = (string) $this->getJson("/api/deliveries/$delivery->id")->assertOk()->headers->get('ETag');
        $this->getJson("/api/deliveries/$delivery->id", ['If-None-Match' => $tag])->assertStatus(304);
        $token = $person->createToken('in', ['hand-in'])->plainTextToken;
        $this->nobody()->getJson("/api/deliveries/$delivery->id", ['If-None-Match' => $tag, 'Authorization' => "Bearer $token"])->assertForbidden();
        $this->nobody()->getJson("/api/deliveries/$delivery->id", ['If-None-Match' => $tag])->assertUnauthorized();
    }

    public function test_until_somebody_has_signed_up_only_this_machine_is_answered(): void
    {
        $from = fn (string $ip): TestResponse => $this->withServerVariables(['REMOTE_ADDR' => $ip])->getJson('/api/session');
        foreach (['10.0.0.7', '192.168.1.20', '2001:db8::7'] as $ip) {
            $from($ip)->assertForbidden();
        }
        foreach (['127.0.0.1', '::1'] as $ip) {
            $from($ip)->assertOk();
        }
        Person::factory()->create();
        $from('10.0.0.7')->assertOk();
        // With the demo's crew, whose members need no password, never.
        config(['anvil.demo' => true]);
        $from('10.0.0.7')->assertForbidden();
    }

    public function test_the_crew_of_the_demo_comes_in_without_a_password_and_only_there(): void
    {
        Crew::make();
        Crew::make();
        self::assertSame(3, Person::query()->count());
        $id = Person::query()->where('role', Standing::TechnicalArtist)->firstOrFail()->id;
        $this->postJson('/api/session/demo', ['person' => $id])->assertNotFound();
        $this->getJson('/api/session')->assertJsonPath('crew', []);
        config(['anvil.demo' => true]);
        $this->getJson('/api/session')->assertJsonPath('crew.1.name', 'Tomas Reed');
        $real = Person::factory()->create();
        $this->postJson('/api/session/demo', ['person' => $real->id])->assertNotFound();
        $this->postJson('/api/session/demo', ['person' => $id])->assertOk()->assertJsonPath('me.name', 'Tomas Reed');
        $this->nobody()->postJson('/api/password/forgot', ['email' => 'tomas.reed@signal.example'])->assertNoContent();
        self::assertSame(0, Letter::query()->count());
    }

    private function nobody(): self
    {
        $this->app?->make('auth')->forgetGuards();
        // In one process the store of one request would be that of the next.
        $this->app?->make('session')->forgetDrivers();
        $this->app?->forgetInstance('session.store');
        $this->unencryptedCookies = [];

        return $this;
    }

    /** From here on with the cookie of a session. */
    private function browser(string $session): self
    {
        $this->nobody();

        return $this->withCredentials()->withUnencryptedCookie(config()->string('session.cookie'), $session);
    }

    /**
     * @param  TestResponse<Response>  $response
     */
    private static function cookie(TestResponse $response): string
    {
        foreach ($response->headers->getCookies() as $cookie) {
            if ($cookie->getName() === config()->string('session.cookie')) {
                self::assertTrue($cookie->isHttpOnly());

                return (string) $cookie->getValue();
            }
        }
        self::fail('there is no session');
    }

    /**
     * @return array{string, array<string, string>} the path of the link in a text, and what stands after its #
     */
    private static function link(string $text): array
    {
        self::assertSame(1, preg_match('~(https?://\S+)#(\S+)~', $text, $found));
        parse_str($found[2] ?? '', $said);

        return [(string) parse_url($found[1] ?? '', PHP_URL_PATH), array_map(static fn (mixed $one): string => is_string($one) ? $one : '', $said)];
    }
}
