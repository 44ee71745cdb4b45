<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\MemorySink;
use App\Deliveries\Steps;
use App\Models\File;
use App\Models\Output;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Imagick;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * The trial bake and the maps that came back, through the API and headless.
 */
final class ProofTest extends TestCase
{
    use HandsIn;

    private const STANDARD = '{"mapSize":128,"rays":{"count":512},"reach":{"*":{"out":0.3,"in":0.2}}}';

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    /**
     * A board with a boss and a slanting groove, over most of a page.
     *
     * @return array<string, string> name → content
     */
    private static function files(): array
    {
        $shape = static fn (array $p): float => 0.1 * max(0.0, 1 - (($p[0] - 0.4) ** 2 + ($p[2] + 0.3) ** 2) / 0.12) - 0.06 * exp(-((($p[0] + $p[2] * 0.4 + 0.35) / 0.08) ** 2)) + 0.03 * sin(7 * $p[0] + 2 * $p[2]);
        $high = Shapes::sheet(2, 2, 60, 60)->mapped(static fn (array $p): array => [$p[0], $shape($p), $p[2]])->triangulated()->mesh(180);
        $sink = new MemorySink;
        ObjWriter::write([new Part('plate_low', Shapes::sheet(2, 2)->placed(0.02, 0.05, 0.9)->mesh(180, [[0, 'plate']]))], 'plate_low.obj', $sink);
        ObjWriter::write([new Part('plate_high', $high)], 'plate_high.obj', $sink);

        return ['plate_low.obj' => $sink->content('plate_low.obj'), 'plate_high.obj' => $sink->content('plate_high.obj')];
    }

