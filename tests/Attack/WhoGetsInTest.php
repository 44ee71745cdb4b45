<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Models\Delivery;
use App\Models\Upload;
use Illuminate\Support\Facades\Route;
use PHPUnit\Framework\Attributes\DataProvider;
use RuntimeException;

/**
 * No page on the web reads or changes anything, no name of somebody else's is answered, no answer tells what is inside.
 */
final class WhoGetsInTest extends AttackCase
{
    public function test_a_page_of_another_address_can_change_nothing(): void
    {
        $body = ['name' => 'a_low.obj', 'bytes' => 10];
        foreach ([['Origin' => 'http://evil.example'], ['Origin' => 'null'], ['Sec-Fetch-Site' => 'cross-site'], ['Sec-Fetch-Site' => 'same-site'], ['Origin' => 'https://'.parse_url(config()->string('app.url'), PHP_URL_HOST)]] as $headers) {
            $said = $this->postJson('/api/uploads', $body, $headers)->assertForbidden()->json('message');
            self::assertStringContainsString('another address', is_string($said) ? $said : '');
        }
        // What a form can send: no header of ours.
        $this->withoutHeader('X-Anvil')->post('/api/uploads', $body)->assertForbidden();
        $this->withoutHeader('X-Anvil')->postJson('/api/uploads', $body)->assertForbidden();
        self::assertSame(0, Upload::query()->count());
        $this->postJson('/api/uploads', $body, ['X-Anvil' => '1', 'Origin' => request()->getSchemeAndHttpHost(), 'Sec-Fetch-Site' => 'same-origin'])->assertCreated();
    }

    public function test_a_page_of_another_address_can_read_nothing(): void
    {
        $this->getJson('/api/rack', ['Origin' => 'http://evil.example'])->assertForbidden();
        $this->getJson('/api/rack', ['Sec-Fetch-Site' => 'cross-site'])->assertForbidden();
        foreach (['/api/rack', '/', '/up'] as $path) {
            $response = $this->call('OPTIONS', $path, [], [], [], ['HTTP_ORIGIN' => 'http://evil.example', 'HTTP_ACCESS_CONTROL_REQUEST_METHOD' => 'POST', 'HTTP_ACCESS_CONTROL_REQUEST_HEADERS' => 'x-anvil']);
            foreach (['Access-Control-Allow-Origin', 'Access-Control-Allow-Methods', 'Access-Control-Allow-Headers'] as $header) {
                self::assertFalse($response->headers->has($header), "$path $header");
            }
        }
        // Somebody's own program, and a person who types the address.
        $this->getJson('/api/rack')->assertOk();
        $this->getJson('/api/rack', ['Sec-Fetch-Site' => 'none'])->assertOk();
    }

    public function test_only_the_names_that_it_was_given_are_answered(): void
    {
        foreach (['evil.example', '127.0.0.1.evil.example', 'localhost.evil.example:80'] as $host) {
            foreach (['/api/rack', '/', '/up'] as $path) {
                $this->getJson("http://$host$path")->assertStatus(421)->assertDontSee('<div id="root">', false);
            }
        }
        config(['anvil.hosts' => 'anvil.station.example, other.example']);
        $this->getJson('http://anvil.station.example:8750/api/rack')->assertOk();
        // Forwarded names are believed of nobody.
        $this->getJson('http://evil.example/api/rack', ['X-Forwarded-Host' => '127.0.0.1'])->assertStatus(421);
        $this->getJson('http://127.0.0.1/api/rack', ['X-Forwarded-For' => '8.8.8.8', 'X-Forwarded-Host' => 'evil.example'])->assertOk();
        self::assertSame('127.0.0.1', request()->ip());
    }

    public function test_every_answer_bears_the_headers_errors_too(): void
    {
        foreach (['/' => 200, '/api/rack' => 200, '/api/nothing' => 404, '/api/deliveries/7' => 404, '/api/deliveries/x' => 422, '/up' => 200] as $path => $status) {
            $response = $this->getJson($path)->assertStatus($status);
            $csp = (string) $response->headers->get('Content-Security-Policy');
            self::assertStringContainsString("script-src 'self';", $csp);
            self::assertStringContainsString("frame-ancestors 'none'", $csp);
            self::assertSame(['nosniff', 'no-referrer', 'DENY'], [$response->headers->get('X-Content-Type-Options'), $response->headers->get('Referrer-Policy'), $response->headers->get('X-Frame-Options')], $path);
            // Pages are the same for everybody; only the API knows who asks.
            self::assertSame(str_starts_with($path, '/api/') && $path !== '/api/nothing', $response->headers->has('Set-Cookie'), $path);
        }
        // No script stands in the page itself.
        self::assertDoesNotMatchRegularExpression('/<script(?![^>]*\ssrc=)[^>]*>|\son\w+=/', (string) $this->get('/')->getContent());
    }

