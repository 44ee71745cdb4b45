<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Folder;
use Anvil\Handoff\Verification;
use App\Deliveries\Store;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\Package;
use App\Models\Standard;
use Demo\SignalStation;
use Illuminate\Support\Facades\DB;
use Tests\Support\HandsIn;
use Tests\TestCase;
use ZipArchive;

/** What went out comes back: packages, with what goes along, that are whole, broken, mixed or out of date. */
final class RoundTripTest extends TestCase
{
    use HandsIn;

    private string $folder;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
        Standard::factory()->create(['name' => 'harbor rules', 'rules' => '{"name":"harbor rules","rays":{"count":4096}}']);
        $this->folder = sys_get_temp_dir().'/anvil-round-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    public function test_a_package_with_all_that_goes_along_comes_back_and_is_known(): void
    {
        $id = $this->handIn(array_map(file_get_contents(...), self::demoFiles(SignalStation::mooringWinch(), $this->folder)));
        $this->work();
        $this->postJson("/api/deliveries/$id/packages", ['with' => ['trial']])->assertCreated();
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('packages.0.state', 'failed')->assertJsonPath('packages.0.error', 'no trial was baked yet: bake one on Proof, or leave the trial maps out');
        $this->getJson("/api/deliveries/$id/hand-off")->assertJsonPath('along.3.lacks', 'bake a trial on Proof first');
        $page = (string) $this->getJson("/api/deliveries/$id/proof")->json('pages.0.page');
        $this->postJson("/api/deliveries/$id/proof", ['pages' => [$page], 'size' => 64, 'samples' => 1, 'through' => 'in-use', 'exploded' => false])->assertSuccessful();
        $this->work();
        $this->postJson("/api/deliveries/$id/packages", ['with' => ['trial', 'cage', 'exploded', 'ids', 'retouch']])->assertCreated();
        $this->postJson("/api/deliveries/$id/packages", ['with' => ['everything']])->assertUnprocessable();
        $this->work();
        $package = Package::query()->where('delivery_id', $id)->orderByDesc('id')->firstOrFail();
        self::assertSame([null, ['exploded', 'cage', 'ids', 'trial', 'retouch']], [$package->error, $package->with]);
        $path = Store::local((string) $package->path);
        self::assertSame([], Verification::of($path)->findings);
        $zip = new ZipArchive;
        $zip->open($path);
        self::assertNotFalse($zip->locateName('outputs/trial/winch_normal.png'));
        self::assertNotFalse($zip->locateName('outputs/exploded/explode.json'));
        self::assertStringContainsString('<small>delivery 1</small>', (string) $zip->getFromName('ticket.html'));
        $zip->close();
        // The page and the document of the ticket say what the package says.
        $shown = (string) $this->get("/api/deliveries/$id/ticket/html")->assertOk()->assertHeader('Content-Type', 'text/html; charset=utf-8')->getContent();
        self::assertStringContainsString('Who shades whom', $shown);
        $this->getJson("/api/deliveries/$id/ticket/json")->assertOk()->assertJsonPath('delivery', 1)->assertJsonPath('verdict', 'ready')->assertJsonFragment(['role' => 'high']);

        // The zip comes back: it is that delivery, and nothing new.
        $bytes = (string) file_get_contents($path);
        $this->postJson('/api/deliveries', ['uploads' => [$this->upload('winch_delivery_1.zip', $bytes)]])->assertCreated()->assertJsonPath('deliveryId', $id)->assertJsonPath('known', true);
        self::assertSame(1, Delivery::query()->count());
        // With one byte changed it is refused, and says why.
        $broken = $bytes;
        $broken[1000] = chr(ord($broken[1000]) ^ 1);
        self::assertStringContainsString('not as it was sealed', (string) $this->postJson('/api/deliveries', ['uploads' => [$this->upload('winch_delivery_1.zip', $broken)]])->assertUnprocessable()->json('message'));
        // Where its delivery is not known (another studio), its files are handed in, and not what was written from them.
        DB::table('assets')->delete();
        $new = $this->postJson('/api/deliveries', ['uploads' => [$this->upload('winch_delivery_1.zip', $bytes)]])->assertCreated()->assertJsonPath('known', false)->json('deliveryId');
        $this->work();
        $files = Delivery::query()->findOrFail(is_int($new) ? $new : 0)->files->pluck('name')->sort()->values()->all();
        self::assertSame(['winch_high.mtl', 'winch_high.obj', 'winch_low.mtl', 'winch_low.obj'], $files);
    }