    public function test_a_trial_is_baked_once_and_maps_that_come_back_are_judged(): void
    {
        $id = $this->handIn(self::files());
        $this->postJson("/api/deliveries/$id/proof")->assertStatus(422);
        $this->getJson("/api/deliveries/$id/proof")->assertOk()->assertJsonPath('pages', []);
        $this->work();
        $proof = (array) $this->getJson("/api/deliveries/$id/proof")->assertOk()->assertJsonPath('mapSize', 2048)->assertJsonPath('green', '+Y')->assertJsonPath('trials', [])->json();
        self::assertSame(['plate'], array_column($proof['pages'], 'name'));
        self::assertSame(0, $proof['pages'][0]['texels']);
        self::assertGreaterThan(2_500_000, $proof['pages'][0]['inside']);
        $this->get("/api/deliveries/$id/retouch/0")->assertOk()->assertHeader('Content-Type', 'image/png');
        $this->get("/api/deliveries/$id/retouch/7")->assertNotFound();
        $this->get("/api/deliveries/$id/mesh/lit")->assertOk();

        // Baked once, however often it is asked for; a page that is not there, and sizes that are none, are refused.
        $this->postJson("/api/deliveries/$id/proof", ['size' => 5])->assertStatus(422);
        $this->postJson("/api/deliveries/$id/proof", ['page' => 'bark'])->assertStatus(422);
        $this->postJson("/api/deliveries/$id/proof", ['size' => 64])->assertNoContent();
        $this->postJson("/api/deliveries/$id/proof", ['size' => 64])->assertNoContent();
        $trials = collect((array) $this->getJson("/api/deliveries/$id/proof")->json('trials'));
        self::assertSame(['ao', 'rays'], $trials->pluck('pass')->sort()->values()->all());
        $this->get("/api/deliveries/$id/proof/{$trials[0]['id']}/normal")->assertNotFound();
        $this->work();
        $trials = collect((array) $this->getJson("/api/deliveries/$id/proof")->json('trials'))->keyBy('pass');
        self::assertSame(['done', 'done'], $trials->pluck('state')->values()->all());
        self::assertSame(0, $trials['rays']['missShare'] + $trials['rays']['wrongShare']);
        $png = $this->get("/api/deliveries/$id/proof/{$trials['rays']['id']}/normal")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        self::assertSame([64, 64], array_values(unpack('N2', $png, 16) ?: []));
        $this->get("/api/deliveries/$id/proof/{$trials['ao']['id']}/ao")->assertOk();
        $rays = $this->get("/api/deliveries/$id/proof/{$trials['rays']['id']}/rays")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        self::assertSame(64 * 64 * 24, strlen($rays));

        // The same files as another delivery: nothing is baked again, the images are the same.
        $again = $this->handIn([...self::files(), 'plate_high.obj' => self::files()['plate_high.obj']."\n"]);
        $this->work();
        $this->postJson("/api/deliveries/$again/proof", ['size' => 64])->assertNoContent();
        $this->work();
        $same = collect((array) $this->getJson("/api/deliveries/$again/proof")->assertJsonPath('beforeNumber', 1)->json('trials'))->keyBy('pass');
        self::assertSame($png, $this->get("/api/deliveries/$again/proof/{$same['rays']['id']}/normal")->assertOk()->baseResponse->getFile()->getContent()); // @phpstan-ignore-line
        self::assertSame(1, Output::query()->whereIn('id', [$trials['rays']['id'], $same['rays']['id']])->distinct()->count('key'));

        // A map with its green inverted comes back; then the right one of the same name.
        $this->postJson("/api/deliveries/$id/proof", ['size' => 256])->assertNoContent();
        $this->work();
        $fine = collect((array) $this->getJson("/api/deliveries/$id/proof")->json('trials'))->where('size', 256)->keyBy('pass');
        $good = $this->get("/api/deliveries/$id/proof/{$fine['rays']['id']}/normal")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        $image = new Imagick;
        $image->readImageBlob($good);
        $image->negateImage(false, Imagick::CHANNEL_GREEN);
        $image->setImageFormat('tiff');
        $bad = $image->getImageBlob();
        $this->postJson("/api/deliveries/$id/maps", ['uploads' => ['none']])->assertStatus(422);
        $this->postJson("/api/deliveries/$id/maps", ['uploads' => [$this->upload('plate_normal.jpg', 'no map')]])->assertStatus(422);
        $this->postJson("/api/deliveries/$id/maps", ['uploads' => [$this->upload('plate_normal.tif', $bad)]])->assertNoContent();
        $this->work();
        $map = (array) $this->getJson("/api/deliveries/$id/proof")->assertJsonCount(1, 'maps')->json('maps.0');
        self::assertTrue($map['greenInverted']);
        self::assertContains('map-green', $map['codes']);
        self::assertSame('plate', $map['page']);
        self::assertLessThan(0.2, $map['median']);
        $this->get("/api/deliveries/$id/maps/0/map")->assertOk()->assertHeader('Content-Type', 'image/png');
        $this->get("/api/deliveries/$id/maps/0/difference")->assertOk();
        self::assertContains('map-green', array_column((array) $this->getJson("/api/deliveries/$id")->json('findings'), 'code'));
        $stored = File::query()->where('name', 'plate_normal.tif')->firstOrFail();
        self::assertSame(hash('sha256', $bad), $stored->sha256);
        $this->postJson("/api/deliveries/$id/maps", ['uploads' => [$this->upload('plate_normal.tif', $good)]])->assertNoContent();
        $this->work();
        $map = (array) $this->getJson("/api/deliveries/$id/proof")->assertJsonCount(1, 'maps')->json('maps.0');
        self::assertSame(['map-size'], $map['codes']);
        self::assertSame('replaced', $stored->refresh()->kind, 'what it took the place of is kept');
        $this->postJson("/api/deliveries/$id/maps/{$map['file']}/take-back")->assertNoContent();
        $this->work();
        $this->getJson("/api/deliveries/$id/proof")->assertJsonCount(0, 'maps');
    }

    public function test_a_trial_is_cancelled_and_no_worker_finishes_it(): void
    {
        $id = $this->handIn(self::files());
        $this->work();
        $this->postJson("/api/deliveries/$id/proof", ['size' => 64])->assertNoContent();
        foreach ((array) $this->getJson("/api/deliveries/$id/proof")->json('trials') as $trial) {
            $this->postJson("/api/deliveries/$id/proof/{$trial['id']}/cancel")->assertNoContent();
        }
        $this->work();
        foreach ((array) $this->getJson("/api/deliveries/$id/proof")->json('trials') as $trial) {
            self::assertSame('failed', $trial['state']);
            self::assertStringContainsString('cancelled by', $trial['error']);
        }
        // What lay in no queue is sent again.
        $this->postJson("/api/deliveries/$id/proof", ['size' => 64])->assertNoContent();
        $this->postJson("/api/deliveries/$id/proof", ['size' => 128])->assertNoContent();
        DB::table('jobs')->delete();
        self::assertSame(4, Steps::reconcile());
        $this->work();
        self::assertSame(4, collect((array) $this->getJson("/api/deliveries/$id/proof")->json('trials'))->where('state', 'done')->count());
    }

