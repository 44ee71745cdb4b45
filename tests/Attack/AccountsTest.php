<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Models\Delivery;
use App\Models\Letter;
use App\Models\Person;
use App\People\Standing;
use Database\Factories\PersonFactory;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;

/**
 * Nobody becomes somebody else, or more than they are; no secret stands in a log, an answer or an address.
 */
final class AccountsTest extends AttackCase
{
    public function test_a_page_of_another_address_signs_nobody_in_or_out(): void
    {
        $person = Person::factory()->create();
        $body = ['email' => $person->email, 'password' => PersonFactory::PASSWORD];
        foreach ([['Origin' => 'http://evil.example'], ['Origin' => 'null'], ['Sec-Fetch-Site' => 'cross-site'], ['Sec-Fetch-Site' => 'same-site']] as $headers) {
            $this->postJson('/api/session', $body, $headers)->assertForbidden();
            $this->deleteJson('/api/session', [], $headers)->assertForbidden();
            $this->postJson('/api/password/forgot', ['email' => $person->email], $headers)->assertForbidden();
        }
        $this->withoutHeader('X-Anvil')->post('/api/session', $body)->assertForbidden();
        self::assertNull($person->refresh()->signed_in_at);
        self::assertSame(0, Letter::query()->count());
    }

    public function test_the_cookies_are_kept_from_scripts_and_other_sites(): void
    {
        $answer = $this->postJson('/api/session', ['email' => Person::factory()->create()->email, 'password' => PersonFactory::PASSWORD])->assertOk();
        $cookies = [];
        foreach ($answer->headers->getCookies() as $cookie) {
            $cookies[$cookie->getName()] = [$cookie->isHttpOnly(), $cookie->getSameSite(), $cookie->getDomain(), $cookie->getPath()];
        }
        // The one that a script sends back with each change is the only one that it reads.
        self::assertSame(['XSRF-TOKEN' => [false, 'strict', null, '/'], config()->string('session.cookie') => [true, 'strict', null, '/']], $cookies);
        self::assertStringContainsString('no-store', (string) $answer->headers->get('Cache-Control'));
    }

    public function test_nobody_gives_themselves_more_than_they_have(): void
    {
        $artist = $this->as(Person::factory()->create(['role' => Standing::Artist]));
        $this->putJson('/api/me', ['name' => 'Mara Lind', 'role' => 'lead', 'email' => 'owner@localhost', 'is_demo' => true, 'id' => 1, 'password' => 'x'])->assertNoContent();
        $this->putJson("/api/people/$artist->id", ['role' => 'lead', 'lockedOut' => false])->assertForbidden();
        $this->postJson('/api/me/tokens', ['name' => 'all', 'scopes' => ['*']])->assertUnprocessable();
        $after = $artist->refresh();
        self::assertSame([Standing::Artist, $artist->email, false], [$after->role, $after->email, $after->is_demo]);
        // A token for everything does no more than its person may.
        $token = $this->postJson('/api/me/tokens', ['name' => 'all', 'scopes' => ['read', 'hand-in', 'decide']])->json('token');
        $this->app?->make('auth')->forgetGuards();
        $delivery = Delivery::factory()->create();
        $this->postJson("/api/deliveries/$delivery->id/packages", [], ['Authorization' => 'Bearer '.(is_string($token) ? $token : '')])->assertForbidden();
        // An invitation gives the role that it was made with, and takes nobody's place.
        $this->as(Person::factory()->create());
        $this->postJson('/api/people', ['name' => 'Olga', 'email' => 'olga@harbor.example', 'role' => 'artist'])->assertCreated();
        self::assertSame(1, preg_match('~token=([0-9a-f]+)~', Letter::query()->firstOrFail()->text, $found));
        $this->app?->make('auth')->forgetGuards();
        foreach ([$artist->email, 'owner@localhost'] as $other) {
            $this->postJson('/api/password', ['email' => $other, 'token' => $found[1] ?? '', 'invite' => true, 'password' => 'seven gulls over the mole'])->assertUnprocessable();
        }
        $this->postJson('/api/password', ['email' => 'olga@harbor.example', 'token' => $found[1] ?? '', 'invite' => true, 'password' => 'seven gulls over the mole', 'role' => 'lead', 'newEmail' => 'lead@harbor.example'])->assertOk()->assertJsonPath('me.role', 'artist')->assertJsonPath('me.email', 'olga@harbor.example');
    }

