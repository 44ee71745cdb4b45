<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Standard;
use App\Models\State\Step;
use Illuminate\Support\Facades\DB;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * The rack at any size, and pages that are asked for again and again.
 */
final class RackTest extends TestCase
{
    use HandsIn;

    private const LOW = "o post_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n";

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    /**
     * What was asked of the database, beside who asks: a session is read and written with each request.
     *
     * @return list<string>
     */
    private static function queries(): array
    {
        return array_values(array_filter(array_column(DB::getQueryLog(), 'query'), static fn (mixed $query): bool => is_string($query) && ! str_contains($query, '`sessions`')));
    }

    public function test_a_rack_of_many_assets_is_read_in_few_queries_page_by_page(): void
    {
        $this->fillRack(250, 3);
        $this->getJson('/api/rack')->assertOk();
        DB::flushQueryLog();
        DB::enableQueryLog();
        $first = $this->getJson('/api/rack')->assertOk();
        $queries = self::queries();
        DB::disableQueryLog();
        self::assertLessThan(11, count($queries), implode("\n", array_map(static fn (string $query): string => substr($query, 0, 120), array_slice($queries, 0, 12))));
        $first->assertJsonCount(100, 'assets')->assertJson(['fitting' => 250, 'pages' => 3, 'total' => 250, 'ready' => 125, 'blocked' => 125, 'computing' => 0]);
        $first->assertJsonPath('assets.0.name', 'Buoy 249')->assertJsonPath('assets.0.delivery', 3)->assertJsonPath('assets.0.deliveries', 3)->assertJsonPath('assets.0.parts', 2)->assertJsonPath('assets.0.lowTriangles', 12)->assertJsonPath('assets.0.highTriangles', 90);
        $this->getJson('/api/rack?page=3')->assertOk()->assertJsonCount(50, 'assets')->assertJsonPath('assets.49.name', 'Buoy 0');
        $this->getJson('/api/rack?page=4')->assertOk()->assertJsonCount(0, 'assets');
    }

    public function test_the_rack_is_searched_by_asset_part_and_verdict(): void
    {
        $this->fillRack(30, 2);
        $this->getJson('/api/rack?find=BUOY%207')->assertJsonCount(1, 'assets')->assertJsonPath('assets.0.name', 'Buoy 7')->assertJson(['fitting' => 1, 'total' => 30]);
        $this->getJson('/api/rack?find=chain_21_l')->assertJsonCount(1, 'assets')->assertJsonPath('assets.0.name', 'Buoy 21');
        $this->getJson('/api/rack?find=gone')->assertJsonCount(0, 'assets', 'parts of earlier deliveries are not looked at');
        $this->getJson('/api/rack?find=%25')->assertJsonCount(0, 'assets', 'a letter like any other');
        $this->getJson('/api/rack?verdict=ready')->assertJsonCount(15, 'assets');
        $this->getJson('/api/rack?verdict=blocked&find=buoy%201')->assertJsonCount(6, 'assets');
        foreach (['page=0', 'page=x', 'verdict=fine', 'find[]=a', 'find='.str_repeat('a', 201)] as $wrong) {
            $this->getJson("/api/rack?$wrong")->assertStatus(422);
        }
    }

    public function test_the_row_that_is_kept_is_the_one_that_would_be_made(): void
    {
        $id = $this->handIn();
        $this->getJson('/api/rack')->assertJsonPath('assets.0.state', 'reading')->assertJsonPath('assets.0.stations.0.state', 'computing')->assertJson(['computing' => 1]);
        self::assertNull(Delivery::query()->findOrFail($id)->summary);
        $this->work();
        self::assertNotNull(Delivery::query()->findOrFail($id)->summary, 'written when it was judged');
        $kept = $this->getJson('/api/rack')->assertOk()->json('assets');
        DB::table('deliveries')->update(['summary' => null]);
        self::assertSame($kept, $this->getJson('/api/rack')->json('assets'));
        self::assertNotNull(Delivery::query()->findOrFail($id)->summary, 'kept where it was missing');
        self::assertSame($this->getJson("/api/deliveries/$id")->json('stations'), $kept[0]['stations'] ?? null);
        // Begun again, the row of before holds no more.
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->getJson('/api/rack')->assertJsonPath('assets.0.stations.7.state', 'computing')->assertJsonPath('assets.0.verdict', null);
        $this->postJson("/api/deliveries/$id/cancel")->assertNoContent();
        $this->getJson('/api/rack')->assertJsonPath('assets.0.stations.1.state', 'not-run')->assertJsonPath('assets.0.state', 'cancelled');
        $this->getJson('/api/rack')->assertJsonPath('assets.0.stations.1.state', 'not-run');
    }