    public function test_exploded_and_mended_deliveries_that_were_sealed_are_known_when_they_come_back(): void
    {
        Standard::query()->update(['rules' => '{"name":"harbor rules","rays":{"setsKeptApart":false,"count":8192}}']);
        $lantern = $this->handIn(array_map(file_get_contents(...), self::demoFiles(SignalStation::signalLantern(), $this->folder)));
        $this->work();
        $output = $this->postJson("/api/deliveries/$lantern/outputs", ['kind' => 'exploded'])->assertCreated()->json('id');
        $this->work();
        $files = [];
        $zip = new ZipArchive;
        $zip->open(Store::local((string) Output::query()->findOrFail(is_int($output) ? $output : 0)->path));
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $files[(string) $zip->getNameIndex($i)] = (string) $zip->getFromIndex($i);
        }
        $apart = $this->handIn($files);
        $this->work();
        $this->getJson("/api/deliveries/$apart")->assertJsonPath('verdict', 'ready');
        $this->postJson("/api/deliveries/$apart/packages")->assertCreated();
        $this->work();
        $sealed = Package::query()->where('delivery_id', $apart)->firstOrFail();
        $bytes = (string) file_get_contents(Store::local((string) $sealed->path));
        $this->postJson('/api/deliveries', ['uploads' => [$this->upload('lantern.zip', $bytes)]])->assertJsonPath('deliveryId', $apart)->assertJsonPath('known', true);
        // Elsewhere, where nobody knows what it was, its plan tells: it went along.
        DB::table('assets')->delete();
        $new = $this->postJson('/api/deliveries', ['uploads' => [$this->upload('lantern.zip', $bytes)]])->assertCreated()->assertJsonPath('known', false)->json('deliveryId');
        $this->work();
        $this->getJson('/api/deliveries/'.(is_int($new) ? $new : 0))->assertJsonPath('verdict', 'ready')->assertJsonPath('exploded.moves.*.set', ['shutter_left', 'shutter_right']);

        // Names that were mended here: the files themselves are known, without a package.
        $gauge = $this->handIn(array_map(file_get_contents(...), self::demoFiles(SignalStation::tideGauge(), $this->folder)));
        $this->work();
        $mended = $this->postJson("/api/deliveries/$gauge/mend", ['renames' => [['fileId' => Delivery::query()->findOrFail($gauge)->files->firstWhere('name', 'gauge_high.obj')?->id, 'from' => 'needle_High', 'to' => 'needle_high']]])->assertCreated()->json('deliveryId');
        $this->work();
        $delivery = Delivery::query()->findOrFail(is_int($mended) ? $mended : 0);
        $went = $delivery->files->mapWithKeys(static fn (File $file): array => [$file->name => (string) Store::get($file->path)])->all();
        self::assertSame($delivery->id, $this->handIn($went));
        // A side file of the same size with other bytes makes a new delivery: it may hold geometry.
        $changed = $went;
        $changed['gauge_low.mtl'] = strtr($went['gauge_low.mtl'], '01', '10');
        self::assertSame([true, false], [strlen($changed['gauge_low.mtl']) === strlen($went['gauge_low.mtl']), $changed['gauge_low.mtl'] === $went['gauge_low.mtl']]);
        $next = $this->handIn($changed);
        self::assertNotSame($delivery->id, $next);
        self::assertSame($changed['gauge_low.mtl'], (string) Store::get((string) Delivery::query()->findOrFail($next)->files->firstWhere('name', 'gauge_low.mtl')?->path));
        // The uploads are still there, and make a new delivery on request.
        $uploads = array_map(fn (string $name, string $content): string => $this->upload($name, $content), array_keys($went), array_values($went));
        $this->postJson('/api/deliveries', ['uploads' => $uploads])->assertCreated()->assertJsonPath('deliveryId', $delivery->id)->assertJsonPath('known', true);
        $new = $this->postJson('/api/deliveries', ['uploads' => $uploads, 'asNew' => true])->assertCreated()->assertJsonPath('known', false)->json('deliveryId');
        self::assertNotSame($delivery->id, $new);
        self::assertSame(count($went), Delivery::query()->findOrFail(is_int($new) ? $new : 0)->files->count());
    }

    public function test_a_package_is_out_of_date_once_something_changed(): void
    {
        $files = array_map(file_get_contents(...), self::demoFiles(SignalStation::mooringWinch(), $this->folder));
        $id = $this->handIn($files);
        $this->work();
        $this->postJson("/api/deliveries/$id/packages")->assertCreated();
        $this->work();
        $stale = fn (): mixed => $this->getJson("/api/deliveries/$id")->assertOk()->json('packages.0.stale');
        $onRack = fn (): array => [$this->getJson('/api/rack')->json('assets.0.sealed'), $this->getJson('/api/rack')->json('assets.0.outdated')];
        self::assertSame([null, [true, false]], [$stale(), $onRack()]);
        // Looked at again and nothing else: still the same.
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        self::assertSame('the delivery is being checked again', $stale());
        $this->work();
        self::assertSame([null, [true, false]], [$stale(), $onRack()]);
        $standard = Standard::query()->firstOrFail();
        $this->putJson("/api/standards/$standard->id", ['rules' => '{"name":"harbor rules","rays":{"count":4096},"triangleBudget":9000}', 'version' => 1])->assertOk();
        self::assertSame(['the standard is version 2 now, and the delivery was checked by version 1', [false, true]], [$stale(), $onRack()]);
        self::assertStringContainsString('check the delivery again first', (string) $this->postJson("/api/deliveries/$id/packages")->assertUnprocessable()->json('message'));
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->work();
        self::assertSame(['something was decided anew since: sets, reach, IDs, roles, maps or the standard', [false, true]], [$stale(), $onRack()]);
        $this->postJson("/api/deliveries/$id/packages")->assertCreated();
        $this->work();
        self::assertSame([true, false], $onRack());
        self::assertNull($this->getJson("/api/deliveries/$id")->json('packages.1.stale'));
        $this->handIn($files);
        self::assertSame('delivery 2 came since', $this->getJson("/api/deliveries/$id")->json('packages.1.stale'));
        $this->work();
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
        parent::tearDown();
    }
}