    public function test_no_secret_stands_in_a_log_or_an_answer(): void
    {
        $words = 'gannets dive '.bin2hex(random_bytes(6));
        $person = Person::factory()->create(['password' => $words, 'email' => 'gannet@harbor.example']);
        $this->postJson('/api/session', ['email' => $person->email, 'password' => "$words?"])->assertUnprocessable();
        $answers = [(string) $this->postJson('/api/session', ['email' => $person->email, 'password' => $words])->assertOk()->getContent()];
        $this->as(Person::factory()->create());
        $this->postJson('/api/people', ['name' => 'Olga', 'email' => 'olga@harbor.example', 'role' => 'artist'])->assertCreated();
        $token = $this->postJson('/api/me/tokens', ['name' => 'farm', 'scopes' => ['read']])->json('token');
        self::assertIsString($token);
        self::assertSame(1, preg_match('~token=([0-9a-f]+)~', Letter::query()->firstOrFail()->text, $found));
        foreach (['/api/people', '/api/session', '/api/me/tokens', '/api/rack'] as $path) {
            $answers[] = (string) $this->getJson($path)->assertOk()->getContent();
        }
        Artisan::call('anvil-people:link', ['email' => $person->email]);
        $log = '';
        foreach (glob(dirname((string) config()->string('logging.channels.anvil.path')).'/*.log') ?: [] as $file) {
            $log .= (string) file_get_contents($file, false, null, max(0, (int) filesize($file) - 200_000));
        }
        self::assertStringContainsString('signed in', $log, 'who signs in is told');
        $secrets = [$words, explode('|', $token)[1], $found[1] ?? '', (string) $person->refresh()->password, (string) DB::table('personal_access_tokens')->value('token'), (string) DB::table('invite_tokens')->value('token')];
        foreach ($secrets as $i => $secret) {
            self::assertNotSame('', $secret);
            self::assertStringNotContainsString($secret, $log, "secret $i in a log");
            foreach ($answers as $answer) {
                self::assertStringNotContainsString($secret, $answer, "secret $i in an answer");
            }
        }
        self::assertStringNotContainsString('gannet@harbor.example', $log, 'an address in a log');
    }

    /**
     * @return iterable<string, array{string, string, array<mixed>}>
     */
    public static function nonsense(): iterable
    {
        yield 'an array for an e-mail' => ['POST', '/api/session', ['email' => ['a'], 'password' => 'x']];
        yield 'a number for a password' => ['POST', '/api/session', ['email' => 'a@harbor.example', 'password' => 7]];
        yield 'a password of a megabyte' => ['POST', '/api/session', ['email' => 'a@harbor.example', 'password' => str_repeat('x', 1 << 20)]];
        yield 'null for a password' => ['POST', '/api/session', ['email' => 'a@harbor.example', 'password' => null]];
        yield 'a header in a name' => ['POST', '/api/people', ['name' => "Olga\r\nBcc: all@harbor.example", 'email' => 'olga@harbor.example', 'role' => 'artist']];
        yield 'a header in an e-mail' => ['POST', '/api/people', ['name' => 'Olga', 'email' => "olga@harbor.example\r\nBcc: all@harbor.example", 'role' => 'artist']];
        yield 'two addresses' => ['POST', '/api/people', ['name' => 'Olga', 'email' => 'olga@harbor.example, all@harbor.example', 'role' => 'artist']];
        yield 'a role that is none' => ['POST', '/api/people', ['name' => 'Olga', 'email' => 'olga@harbor.example', 'role' => ['lead']]];
        yield 'a name that reads backwards' => ['PUT', '/api/me', ['name' => "Ines\u{202e}klaF"]];
        yield 'a name of blanks' => ['PUT', '/api/me', ['name' => "  \u{a0} "]];
        yield 'a person that is none' => ['PUT', '/api/people/0', ['role' => 'lead', 'lockedOut' => false]];
        yield 'a token by an expression' => ['POST', '/api/password', ['email' => 'a@harbor.example', 'token' => ['$ne' => ''], 'password' => 'seven gulls over the mole']];
    }

    /**
     * @param  array<mixed>  $body
     */
    #[DataProvider('nonsense')]
    public function test_nonsense_is_refused_in_words(string $method, string $path, array $body): void
    {
        $before = Person::query()->count();
        $answer = $this->json($method, $path, $body)->assertUnprocessable();
        self::assertIsString($answer->json('message'));
        self::assertSame([$before, 0], [Person::query()->count(), Letter::query()->count()]);
    }

    public function test_names_with_markup_come_back_as_they_are_and_as_nothing_to_run(): void
    {
        $name = '<script>alert(1)</script>"\'&';
        $this->putJson('/api/me', ['name' => $name])->assertNoContent();
        $this->as(Person::query()->firstOrFail());
        $answer = $this->getJson('/api/session')->assertJsonPath('me.name', $name);
        self::assertSame('application/json', $answer->headers->get('Content-Type'));
        self::assertSame('nosniff', $answer->headers->get('X-Content-Type-Options'));
    }
}
