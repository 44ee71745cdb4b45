<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Person;
use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\Route;
use Tests\HandsIn;
use Tests\TestCase;

/** Whoever asks is asked about: every route to a delivery or an asset says what leave it needs. */
final class AccessTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    /**
     * @return list<OneRoute>
     */
    private static function routes(): array
    {
        return array_values(array_filter(Route::getRoutes()->getRoutes(), static fn (OneRoute $route): bool => preg_match('/\{(delivery|asset)\}/', $route->uri()) === 1));
    }

    public function test_each_route_says_what_leave_it_needs(): void
    {
        self::assertGreaterThan(25, count(self::routes()));
        foreach (self::routes() as $route) {
            $needs = array_values(preg_grep('/^(can|Illuminate\\\\Auth\\\\Middleware\\\\Authorize):/', array_filter($route->gatherMiddleware(), is_string(...))) ?: []);
            self::assertCount(1, $needs, $route->uri());
            $isChange = $route->methods()[0] !== 'GET' && ! str_ends_with($route->uri(), '/renames');
            self::assertSame($route->methods()[0] === 'DELETE' ? 'delete' : ($isChange ? 'change' : 'view'), preg_replace('/^.*:(\w+),.*$/', '$1', $needs[0]), implode($route->methods()).' '.$route->uri());
        }
    }

    public function test_who_has_no_leave_gets_nothing(): void
    {
        $delivery = Delivery::factory()->create();
        $output = $delivery->outputs()->create(['kind' => 'cage', 'state' => 'done', 'path' => 'nowhere', 'made_by' => 'test']);
        $package = $delivery->packages()->create(['state' => 'done', 'path' => 'nowhere', 'sealed_by' => 'test']);
        $file = $delivery->files()->create(['position' => 0, 'name' => 'x.obj', 'path' => 'nowhere', 'kind' => 'mesh', 'bytes' => 1]);
        $this->getJson("/api/deliveries/$delivery->id")->assertOk()->assertJsonPath('verdict', 'ready');
        $asked = [];
        Gate::before(static function (Person $person, string $ability, array $of) use (&$asked): bool {
            $asked[] = [$person->name(), $ability, get_debug_type($of[0] ?? null)];

            return false;
        });
        foreach (self::routes() as $route) {
            $uri = strtr($route->uri(), ['{delivery}' => $delivery->id, '{asset}' => $delivery->asset_id, '{file}' => $file->id, '{output}' => $output->id, '{kind}' => str_contains($route->uri(), 'proof') ? 'normal' : 'single', '{page}' => 0, '{number}' => 0, '{what}' => 'map']);
            $this->json($route->methods()[0], "/$uri")->assertForbidden()->assertJsonStructure(['message']);
        }
        foreach (["/api/outputs/$output->id", "/api/packages/$package->id"] as $uri) {
            $this->getJson($uri)->assertForbidden();
        }
        self::assertSame([config()->string('anvil.user')], array_values(array_unique(array_column($asked, 0))));
        self::assertEqualsCanonicalizing([Delivery::class, Asset::class], array_values(array_unique(array_column($asked, 2))));
        self::assertTrue($delivery->refresh()->exists);
    }
}