    public function test_what_costs_is_limited_by_the_minute(): void
    {
        config(['anvil.a_minute.handing-in' => 3]);
        for ($i = 0; $i < 3; $i++) {
            $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 10])->assertCreated();
        }
        $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 10])->assertStatus(429)->assertJsonPath('message', 'That was too much in too short a time. Wait a minute and go on.');
    }

    public function test_no_query_class_or_path_reaches_a_person(): void
    {
        Route::get('/api/broken', static fn () => throw new RuntimeException('SELECT * FROM secrets in /srv/anvil/app/Secret.php'));
        foreach (['/api/broken' => 500, '/api/nothing' => 404, '/api/deliveries/999999' => 404, '/api/uploads' => 405, '/api/deliveries/1/mesh/none' => 404] as $path => $status) {
            $answer = $this->getJson($path)->assertStatus($status);
            $text = (string) $answer->getContent();
            self::assertIsString($answer->json('message'));
            self::assertDoesNotMatchRegularExpression('#SELECT|Exception|App\\\\|Illuminate|\.php|/srv|Server Error|"trace"#', $text, $path);
        }
        // To a person's browser as well.
        self::assertJson((string) $this->get('/api/nothing')->getContent());
    }

    /**
     * @return iterable<string, array{string, string, string|null}>
     */
    public static function nonsense(): iterable
    {
        foreach (["1'", '1e0', '0x1', '-1', '0', '01', '1.0', ' 1', '%00', '9999999999999999999', '1%0a', '१'] as $id) {
            yield "delivery $id" => ['GET', "/api/deliveries/$id", null];
            yield "asset $id" => ['GET', "/api/assets/$id", null];
        }
        yield 'an upload that is none' => ['PUT', '/api/uploads/1?offset=0', 'x'];
        yield 'text that is not UTF-8' => ['POST', '/api/uploads', "{\"name\":\"\xff\xfe.obj\",\"bytes\":1}"];
        yield 'not UTF-8 in the address' => ['GET', '/api/rack?a=%ff', null];
        yield 'a zero byte' => ['POST', '/api/uploads', '{"name":"a\u0000.obj","bytes":1}'];
        yield 'an array for a string' => ['POST', '/api/uploads', '{"name":["a.obj"],"bytes":1}'];
        yield 'a string for an array' => ['POST', '/api/deliveries', '{"uploads":"a"}'];
        yield 'arrays in an array of strings' => ['POST', '/api/deliveries', '{"uploads":[["a"],{"b":1}]}'];
        yield 'a number that is none' => ['POST', '/api/uploads', '{"name":"a.obj","bytes":"1e400"}'];
        yield 'an absurd depth' => ['POST', '/api/uploads', str_repeat('{"a":', 5000).'1'.str_repeat('}', 5000)];
        yield 'an absurd size' => ['POST', '/api/deliveries', '{"uploads":['.implode(',', array_fill(0, 300_000, '"a"')).']}'];
        yield 'no JSON' => ['POST', '/api/uploads', 'name=a.obj&bytes=1'];
        yield 'a list' => ['POST', '/api/uploads', '[]'];
        yield 'a line break in a name' => ['POST', '/api/uploads', '{"name":"a\nb.obj","bytes":1}'];
        yield 'an escape sequence in a name' => ['POST', '/api/uploads', '{"name":"a\u001b[2Jb.obj","bytes":1}'];
        yield 'a name that reads backwards' => ['POST', '/api/uploads', '{"name":"a\u202ejbo.exe.obj","bytes":1}'];
        yield 'a path' => ['POST', '/api/uploads', '{"name":"../../a.obj","bytes":1}'];
    }

    #[DataProvider('nonsense')]
    public function test_nonsense_is_refused_in_words(string $method, string $path, ?string $body): void
    {
        $answer = $this->call($method, $path, [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/json', 'HTTP_X_ANVIL' => '1'], $body);
        self::assertSame(422, $answer->getStatusCode(), (string) $answer->getContent());
        self::assertIsString($answer->json('message'));
        self::assertLessThan(2000, strlen((string) $answer->getContent()));
        self::assertDoesNotMatchRegularExpression('/[\x00-\x1f\x7f]/', $answer->json('message'));
        self::assertSame([0, 0], [Upload::query()->count(), Delivery::query()->count()]);
    }

    public function test_an_offset_that_is_none_is_told_so(): void
    {
        $id = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 10])->json('id');
        self::assertIsString($id);
        foreach (['abc', '-1', '1e1', ''] as $offset) {
            $this->piece($id, $offset, 'x')->assertStatus(422);
        }
    }
}
