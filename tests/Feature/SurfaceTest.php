<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Delivery;
use Demo\SignalStation;
use Illuminate\Support\Facades\Artisan;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * The UV pages through the API: told once all is measured, with the low poly for the screen; an island declared to lie on others holds in the next delivery; pages as pictures.
 */
final class SurfaceTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    public function test_the_page_of_the_gauge_shows_what_is_wrong_and_an_island_is_declared(): void
    {
        $folder = sys_get_temp_dir().'/anvil-surface-'.bin2hex(random_bytes(4));
        $files = array_map(static fn (string $path): string => (string) file_get_contents($path), self::demoFiles(SignalStation::tideGauge(), $folder));
        $id = $this->handIn($files);
        $this->getJson("/api/deliveries/$id/surface")->assertOk()->assertJsonPath('uv', null);
        $this->get("/api/deliveries/$id/mesh/surface")->assertNotFound();
        $this->work();
        $uv = (array) $this->getJson("/api/deliveries/$id/surface")->assertOk()->assertJsonPath('uv.mapSize', 2048)->assertJsonPath('uv.padding', 8)->assertJsonCount(1, 'uv.pages')->json('uv');
        $page = $uv['pages'][0];
        self::assertSame('gauge', $page['name']);
        self::assertGreaterThan(0.001, $page['overlap']);
        self::assertNotSame([], $page['regions']);
        self::assertEqualsWithDelta(3.0, $page['gaps'][0]['px'], 0.01);
        $islands = collect($uv['islands']);
        self::assertSame($page['islands'], $islands->count());
        self::assertSame(6, $islands->filter(static fn (array $one): bool => $one['density'] > 0 && $one['density'] < 0.5 * $uv['reference'])->count());
        self::assertSame([512, 1024, 2048, 4096, 8192], array_column($uv['sizes'], 'size'));
        $codes = array_column((array) $this->getJson("/api/deliveries/$id")->json('findings'), 'code');
        foreach (['uv-overlap', 'uv-padding', 'texel-density', 'hard-no-seam'] as $code) {
            self::assertContains($code, $codes);
        }
        self::assertSame('found', collect((array) $this->getJson("/api/deliveries/$id")->json('stations'))->firstWhere('key', 'surface')['state']);

        // The low poly with its UVs: islands as the sheet counts them.
        $mesh = $this->get("/api/deliveries/$id/mesh/surface")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        $length = unpack('V', $mesh)[1] ?? 0;
        $head = json_decode(substr($mesh, 4, $length), true);
        self::assertSame($uv['parts'], array_column($head['parts'], 'name'));
        self::assertSame(4 + $length + 68 * array_sum(array_column($head['parts'], 'triangles')), strlen($mesh));

        // One of those that overlap may lie on the other.
        $pushed = $islands->first(static fn (array $one): bool => $one['overlaps'] && $uv['parts'][$one['part']] === 'housing_low');
        $this->postJson("/api/deliveries/$id/mirrored", ['part' => 'housing_low', 'island' => 'none', 'mirrored' => true])->assertStatus(422);
        $this->postJson("/api/deliveries/$id/mirrored", ['part' => 'housing_low', 'island' => $pushed['key'], 'mirrored' => true])->assertNoContent();
        $this->work();
        self::assertNotContains('uv-overlap', array_column((array) $this->getJson("/api/deliveries/$id")->json('findings'), 'code'));
        self::assertTrue(collect((array) $this->getJson("/api/deliveries/$id/surface")->json('uv.islands'))->firstWhere('key', $pushed['key'])['meant']);
        // It holds in the next delivery, and is taken back there.
        $next = $this->handIn($files);
        $this->work();
        self::assertSame(Delivery::query()->findOrFail($id)->asset_id, Delivery::query()->findOrFail($next)->asset_id);
        self::assertNotContains('uv-overlap', array_column((array) $this->getJson("/api/deliveries/$next")->json('findings'), 'code'));
        $this->postJson("/api/deliveries/$next/mirrored", ['part' => 'housing_low', 'island' => $pushed['key'], 'mirrored' => false])->assertNoContent();
        $this->work();
        self::assertContains('uv-overlap', array_column((array) $this->getJson("/api/deliveries/$next")->json('findings'), 'code'));
    }

    public function test_pages_are_written_as_pictures_and_what_cannot_be_is_said(): void
    {
        $folder = sys_get_temp_dir().'/anvil-pictures-'.bin2hex(random_bytes(4));
        $paths = array_values(self::demoFiles(SignalStation::tideGauge(), $folder));
        self::assertSame(1, Artisan::call('anvil:inspect', ['files' => $paths, '--only' => 'uv-overlap', '--uv-layout' => "$folder/page.svg", '--json' => true]));
        $svg = simplexml_load_file("$folder/page.svg");
        self::assertNotFalse($svg);
        self::assertStringContainsString('housing_low', (string) $svg->asXML());
        self::assertStringContainsString('class="overlap"', (string) $svg->asXML());
        Artisan::call('anvil:inspect', ['files' => $paths, '--only' => 'uv-overlap', '--uv-layout' => "$folder/page.png", '--uv-layout-size' => '256', '--json' => true]);
        self::assertSame([256, 256], array_values(unpack('N2', (string) file_get_contents("$folder/page.png"), 16) ?: []));
        foreach (["--uv-layout=$folder/page.jpg", "--uv-layout=$folder/none/page.svg", "--uv-layout=$folder/other.png --uv-layout-size=9"] as $wrong) {
            exec(PHP_BINARY.' '.base_path('artisan').' anvil:inspect '.implode(' ', $paths)." --json $wrong 2>/dev/null", $lines, $code);
            self::assertSame(2, $code);
            self::assertSame('input-unusable', json_decode(implode("\n", $lines), true)['error']['code'] ?? null);
            $lines = [];
        }
        self::assertFileDoesNotExist("$folder/other.png");
        file_put_contents("$folder/page.svg", 'mine');
        self::assertSame(2, Artisan::call('anvil:inspect', ['files' => $paths, '--only' => 'uv-overlap', '--uv-layout' => "$folder/page.svg", '--json' => true]));
        self::assertSame('mine', file_get_contents("$folder/page.svg"));
        self::assertSame(1, Artisan::call('anvil:inspect', ['files' => $paths, '--only' => 'uv-overlap', '--uv-layout' => "$folder/page.svg", '--json' => true, '--force' => true]));
        self::assertStringContainsString('<svg', (string) file_get_contents("$folder/page.svg"));
    }
}
