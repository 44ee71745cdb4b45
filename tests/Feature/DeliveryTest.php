<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\MeasureSet;
use App\Models\Delivery;
use App\Models\Upload;
use App\Models\Worker;
use Demo\SignalStation;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use Tests\TestCase;
use ZipArchive;

/**
 * Handing in, checking, mending, writing and sealing over HTTP, with the queue and MariaDB.
 */
final class DeliveryTest extends TestCase
{
    private const TRIANGLE = "o a_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n";

    protected function setUp(): void
    {
        parent::setUp();
        config(['anvil.largest_upload' => 50_000_000]);
        foreach (['assets', 'standards', 'uploads', 'workers', 'jobs', 'job_batches', 'failed_jobs'] as $table) {
            DB::table($table)->delete();
        }
    }

    public function test_a_file_comes_in_piece_by_piece_and_goes_on_where_it_broke_off(): void
    {
        $upload = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => strlen(self::TRIANGLE)])->assertCreated()->json('id');
        self::assertIsString($upload);
        $this->piece($upload, 0, substr(self::TRIANGLE, 0, 20))->assertOk()->assertJsonPath('received', 20);
        $this->piece($upload, 0, 'again')->assertStatus(409)->assertJsonPath('received', 20);
        $this->piece($upload, 20, substr(self::TRIANGLE, 20))->assertOk()->assertJsonPath('received', strlen(self::TRIANGLE));
        self::assertSame(self::TRIANGLE, Storage::get("uploads/$upload"));
        $this->piece($upload, strlen(self::TRIANGLE), 'too much')->assertStatus(422);
    }

    public function test_what_cannot_be_taken_is_refused_in_words_and_leaves_nothing(): void
    {
        foreach ([
            ['a.fbx', 10, '.fbx is a format that is not read yet; export the same meshes as .glb'],
            ['notes.txt', 10, 'no mesh format known here'],
            ['big.obj', 60_000_000, 'at most'],
            ['none.obj', 0, 'is empty'],
            ['../a.obj', 10, 'holds a path'],
        ] as [$name, $bytes, $words]) {
            self::assertStringContainsString($words, (string) json_encode($this->postJson('/api/uploads', ['name' => $name, 'bytes' => $bytes])->assertStatus(422)->json(), JSON_UNESCAPED_SLASHES));
        }
        self::assertSame(0, Upload::query()->count());
    }

    public function test_a_half_uploaded_file_makes_no_delivery(): void
    {
        $upload = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => 100])->json('id');
        $this->postJson('/api/deliveries', ['uploads' => [$upload]])->assertStatus(422);
        $this->postJson('/api/deliveries', ['uploads' => ['11111111-1111-4111-8111-111111111111']])->assertStatus(422);
        $side = $this->upload('only.mtl', "newmtl a\n");
        $this->postJson('/api/deliveries', ['uploads' => [$side]])->assertStatus(422)->assertJsonFragment(['message' => 'there is no mesh file among these; hand in .glb, .gltf or .obj']);
        self::assertSame(0, Delivery::query()->count());
    }

    public function test_the_tide_gauge_is_checked_mended_coloured_and_delivered_again(): void
    {
        $folder = sys_get_temp_dir().'/anvil-feature-'.bin2hex(random_bytes(4));
        $files = self::demoFiles(SignalStation::tideGauge(), $folder);
        $ids = array_map(fn (string $path): string => $this->upload(basename($path), (string) file_get_contents($path)), array_values($files));
        $made = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json();
        self::assertIsArray($made);
        $this->work();
        $page = $this->getJson("/api/deliveries/{$made['deliveryId']}")->assertOk();
        $this->assertFitsSchema('DeliveryData', (string) $page->getContent());
        $page->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'blocked')->assertJsonPath('blockers', 4);
        self::assertSame(['pair-no-high', 'suffix-case', 'name-case', 'id-close'], array_column((array) $page->json('findings'), 'code'));
        self::assertSame('not-built', collect((array) $page->json('stations'))->firstWhere('key', 'proof')['state']);
        $this->assertFitsSchema('RackData', (string) $this->getJson('/api/rack')->assertOk()->getContent());
        $this->assertFitsSchema('AssetData', (string) $this->getJson("/api/assets/{$made['assetId']}")->assertOk()->getContent());
        $mesh = (string) $this->get("/api/deliveries/{$made['deliveryId']}/mesh/low")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        self::assertSame(12, count(json_decode(substr($mesh, 4, unpack('V', $mesh)[1] ?? 0), true)['parts'] ?? []));

        // The suggested names, applied: a new delivery; the old one stays as it was.
        $renames = array_map(static fn (array $s): array => ['fileId' => $s['fileId'], 'from' => $s['part'], 'to' => $s['rename']], (array) $page->json('suggestions'));
        $this->postJson("/api/deliveries/{$made['deliveryId']}/renames", ['renames' => $renames])->assertOk()->assertJsonPath('clashes', []);
        $clash = [['fileId' => $renames[0]['fileId'], 'from' => 'Dial_high', 'to' => 'bezel_high']];
        self::assertStringContainsString('both', (string) $this->postJson("/api/deliveries/{$made['deliveryId']}/renames", ['renames' => $clash])->json('clashes.0'));
        $this->postJson("/api/deliveries/{$made['deliveryId']}/mend", ['renames' => $clash])->assertStatus(422);
        $mended = $this->postJson("/api/deliveries/{$made['deliveryId']}/mend", ['renames' => $renames])->assertCreated()->json();
        self::assertIsArray($mended);
        self::assertSame(2, $mended['number']);
        $this->work();
        $after = $this->getJson("/api/deliveries/{$mended['deliveryId']}");
        $after->assertJsonPath('derivedFrom', 1)->assertJsonPath('madeByWords', '2 names mended from delivery 1');
        self::assertSame(['pair-no-high', 'id-close'], array_column((array) $after->json('findings'), 'code'));
        $original = Delivery::query()->findOrFail($made['deliveryId']);
        foreach ($original->files as $file) {
            self::assertSame(file_get_contents($files[$file->name]), Storage::get($file->path), 'originals are never changed');
        }
        $this->postJson("/api/deliveries/{$mended['deliveryId']}/packages")->assertStatus(422);

        // By choice the bracket is baked on itself.
        $this->postJson("/api/deliveries/{$mended['deliveryId']}/choices", ['base' => 'bracket', 'choice' => 'self'])->assertNoContent();
        $this->work();
        self::assertSame(['pair-self', 'id-close'], array_column((array) $this->getJson("/api/deliveries/{$mended['deliveryId']}")->json('findings'), 'code'));

        $output = $this->postJson("/api/deliveries/{$mended['deliveryId']}/outputs", ['kind' => 'ids'])->assertCreated()->json('id');
        $this->work();
        $zip = new ZipArchive;
        $zip->open($this->get('/api/outputs/'.(is_int($output) ? $output : 0))->assertOk()->baseResponse->getFile()->getPathname()); // @phpstan-ignore-line
        self::assertNotFalse($zip->locateName('gauge_id.obj'));
        $legend = json_decode((string) $zip->getFromName('legend.json'), true);
        self::assertGreaterThan(20, $legend['leastDeltaE00'] ?? 0);
        \Anvil\Formats\Folder::remove($folder);
    }

    public function test_a_ready_asset_is_sealed_and_a_second_hand_in_of_the_name_is_its_next_delivery(): void
    {
        $id = $this->handInWinch();
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('verdict', 'ready')->assertJsonPath('findings', []);
        $package = $this->postJson("/api/deliveries/$id/packages")->assertCreated()->json('id');
        $this->work();
        $page = $this->getJson("/api/deliveries/$id");
        $page->assertJsonPath('packages.0.state', 'done');
        self::assertSame('passed', collect((array) $page->json('checks'))->firstWhere('code', 'package-readback')['state']);
        $bytes = $this->get('/api/packages/'.(is_int($package) ? $package : 0))->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        self::assertSame($page->json('packages.0.sha256'), hash('sha256', $bytes));
        $again = $this->handInWinch();
        self::assertSame(2, Delivery::query()->findOrFail($again)->number);
        self::assertSame(Delivery::query()->findOrFail($id)->asset_id, Delivery::query()->findOrFail($again)->asset_id);
    }

    public function test_a_broken_file_gives_a_finding_with_its_line_and_the_other_file_is_kept(): void
    {
        $ids = [$this->upload('buoy_low.obj', "v 0 0 0\nv 1 0 nan\n"), $this->upload('buoy_high.obj', str_replace('a_low', 'a_high', self::TRIANGLE))];
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->json('deliveryId');
        $this->work();
        $page = $this->getJson('/api/deliveries/'.(is_int($id) ? $id : 0));
        $page->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'blocked')->assertJsonPath('files.0.errorLine', 2);
        self::assertSame(['file-unreadable'], array_column((array) $page->json('findings'), 'code'));
        self::assertStringContainsString('line 2', (string) $page->json('findings.0.message'));
    }

    public function test_a_role_chosen_for_a_file_is_used_and_can_be_taken_back(): void
    {
        $id = $this->handInWinch();
        $this->work();
        $file = Delivery::query()->findOrFail($id)->files->firstWhere('name', 'winch_high.obj');
        $this->postJson("/api/deliveries/$id/files/{$file?->id}/role", ['role' => 'low'])->assertNoContent();
        $this->work();
        $codes = array_column((array) $this->getJson("/api/deliveries/$id")->json('findings'), 'code');
        self::assertContains('role-mixed', $codes);
        $this->postJson("/api/deliveries/$id/files/{$file?->id}/role", ['role' => null])->assertNoContent();
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('verdict', 'ready');
    }

    public function test_a_cancelled_delivery_stops_and_can_be_checked_again(): void
    {
        $id = $this->handInWinch();
        $this->postJson("/api/deliveries/$id/cancel")->assertNoContent();
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'cancelled')->assertJsonPath('findings', []);
        // Nothing of it had been read: checking again reads it first.
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->work();
        $page = $this->getJson("/api/deliveries/$id");
        $page->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'ready');
        self::assertCount(16, (array) $page->json('parts'));
    }

    public function test_the_job_of_a_killed_worker_is_put_back_at_once_and_leaves_no_half_result(): void
    {
        $id = $this->handInWinch();
        $job = DB::table('jobs')->orderBy('id')->value('id');
        DB::table('jobs')->where('id', $job)->update(['reserved_at' => time(), 'attempts' => 1]);
        // A worker that is no more held it.
        Worker::query()->create(['host' => (string) gethostname(), 'pid' => 4_000_000, 'job_id' => $job]);
        Artisan::call('anvil-workers:release');
        self::assertNull(DB::table('jobs')->where('id', $job)->value('reserved_at'));
        self::assertSame(0, Worker::query()->count());
        $this->work();
        $first = (string) $this->getJson("/api/deliveries/$id")->assertJsonPath('verdict', 'ready')->getContent();
        // Run again, a set's job changes nothing.
        $set = Delivery::query()->findOrFail($id)->sets->firstOrFail();
        $set->update(['state' => 'measuring', 'clearance' => null]);
        (new MeasureSet($id, $set->id))->handle();
        self::assertSame($first, (string) $this->getJson("/api/deliveries/$id")->getContent());
    }

    public function test_the_page_and_unknown_things(): void
    {
        $this->get('/')->assertOk()->assertSee('Yellow Anvil');
        $this->get('/assets/1/deliveries/1/pairing')->assertOk();
        $this->getJson('/api/deliveries/999')->assertNotFound();
        $this->getJson('/api/nothing')->assertNotFound();
    }

    private function handInWinch(): int
    {
        $folder = sys_get_temp_dir().'/anvil-feature-'.bin2hex(random_bytes(4));
        $ids = [];
        foreach (self::demoFiles(SignalStation::mooringWinch(), $folder) as $name => $path) {
            $ids[] = $this->upload($name, (string) file_get_contents($path));
        }
        \Anvil\Formats\Folder::remove($folder);
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');

        return is_int($id) ? $id : 0;
    }

    private function upload(string $name, string $content): string
    {
        $id = $this->postJson('/api/uploads', ['name' => $name, 'bytes' => strlen($content)])->assertCreated()->json('id');
        self::assertIsString($id);
        $this->piece($id, 0, $content)->assertOk();

        return $id;
    }

    /**
     * @return \Illuminate\Testing\TestResponse<\Symfony\Component\HttpFoundation\Response>
     */
    private function piece(string $upload, int $offset, string $content): \Illuminate\Testing\TestResponse
    {
        return $this->call('PUT', "/api/uploads/$upload?offset=$offset", [], [], [], ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'], $content);
    }

    /** Works the queue until it is empty. */
    private function work(): void
    {
        Artisan::call('queue:work', ['connection' => 'database', '--stop-when-empty' => true, '--memory' => 3500, '--sleep' => 0]);
        self::assertSame(0, DB::table('failed_jobs')->count(), (string) json_encode(DB::table('failed_jobs')->pluck('exception')));
    }

    private function assertFitsSchema(string $name, string $json): void
    {
        $root = json_decode((string) file_get_contents(base_path('docs/openapi.json')));
        self::assertInstanceOf(\stdClass::class, $root);
        foreach ((array) $root->components->schemas as $one) {
            foreach ((array) $one->properties as $property) {
                // OpenAPI 3.0 says nullable where JSON Schema says a second type.
                if ($property->nullable ?? false) {
                    isset($property->oneOf) ? $property->oneOf[] = (object) ['type' => 'null'] : $property->type = [$property->type, 'null'];
                }
            }
            $one->additionalProperties = false;
        }
        $root->{'$ref'} = "#/components/schemas/$name";
        unset($root->openapi, $root->info, $root->paths);
        $result = (new Validator)->validate(json_decode($json), $root);
        self::assertTrue($result->isValid(), $result->error() === null ? '' : (string) json_encode((new ErrorFormatter)->format($result->error())));
    }
}