    public function test_a_delivery_that_did_not_change_is_not_read_again(): void
    {
        $id = $this->handIn();
        $tag = (string) $this->getJson("/api/deliveries/$id")->assertOk()->headers->get('ETag');
        self::assertMatchesRegularExpression('#^W/"[0-9a-f]{32}"$#', $tag);
        DB::flushQueryLog();
        DB::enableQueryLog();
        $same = $this->getJson("/api/deliveries/$id", ['If-None-Match' => $tag])->assertStatus(304);
        self::assertCount(1, self::queries());
        DB::disableQueryLog();
        self::assertSame([$tag, ''], [$same->headers->get('ETag'), $same->getContent()]);
        $tags = [$tag];
        $version = config()->string('anvil.core_version');
        config(['anvil.core_version' => 'another']);
        $this->getJson("/api/deliveries/$id", ['If-None-Match' => $tag])->assertOk();
        config(['anvil.core_version' => $version]);
        $next = function (string $what) use ($id, &$tags): void {
            $tag = (string) $this->getJson("/api/deliveries/$id", ['If-None-Match' => end($tags) ?: ''])->assertOk()->headers->get('ETag');
            self::assertNotContains($tag, $tags, $what);
            $this->getJson("/api/deliveries/$id", ['If-None-Match' => $tag])->assertStatus(304);
            $tags[] = $tag;
        };
        for ($step = 0; DB::table('jobs')->count() > 0 && $step < 20; $step++) {
            $this->work(1);
            // What is measured of parts by themselves is not shown before the checks have read it.
            $measuring = Delivery::query()->findOrFail($id)->step === Step::Measure;
            $measuring ? $this->getJson("/api/deliveries/$id", ['If-None-Match' => end($tags) ?: '']) : $next("job $step");
        }
        self::assertGreaterThanOrEqual(4, count($tags), 'read, pair, check');
        $this->postJson("/api/deliveries/$id/outputs", ['kind' => 'cage'])->assertSuccessful();
        $next('an output is asked for');
        $this->work();
        $next('an output is made');
        $this->postJson("/api/deliveries/$id/choices", ['base' => 'post', 'choice' => 'self'])->assertSuccessful();
        $next('a choice is made');
        $this->getJson('/api/deliveries/999999', ['If-None-Match' => $tag])->assertNotFound();
        $this->getJson("/api/deliveries/$id/x", ['If-None-Match' => $tag])->assertNotFound();
    }

    public function test_each_station_and_how_far_it_is_are_answered_by_themselves(): void
    {
        $id = $this->handIn();
        $mark = $this->getJson("/api/deliveries/$id")->assertOk()->json('mark');
        self::assertIsString($mark);
        $this->getJson("/api/deliveries/$id/progress")->assertOk()->assertExactJson(['mark' => $mark, 'state' => 'reading', 'error' => null, 'progress' => ['files' => 2, 'filesDone' => 0, 'sets' => 0, 'setsDone' => 0, 'doing' => 'reading post_low.obj', 'waitsFor' => '2 files to be read']]);
        foreach (['progress' => null, 'intake' => 'place', 'pairing' => 'ties', 'sets' => 'board', 'color-id' => 'ids', 'clearance' => 'common', 'hand-off' => 'settings'] as $station => $key) {
            $answer = $this->getJson("/api/deliveries/$id/$station")->assertOk();
            self::assertSame("W/\"$mark\"", $answer->headers->get('ETag'), $station);
            $key === null ?: self::assertArrayHasKey($key, (array) $answer->json());
            DB::flushQueryLog();
            DB::enableQueryLog();
            $this->getJson("/api/deliveries/$id/$station", ['If-None-Match' => "W/\"$mark\""])->assertStatus(304);
            self::assertCount(1, self::queries(), $station);
            DB::disableQueryLog();
            $this->getJson("/api/deliveries/999999/$station")->assertNotFound();
        }
        $this->work();
        $done = $this->getJson("/api/deliveries/$id/progress", ['If-None-Match' => "W/\"$mark\""])->assertOk()->assertJsonPath('state', 'done')->assertJsonPath('progress.filesDone', 2)->assertJsonPath('progress.doing', null);
        self::assertNotSame($mark, $done->json('mark'));
        $this->getJson("/api/deliveries/$id/pairing", ['If-None-Match' => "W/\"$mark\""])->assertOk()->assertJsonPath('ties.0.base', 'post');
    }

    private function handIn(): int
    {
        $ids = [$this->upload('post_low.obj', self::LOW), $this->upload('post_high.obj', str_replace('post_low', 'post_high', self::LOW))];
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');

        return is_int($id) ? $id : 0;
    }

    private function fillRack(int $assets, int $deliveries): void
    {
        $standard = Standard::query()->create(['name' => 'built-in', 'rules' => '{"name":"built-in"}', 'changed_by' => 'test']);
        for ($i = 0; $i < $assets; $i++) {
            $asset = Asset::query()->create(['name' => "Buoy $i", 'key' => "buoy $i", 'standard_id' => $standard->id, 'choices' => [], 'changed_by' => 'test']);
            DB::table('assets')->where('id', $asset->id)->update(['updated_at' => now()->addSeconds($i)]);
            for ($n = 1; $n <= $deliveries; $n++) {
                $delivery = Delivery::query()->create(['asset_id' => $asset->id, 'number' => $n, 'state' => 'done', 'verdict' => $i % 2 === 0 ? 'ready' : 'blocked', 'handed_in_by' => 'test', 'report' => ['checks' => []], 'checked_at' => now()]);
                foreach (['low' => 12, 'high' => 90] as $side => $triangles) {
                    $file = $delivery->files()->create(['position' => 0, 'name' => "buoy_$side.obj", 'path' => "nowhere/$side", 'kind' => 'mesh', 'bytes' => 1, 'state' => 'read']);
                    DB::table('parts')->insert(['delivery_id' => $delivery->id, 'file_id' => $file->id, 'position' => 0, 'name' => ($n === $deliveries ? "chain_{$i}_" : 'gone_').$side, 'store' => '', 'triangles' => $triangles, 'vertices' => 8, 'materials' => '[]', 'colors' => '{}', 'has_normals' => true, 'has_uvs' => true]);
                }
            }
        }
    }
}