    public function test_the_headless_proof_writes_its_files_and_says_what_cannot_be(): void
    {
        $folder = sys_get_temp_dir().'/anvil-proof-'.bin2hex(random_bytes(4));
        mkdir($folder);
        foreach (self::files() as $name => $content) {
            file_put_contents("$folder/$name", $content);
        }
        file_put_contents("$folder/standard.json", self::STANDARD);
        $run = static function (string ...$arguments): array {
            exec(PHP_BINARY.' '.base_path('artisan').' anvil:proof '.implode(' ', array_map(escapeshellarg(...), $arguments)).' --json 2>/dev/null', $lines, $code);

            return [$code, (array) json_decode(implode("\n", $lines), true)];
        };
        $meshes = ["$folder/plate_low.obj", "$folder/plate_high.obj", "--standard=$folder/standard.json"];
        [$code, $json] = $run(...$meshes, ...["--out=$folder/out", '--size=64', '--samples=4', '--directions=16']);
        self::assertSame(0, $code);
        self::assertSame(64, $json['size']);
        self::assertSame(['normal', 'ao', 'id', 'height', 'miss', 'retouch'], array_column($json['pages'][0]['maps'], 'kind'));
        foreach ($json['pages'][0]['maps'] as $map) {
            self::assertSame($map['sha256'], hash_file('sha256', "$folder/out/{$map['file']}"));
        }
        self::assertSame([128, 128], array_slice((array) getimagesize("$folder/out/plate_retouch.png"), 0, 2));
        self::assertSame($json['pages'], json_decode((string) file_get_contents("$folder/out/proof.json"), true)['pages']);
        // The same input, the same bytes; a folder that is not empty is left alone.
        [$code] = $run(...$meshes, ...["--out=$folder/out"]);
        self::assertSame(2, $code);
        [, $again] = $run(...$meshes, ...["--out=$folder/two", '--size=64', '--samples=4', '--directions=16', '--workers=1']);
        self::assertSame($json['pages'], $again['pages']);
        // Maps that came back: by name, by prefix, of a page that is not there, of no known kind.
        copy("$folder/out/plate_normal.png", "$folder/came_normal.png");
        copy("$folder/out/plate_normal.png", "$folder/odd.png");
        file_put_contents("$folder/cut_ao.png", substr((string) file_get_contents("$folder/out/plate_ao.png"), 0, 200));
        [$code, $json] = $run(...$meshes, ...["$folder/came_normal.png", "map:normal:$folder/odd.png", "map:height@bark:$folder/odd.png", "$folder/cut_ao.png", "--out=$folder/three", '--size=64']);
        self::assertSame(1, $code, 'open blockers');
        self::assertCount(2, $json['pages'][0]['returned']);
        self::assertSame('as-is', $json['pages'][0]['returned'][0]['fit']['turn']);
        $unreadable = array_values(array_filter($json['findings'], static fn (array $finding): bool => $finding['code'] === 'map-unreadable'));
        self::assertSame(['there is no page bark', 'cut short'], [substr($unreadable[0]['message'], strlen('odd.png: '), 21), substr($unreadable[1]['message'], -9)]);
        foreach ([["map:color:$folder/odd.png", 'no kind of map'], ["$folder/gone_normal.png", 'is not there']] as [$wrong, $words]) {
            [$code, $json] = $run(...$meshes, ...[$wrong, "--out=$folder/four"]);
            self::assertSame(2, $code);
            self::assertStringContainsString($words, $json['error']['message']);
        }
        foreach (['--size=32', '--samples=2', '--through=wall'] as $wrong) {
            [$code, $json] = $run(...$meshes, ...[$wrong, "--out=$folder/four"]);
            self::assertSame([2, 'input-unusable'], [$code, $json['error']['code']]);
        }
        self::assertDirectoryDoesNotExist("$folder/four");
        self::assertSame(1, Artisan::call('anvil:inspect', ['files' => ["$folder/plate_low.obj", "$folder/plate_high.obj", "$folder/cut_ao.png"], '--standard' => "$folder/standard.json", '--only' => 'map-unreadable', '--json' => true]));
        exec('rm -r '.escapeshellarg($folder));
    }
}
