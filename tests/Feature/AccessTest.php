<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Delivery;
use App\Models\FixList;
use App\Models\Letter;
use App\Models\Person;
use App\Models\Upload;
use App\Models\Waiver;
use App\People\Standing;
use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\Route;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** Who may do what: every route, for each role, for tokens by their scope, and for nobody. */
final class AccessTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    /** Routes to which nobody has to be signed in. */
    private const OPEN = ['GET api/session', 'POST api/session', 'POST api/session/demo', 'DELETE api/session', 'POST api/password/forgot', 'POST api/password'];

    /** Who may use each route, and with which scope a token may (null: none). Everything that is not here is refused by the test. */
    private const TABLE = [
        'artist, technical-artist, lead' => [
            'read' => [
                'GET api/standards', 'GET api/checks', 'GET api/guide', 'GET api/guide/{page}', 'GET api/guide/pictures/{picture}', 'GET api/standards/{standard}', 'POST api/standards/{standard}/effect', 'POST api/standards/{standard}/learn',
                'GET api/rack', 'GET api/search', 'GET api/formats', 'GET api/people', 'GET api/assets/{asset}', 'GET api/assets/{asset}/history', 'GET api/deliveries/{delivery}', 'GET api/deliveries/{delivery}/progress',
                'GET api/deliveries/{delivery}/intake', 'GET api/deliveries/{delivery}/pairing', 'GET api/deliveries/{delivery}/sets', 'GET api/deliveries/{delivery}/color-id', 'GET api/deliveries/{delivery}/clearance',
                'GET api/deliveries/{delivery}/surface', 'GET api/deliveries/{delivery}/hand-off', 'GET api/deliveries/{delivery}/proof', 'GET api/deliveries/{delivery}/proof/{output}/{kind}', 'GET api/deliveries/{delivery}/retouch/{page}',
                'GET api/deliveries/{delivery}/maps/{number}/{what}', 'GET api/deliveries/{delivery}/rays', 'GET api/deliveries/{delivery}/mesh/{kind}', 'GET api/deliveries/{delivery}/files/{file}/mesh', 'GET api/deliveries/{delivery}/pieces/{output}',
                'GET api/deliveries/{delivery}/files/{file}/role', 'GET api/deliveries/{delivery}/changes', 'GET api/deliveries/{delivery}/ticket/{form}', 'GET api/deliveries/{delivery}/download', 'POST api/deliveries/{delivery}/renames', 'GET api/fix-lists/{fixList}', 'GET api/outputs/{output}', 'GET api/packages/{package}',
            ],
            'hand-in' => [
                'POST api/uploads', 'GET api/uploads/{upload}', 'PUT api/uploads/{upload}', 'POST api/deliveries', 'POST api/deliveries/{delivery}/cancel', 'POST api/deliveries/{delivery}/proof/{output}/cancel', 'POST api/deliveries/{delivery}/recheck',
                'POST api/deliveries/{delivery}/files/{file}/role', 'POST api/deliveries/{delivery}/mend', 'POST api/deliveries/{delivery}/assemble', 'POST api/deliveries/{delivery}/place', 'POST api/deliveries/{delivery}/outputs',
                'POST api/deliveries/{delivery}/id-cut', 'POST api/deliveries/{delivery}/id-files', 'POST api/deliveries/{delivery}/proof', 'POST api/deliveries/{delivery}/maps', 'POST api/deliveries/{delivery}/maps/{file}/take-back',
            ],
            '' => ['PUT api/me', 'POST api/me/password', 'DELETE api/me/sessions', 'GET api/me/tokens', 'POST api/me/tokens', 'DELETE api/me/tokens/{token}', 'GET api/me/fix-lists', 'GET api/me/letters', 'POST api/me/letters/{letter}/read'],
        ],
        'technical-artist, lead' => [
            'decide' => [
                'POST api/standards', 'PUT api/standards/{standard}', 'PUT api/assets/{asset}/standard',
                'POST api/deliveries/{delivery}/explode', 'POST api/deliveries/{delivery}/board', 'POST api/deliveries/{delivery}/reach', 'POST api/deliveries/{delivery}/mirrored', 'POST api/deliveries/{delivery}/choices',
                'POST api/deliveries/{delivery}/suffixes', 'POST api/deliveries/{delivery}/id-sheet', 'POST api/deliveries/{delivery}/waivers', 'DELETE api/deliveries/{delivery}/waivers/{waiver}',
                'POST api/deliveries/{delivery}/fix-lists', 'POST api/deliveries/{delivery}/packages',
            ],
        ],
        'lead' => ['' => ['DELETE api/standards/{standard}', 'DELETE api/assets/{asset}', 'DELETE api/deliveries/{delivery}', 'POST api/people', 'PUT api/people/{person}', 'POST api/people/{person}/invite']],
    ];

    /**
     * @return array<string, OneRoute> by method and address
     */
    private static function routes(): array
    {
        $out = [];
        foreach (Route::getRoutes()->getRoutes() as $route) {
            if (str_starts_with($route->uri(), 'api/')) {
                $out[$route->methods()[0].' '.$route->uri()] = $route;
            }
        }

        return $out;
    }

    /**
     * @return array<string, array{list<string>, string}> route → who may, and the scope that a token needs (empty: none has it)
     */
    private static function table(): array
    {
        $out = [];
        foreach (self::TABLE as $who => $scopes) {
            foreach ($scopes as $scope => $routes) {
                foreach ($routes as $route) {
                    $out[$route] = [explode(', ', $who), $scope];
                }
            }
        }

        return $out;
    }

    public function test_every_route_is_open_by_intent_or_in_the_table(): void
    {
        self::assertEqualsCanonicalizing(array_keys(self::routes()), [...self::OPEN, ...array_keys(self::table())]);
        foreach (self::routes() as $name => $route) {
            $middleware = array_filter($route->gatherMiddleware(), is_string(...));
            self::assertSame(! in_array($name, self::OPEN, true), in_array('auth', $middleware, true), $name);
            // What changes an asset is told in its history: by the route, or by what it does, with what was decided or its reasons.
            $isChange = $route->methods()[0] !== 'GET' && preg_match('/\{(delivery|asset)\}/', $route->uri()) === 1 && ! str_ends_with($route->uri(), '/renames');
            $tells = preg_grep('/^noted:\w/', $middleware) !== [] || ($isChange && preg_match('#(\{delivery\}/(waivers|waivers/\{waiver\}|fix-lists|files/\{file\}/role|mend|assemble|place|id-files|explode|board|reach|mirrored|choices|suffixes|id-sheet)|\{asset\}/standard)$#', $route->uri()) === 1);
            self::assertSame($isChange, $tells, "$name tells its history");
        }
    }

    public function test_nobody_gets_anything_without_a_session_or_a_token(): void
    {
        [$uri] = $this->addresses();
        $this->app?->make('auth')->forgetGuards();
        foreach (array_keys(self::table()) as $name) {
            [$method] = explode(' ', $name);
            $this->json($method, $uri($name))->assertUnauthorized()->assertExactJson(['message' => 'Sign in first.']);
        }
        $this->getJson('/api/rack', ['Authorization' => 'Bearer anvil_1|nothing'])->assertUnauthorized();
        $this->getJson('/api/session')->assertOk()->assertJsonPath('me', null)->assertJsonPath('crew', []);
    }

    public function test_each_role_gets_what_the_table_says(): void
    {
        [$uri, $delivery] = $this->addresses();
        foreach (Standing::cases() as $role) {
            $this->as(Person::factory()->create(['role' => $role]));
            foreach (self::table() as $name => [$who]) {
                [$method] = explode(' ', $name);
                // What may be done is refused for another reason: there is nothing to do, or no body.
                if (in_array($role->value, $who, true)) {
                    if (! in_array($name, ['DELETE api/me/sessions', 'POST api/deliveries/{delivery}/cancel', 'POST api/deliveries/{delivery}/recheck'], true)) {
                        self::assertNotContains($this->json($method, $uri($name))->baseResponse->getStatusCode(), [401, 403, 500], "$role->value $name");
                    }
                } else {
                    $said = $this->json($method, $uri($name))->assertForbidden()->json('message');
                    self::assertMatchesRegularExpression('/ask (a technical artist|one)$/', is_string($said) ? $said : '', "$role->value $name");
                }
            }
        }
        self::assertTrue($delivery->refresh()->exists);
    }

    public function test_a_token_gets_what_its_scope_and_its_person_may(): void
    {
        [$uri] = $this->addresses();
        $this->app?->make('auth')->forgetGuards();
        foreach ([[Standing::Lead, ['read']], [Standing::Lead, ['read', 'hand-in', 'decide']], [Standing::Artist, ['read', 'hand-in', 'decide']], [Standing::TechnicalArtist, ['decide']]] as [$role, $scopes]) {
            $token = Person::factory()->create(['role' => $role])->createToken('farm', $scopes)->plainTextToken;
            foreach (self::table() as $name => [$who, $scope]) {
                [$method] = explode(' ', $name);
                if ($method === 'POST' && preg_match('#/(cancel|recheck)$#', $name) === 1) {
                    continue;
                }
                $this->app?->make('auth')->forgetGuards();
                $status = $this->json($method, $uri($name), [], ['Authorization' => "Bearer $token"])->baseResponse->getStatusCode();
                $may = in_array($scope, $scopes, true) && in_array($role->value, $who, true);
                $may ? self::assertNotContains($status, [401, 403, 500], "$role->value by token $name") : self::assertSame(403, $status, "$role->value by token ".implode(' ', $scopes)." $name");
            }
        }
    }

    public function test_who_is_locked_out_gets_nothing(): void
    {
        $person = Person::factory()->create();
        $token = $person->createToken('farm', ['read'])->plainTextToken;
        $this->app?->make('auth')->forgetGuards();
        $this->getJson('/api/rack', ['Authorization' => "Bearer $token"])->assertOk();
        $person->update(['disabled_at' => now()]);
        $this->app?->make('auth')->forgetGuards();
        $this->getJson('/api/rack', ['Authorization' => "Bearer $token"])->assertForbidden();
        $this->as($person->refresh());
        $this->getJson('/api/rack')->assertForbidden();
    }

    public function test_what_belongs_to_another_delivery_or_person_is_not_there(): void
    {
        [, $delivery] = $this->addresses();
        $other = Delivery::factory()->create();
        $file = $other->files()->create(['position' => 0, 'name' => 'x.obj', 'path' => 'nowhere', 'kind' => 'mesh', 'bytes' => 1]);
        $output = $other->outputs()->create(['kind' => 'proof', 'state' => 'done', 'path' => 'nowhere', 'made_by' => 'test']);
        $waiver = Waiver::query()->create(['asset_id' => $other->asset_id, 'code' => 'uv-padding', 'subject' => ['part' => 'a'], 'message' => 'x', 'reason' => 'x', 'by' => 'x']);
        $finding = $other->findings()->create(['position' => 0, 'code' => 'uv-padding', 'station' => 'surface', 'severity' => 'caution', 'message' => 'x', 'remedy' => 'x', 'subject' => ['part' => 'a'], 'where' => []]);
        foreach (["files/$file->id/mesh", "files/$file->id/role?role=low", "pieces/$output->id", "proof/$output->id/normal"] as $path) {
            $this->getJson("/api/deliveries/$delivery->id/$path")->assertNotFound();
        }
        foreach (["files/$file->id/role" => ['role' => 'low'], "proof/$output->id/cancel" => [], "maps/$file->id/take-back" => []] as $path => $body) {
            $this->postJson("/api/deliveries/$delivery->id/$path", $body)->assertNotFound();
        }
        $this->deleteJson("/api/deliveries/$delivery->id/waivers/$waiver->id")->assertNotFound();
        $this->postJson("/api/deliveries/$delivery->id/waivers", ['findings' => [$finding->id], 'reason' => 'because'])->assertUnprocessable();
        self::assertNull($waiver->refresh()->withdrawn_at);
        self::assertNull($file->refresh()->role);
        $id = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 3])->assertCreated()->json('id');
        $this->as(Person::factory()->create());
        $upload = is_string($id) ? $id : '';
        $this->getJson("/api/uploads/$upload")->assertNotFound();
        $this->piece($upload, 0, 'v 1')->assertNotFound();
        $this->postJson('/api/deliveries', ['uploads' => [$upload]])->assertUnprocessable();
        $token = Person::factory()->create()->createToken('theirs', ['read'])->accessToken->id;
        $this->deleteJson("/api/me/tokens/$token")->assertNotFound();
        $letter = Letter::query()->create(['to' => 'somebody@harbor.example', 'subject' => 'secret', 'text' => 'secret']);
        $this->as(Person::factory()->create(['role' => Standing::TechnicalArtist]));
        $this->getJson('/api/me/letters')->assertOk()->assertJsonCount(0);
        $this->postJson("/api/me/letters/$letter->id/read")->assertNotFound();
    }

    /**
     * @return array{callable(string): string, Delivery} the address of a route, and what it leads to
     */
    private function addresses(): array
    {
        $delivery = Delivery::factory()->create(['state' => 'failed']);
        $output = $delivery->outputs()->create(['kind' => 'cage', 'state' => 'waiting', 'made_by' => 'test']);
        $package = $delivery->packages()->create(['state' => 'waiting', 'sealed_by' => 'test']);
        $file = $delivery->files()->create(['position' => 0, 'name' => 'x.obj', 'path' => 'nowhere', 'kind' => 'mesh', 'bytes' => 1]);
        $waiver = Waiver::query()->create(['asset_id' => Delivery::factory()->create()->asset_id, 'code' => 'uv-padding', 'subject' => ['part' => 'a'], 'message' => 'x', 'reason' => 'x', 'by' => 'x']);
        $list = FixList::query()->create(['asset_id' => $delivery->asset_id, 'delivery_id' => $delivery->id, 'to' => 'Mara Lind', 'by' => 'x', 'causes' => []]);
        $letter = Letter::query()->create(['to' => 'nobody@harbor.example', 'subject' => 'x', 'text' => 'x']);
        $person = Person::factory()->create();
        $names = ['{delivery}' => $delivery->id, '{asset}' => $delivery->asset_id, '{standard}' => $delivery->asset->standard_id, '{file}' => $file->id, '{form}' => 'html', '{picture}' => 'rack.png', '{output}' => $output->id, '{package}' => $package->id, '{page}' => 0, '{number}' => 0, '{what}' => 'map', '{waiver}' => $waiver->id, '{fixList}' => $list->id, '{letter}' => $letter->id, '{person}' => $person->id, '{token}' => 999999, '{upload}' => Upload::query()->create(['name' => 'x.obj', 'bytes' => 1, 'uploaded_by' => 'x'])->id];

        return [static fn (string $name): string => '/'.strtr(explode(' ', $name)[1], $names + ['{kind}' => str_contains($name, 'proof') ? 'normal' : 'single']), $delivery];
    }
}
