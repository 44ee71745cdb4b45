<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\Measure;
use App\Models\Delivery;
use App\Models\Measured;
use App\Models\Standard;
use App\Models\Upload;
use App\Models\Worker;
use Demo\SignalStation;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\Group;
use Tests\Support\HandsIn;
use Tests\TestCase;
use ZipArchive;

/**
 * Handing in, checking, mending, writing and sealing over HTTP, with the queue and MariaDB.
 */
final class DeliveryTest extends TestCase
{
    use HandsIn;

    /** What is answered of a delivery, in one or in several answers. */
    private const OF_A_DELIVERY = ['DeliveryData', 'IntakeData', 'PairingData', 'SetsData', 'ColorIdData', 'ClearanceData', 'SurfaceData', 'HandOffData'];

    private const TRIANGLE = "o a_low\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n";

    /** Tests of measuring itself: these take nothing that another one measured. */
    private const MEASURED = ['test_the_board_puts_bases_into_sets_and_the_next_delivery_keeps_them', 'test_a_reach_is_kept_with_the_asset_and_sets_that_did_not_change_are_not_measured_again', 'test_a_cancelled_delivery_stops_and_can_be_checked_again', 'test_the_job_of_a_killed_worker_is_put_back_at_once_and_leaves_no_half_result'];

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: in_array($this->name(), self::MEASURED, true));
        config(['anvil.largest_upload' => 50_000_000]);
    }

    public function test_a_file_comes_in_piece_by_piece_and_goes_on_where_it_broke_off(): void
    {
        $upload = $this->postJson('/api/uploads', ['name' => 'a_low.obj', 'bytes' => strlen(self::TRIANGLE)])->assertCreated()->json('id');
        self::assertIsString($upload);
        $this->piece($upload, 0, substr(self::TRIANGLE, 0, 20))->assertOk()->assertJsonPath('received', 20);
        $this->piece($upload, 0, 'again')->assertStatus(409)->assertJsonPath('received', 20);
        $this->getJson("/api/uploads/$upload")->assertOk()->assertJson(['id' => $upload, 'name' => 'a_low.obj', 'bytes' => strlen(self::TRIANGLE), 'received' => 20]);
        $this->getJson('/api/uploads/11111111-1111-4111-8111-111111111111')->assertNotFound();
        $this->piece($upload, 20, substr(self::TRIANGLE, 20))->assertOk()->assertJsonPath('received', strlen(self::TRIANGLE));
        self::assertSame(self::TRIANGLE, Storage::get("uploads/$upload"));
        $this->piece($upload, strlen(self::TRIANGLE), 'too much')->assertStatus(422);
    }

    public function test_what_cannot_be_taken_is_refused_in_words_and_leaves_nothing(): void
    {
        foreach ([
            ['a.fbx', 10, '.fbx is a format that is not read here; export the same meshes as .glb'],
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
        $this->postJson('/api/deliveries', ['uploads' => [$side]])->assertStatus(422)->assertJsonFragment(['message' => 'there is no mesh file among these; hand in .glb, .gltf, .obj, .dae, .usda, .ply or .stl, or a .zip of these']);
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
        $page = $this->whole((int) $made['deliveryId'])->assertOk();
        $this->assertFitsAll((string) $page->getContent());
        $page->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'blocked')->assertJsonPath('blockers', 6);
        self::assertSame(['pair-no-high', 'suffix-case', 'name-case', 'id-close'], self::faults($page));
        self::assertSame('clear', collect((array) $page->json('stations'))->firstWhere('key', 'proof')['state']);
        $this->assertFitsSchema('RackData', (string) $this->getJson('/api/rack')->assertOk()->getContent());
        $this->assertFitsSchema('AssetData', (string) $this->getJson("/api/assets/{$made['assetId']}")->assertOk()->getContent());
        $mesh = (string) $this->get("/api/deliveries/{$made['deliveryId']}/files/{$this->fileOf($made['deliveryId'], 'low')}/mesh")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
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
        $after = $this->whole((int) $mended['deliveryId']);
        $after->assertJsonPath('derivedFrom', 1)->assertJsonPath('madeByWords', '2 names mended from delivery 1');
        self::assertSame(['pair-no-high', 'id-close'], self::faults($after));
        $original = Delivery::query()->findOrFail($made['deliveryId']);
        foreach ($original->files as $file) {
            self::assertSame(file_get_contents($files[$file->name]), Storage::get($file->path), 'originals are never changed');
        }
        $this->postJson("/api/deliveries/{$mended['deliveryId']}/packages")->assertStatus(422);

        // By choice the bracket is baked on itself.
        $this->postJson("/api/deliveries/{$mended['deliveryId']}/choices", ['base' => 'bracket', 'choice' => 'self'])->assertNoContent();
        $this->work();
        self::assertSame(['id-close'], self::faults($this->whole((int) $mended['deliveryId'])));
        self::assertContains('pair-self', array_column((array) $this->whole((int) $mended['deliveryId'])->json('findings'), 'code'));

        $output = $this->postJson("/api/deliveries/{$mended['deliveryId']}/outputs", ['kind' => 'ids'])->assertCreated()->json('id');
        $this->work();
        $zip = new ZipArchive;
        $zip->open($this->get('/api/outputs/'.(is_int($output) ? $output : 0))->assertOk()->baseResponse->getFile()->getPathname()); // @phpstan-ignore-line
        self::assertNotFalse($zip->locateName('gauge_id.obj'));
        $legend = json_decode((string) $zip->getFromName('legend.json'), true);
        self::assertGreaterThan(20, $legend['leastDeltaE00'] ?? 0);
        \Anvil\Formats\Folder::remove($folder);
    }

    #[Group('one-delivery')]
    public function test_a_ready_asset_is_sealed_and_a_second_hand_in_of_the_name_is_its_next_delivery(): void
    {
        $id = $this->handInWinch();
        $this->work();
        self::assertSame([], self::faults($this->whole((int) $id)->assertJsonPath('verdict', 'ready')));
        $package = $this->postJson("/api/deliveries/$id/packages")->assertCreated()->json('id');
        $this->work();
        $page = $this->whole((int) $id);
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
        $codes = array_column((array) $this->whole((int) $id)->json('findings'), 'code');
        self::assertContains('role-mixed', $codes);
        $this->postJson("/api/deliveries/$id/files/{$file?->id}/role", ['role' => null])->assertNoContent();
        $this->work();
        $this->whole((int) $id)->assertJsonPath('verdict', 'ready');
    }

    public function test_what_a_role_would_do_is_said_before_it_is_given(): void
    {
        $id = $this->handInWinch();
        $this->work();
        $file = Delivery::query()->findOrFail($id)->files->firstWhere('name', 'winch_high.obj');
        $preview = $this->getJson("/api/deliveries/$id/files/{$file?->id}/role?role=low")->assertOk();
        $this->assertFitsSchema('RolePreviewData', (string) $preview->getContent());
        self::assertGreaterThan(0, $preview->json('pairedBefore'));
        self::assertSame([0, true], [$preview->json('pairedAfter'), $preview->json('mixed') > 0]);
        $this->getJson("/api/deliveries/$id/files/{$file?->id}/role?role=")->assertJsonPath('pairedAfter', $preview->json('pairedBefore'));
        $this->getJson("/api/deliveries/$id/files/{$file?->id}/role?role=king")->assertStatus(422);
    }

    public function test_a_high_poly_in_another_unit_and_turned_is_mended_as_a_delivery_of_its_own(): void
    {
        $id = $this->handInParts(['davit_low.obj' => self::davit('_low', '%1$s %2$s %3$s', 1), 'davit_high.obj' => self::davit('_high', '%1$s -%3$s %2$s', 100)]);
        $page = $this->whole((int) $id)->assertJsonPath('place.factor', 0.01)->assertJsonPath('place.stuck', null);
        self::assertStringContainsString('scaled by 1/100 and turned', (string) $page->json('place.words'));
        self::assertContains('unit-mismatch', array_column((array) $page->json('findings'), 'code'));
        Delivery::query()->whereKey($id)->update(['state' => 'cancelled']);
        $this->postJson("/api/deliveries/$id/place")->assertStatus(422)->assertJsonFragment(['message' => 'the delivery is not checked to its end; wait for it, or check it again']);
        Delivery::query()->whereKey($id)->update(['state' => 'done']);
        $made = $this->postJson("/api/deliveries/$id/place")->assertCreated()->json();
        self::assertIsArray($made);
        $this->work();
        $after = $this->whole((int) $made['deliveryId'])->assertJsonPath('place', null)->assertJsonPath('derivedFrom', 1);
        self::assertSame([], array_intersect(['unit-mismatch', 'axis-mismatch', 'off-alignment'], array_column((array) $after->json('findings'), 'code')));
        self::assertStringContainsString('scaled by 1/100', (string) $after->json('madeByWords'));
        $this->postJson("/api/deliveries/{$made['deliveryId']}/place")->assertStatus(422);
    }

    public function test_suffixes_found_in_the_files_are_proposed_and_taken_for_this_asset_alone(): void
    {
        $other = $this->handInWinch();
        $id = $this->handInParts(['bell.obj' => self::davit('_lo', '%1$s %2$s %3$s', 1).self::davit('_hi', '%1$s %2$s %3$s', 1, 15)]);
        $this->whole((int) $id)->assertJsonPath('suffixGuess', null);
        // Copies with as many triangles are no low and high; with more they are.
        $id = $this->handInParts(['bell.obj' => self::davit('_lo', '%1$s %2$s %3$s', 1).self::davit('_hi', '%1$s %2$s %3$s', 1, 15, true)]);
        $this->whole((int) $id)->assertJsonPath('suffixGuess.low', '_lo')->assertJsonPath('suffixGuess.high', '_hi')->assertJsonPath('suffixGuess.pairs', 3);
        $this->postJson("/api/deliveries/$id/suffixes")->assertNoContent();
        $this->work();
        $page = $this->whole((int) $id)->assertJsonPath('standard.lowSuffix', '_lo')->assertJsonPath('suffixGuess', null);
        self::assertCount(3, (array) $page->json('ties'));
        $this->whole((int) $other)->assertJsonPath('standard.lowSuffix', '_low');
        $this->postJson("/api/deliveries/$id/suffixes")->assertStatus(422);
    }

    public function test_rename_tools_work_on_top_of_the_plan(): void
    {
        $id = $this->handInParts(['davit_low.obj' => self::davit('_low', '%1$s %2$s %3$s', 1), 'davit_high.obj' => self::davit('', '%1$s %2$s %3$s', 1)]);
        $plan = fn (array $body) => $this->postJson("/api/deliveries/$id/renames", $body)->assertOk();
        $first = $plan(['renames' => [], 'tool' => ['kind' => 'add-suffix', 'role' => 'high']]);
        $this->assertFitsSchema('RenamePlanData', (string) $first->getContent());
        self::assertSame(['post' => 'post_high', 'arm' => 'arm_high', 'foot' => 'foot_high'], array_column((array) $first->json('plan'), 'to', 'from'));
        self::assertSame([0, 3, 3], [$first->json('pairedBefore'), $first->json('pairedAfter'), $first->json('basesAfter')]);
        // The second tool sees the names that the first one gave, and the rows still begin at the names in the files.
        $second = $plan(['renames' => $first->json('plan'), 'tool' => ['kind' => 'replace', 'find' => 'st_high', 'replace' => 'le_high']]);
        self::assertSame(['post' => 'pole_high', 'arm' => 'arm_high', 'foot' => 'foot_high'], array_column((array) $second->json('plan'), 'to', 'from'));
        self::assertSame(2, $second->json('pairedAfter'));
        self::assertNotSame([], $plan(['renames' => [], 'tool' => ['kind' => 'number', 'pattern' => 'same']])->json('clashes'));
        self::assertNotSame([], $plan(['renames' => [], 'tool' => ['kind' => 'replace', 'find' => 'post', 'replace' => 'mast pole']])->json('unsafe'));
        $this->postJson("/api/deliveries/$id/renames", ['renames' => [], 'tool' => ['kind' => 'magic']])->assertStatus(422);
    }

    public function test_a_zip_is_taken_apart_and_a_broken_one_is_a_finding(): void
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'anvil-zip');
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::OVERWRITE);
        $zip->addFromString('out/davit_low.obj', "mtllib davit.mtl\nusemtl steel\n".self::davit('_low', '%1$s %2$s %3$s', 1));
        $zip->addFromString('out/davit.mtl', "newmtl steel\nKd 1 0 0\n");
        $zip->addFromString('out/davit_high.ply', "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n");
        $zip->close();
        $id = $this->handInParts(['davit.zip' => (string) file_get_contents($path)]);
        $page = $this->whole((int) $id);
        self::assertSame(['out/davit_high.ply', 'out/davit_low.obj', 'out/davit.mtl'], array_column((array) $page->json('files'), 'name'));
        self::assertSame('#FF0000', Delivery::query()->findOrFail($id)->parts->firstWhere('name', 'post_low')->colors['steel'] ?? null);
        // Mended, the files keep their folders and their side files.
        $file = collect((array) $page->json('files'))->firstWhere('name', 'out/davit_low.obj');
        $made = $this->postJson("/api/deliveries/$id/mend", ['renames' => [['fileId' => $file['id'], 'from' => 'post_low', 'to' => 'pole_low']]])->assertCreated()->json('deliveryId');
        $this->getJson('/api/deliveries/'.(is_int($made) ? $made : 0))->assertJsonPath('state', 'writing')->assertJsonPath('progress.doing', 'writing the mended files')->assertJsonPath('files', []);
        $this->work();
        self::assertSame(['out/davit_high.ply', 'out/davit_low.obj', 'out/davit.mtl'], Delivery::query()->findOrFail(is_int($made) ? $made : 0)->files->pluck('name')->all());
        unlink($path);
        $id = $this->handInParts(['torn.zip' => "PK\x03\x04 and no more"]);
        self::assertStringContainsString('zip archive', (string) $this->whole((int) $id)->json('findings.0.message'));
        $this->getJson('/api/formats')->assertOk()->assertJsonPath('formats.0.ending', 'glb');
    }

    public function test_the_board_puts_bases_into_sets_and_the_next_delivery_keeps_them(): void
    {
        $files = ['davit_low.obj' => self::davit('_low', '%1$s %2$s %3$s', 1), 'davit_high.obj' => self::davit('_high', '%1$s %2$s %3$s', 1)];
        $id = $this->handInParts($files);
        $this->whole((int) $id)->assertJsonPath('sets.*.name', ['arm', 'foot', 'post'])->assertJsonPath('board.sets', []);
        $this->postJson("/api/deliveries/$id/board", ['sets' => [['name' => 'frame', 'patterns' => ['arm', 'post']]], 'leftOut' => [], 'bakedOnItself' => [], 'detachable' => ['foot'], 'occlusion' => 'named', 'shading' => [['name' => 'foot', 'patterns' => ['post']]]])->assertNoContent();
        $this->work();
        $page = $this->whole((int) $id)->assertJsonPath('sets.*.name', ['foot', 'frame'])->assertJsonPath('board.detachable', ['foot']);
        $this->assertFitsAll((string) $page->getContent());
        self::assertSame(['arm', 'post'], $page->json('sets.1.bases'));
        $page->assertJsonPath('board.occlusion', 'named')->assertJsonPath('board.shading.0.patterns', ['post']);
        // The post stands on the foot: of the directions over its six faces, some end in the frame.
        self::assertSame('frame', $page->json('sets.0.shades.0.other'));
        self::assertGreaterThan(0.05, $page->json('sets.0.shades.0.share'));
        self::assertLessThan(0.5, $page->json('sets.0.shades.0.share'));
        // Carried to the next delivery by name.
        $next = $this->handInParts($files);
        $this->whole((int) $next)->assertJsonPath('number', 2)->assertJsonPath('sets.*.name', ['foot', 'frame']);
        $this->postJson("/api/deliveries/$next/board", ['sets' => [['name' => '', 'patterns' => []]], 'leftOut' => [], 'bakedOnItself' => [], 'detachable' => [], 'occlusion' => 'own', 'shading' => []])->assertStatus(422);
        // Who shades whom is said by name, and by nobody yet.
        $this->postJson("/api/deliveries/$next/board", ['sets' => [['name' => 'frame', 'patterns' => ['arm', 'post']]], 'leftOut' => [], 'bakedOnItself' => [], 'detachable' => [], 'occlusion' => 'named', 'shading' => []])->assertNoContent();
        $this->work();
        $this->whole((int) $next)->assertJsonPath('state', 'done')->assertJsonPath('board.occlusion', 'named')->assertJsonPath('board.shading', []);
        // A set that lacks a side is told as a set.
        $this->postJson("/api/deliveries/$next/board", ['sets' => [['name' => 'ghost', 'patterns' => ['nothing']]], 'leftOut' => [], 'bakedOnItself' => [], 'detachable' => [], 'occlusion' => 'own', 'shading' => []])->assertNoContent();
        $this->work();
        self::assertContains('set-incomplete', self::faults($this->whole((int) $next)));
    }

    public function test_a_reach_is_kept_with_the_asset_and_sets_that_did_not_change_are_not_measured_again(): void
    {
        $part = static function (string $name, float $at, float $size, int &$base): string {
            $out = "o $name\n";
            for ($i = 0; $i < 8; $i++) {
                $out .= sprintf("v %s %s %s\n", $at + $size * ($i & 1), $size * ($i >> 1 & 1), $size * ($i >> 2));
            }
            foreach ([[1, 3, 4, 2], [5, 6, 8, 7], [1, 2, 6, 5], [3, 7, 8, 4], [1, 5, 7, 3], [2, 4, 8, 6]] as $face) {
                $out .= 'f '.implode(' ', array_map(static fn (int $v): string => (string) ($base + $v), $face))."\n";
            }
            $base += 8;

            return $out;
        };
        $files = static function (float $bell) use ($part): array {
            $low = $high = '';
            $atLow = $atHigh = 0;
            foreach (['bell' => [0, $bell], 'horn' => [10, 1.01], 'lamp' => [20, 1.01]] as $name => [$at, $size]) {
                $low .= $part("{$name}_low", $at, 1, $atLow);
                $high .= $part("{$name}_high", $at, $size, $atHigh);
            }

            return ['signal_low.obj' => $low, 'signal_high.obj' => $high];
        };
        $id = $this->handInParts($files(1.02));
        $before = $this->whole((int) $id)->assertJsonPath('sets.*.name', ['bell', 'horn', 'lamp'])->assertJsonPath('sets.*.reused', [false, false, false]);
        $recommended = $before->json('sets.0.inUse');
        // A reach below the 0.02 to 0.035 that the far faces need is kept, and its misses are told.
        $this->postJson("/api/deliveries/$id/reach", ['set' => 'bell', 'out' => 0.01, 'in' => null])->assertNoContent();
        $this->work();
        $kept = $this->whole((int) $id)->assertJsonPath('sets.0.byHand', true)->assertJsonPath('sets.0.inUse.out', 0.01)->assertJsonPath('sets.*.reused', [false, true, true]);
        self::assertSame($recommended['in'] ?? null, $kept->json('sets.0.inUse.in'));
        self::assertContains('ray-miss', self::faults($kept));
        // Its rays, two points each: what is missed or lies beyond the reach.
        $rays = $this->getJson("/api/deliveries/$id/rays?set=bell")->assertOk();
        self::assertNotSame([], $rays->json('miss'));
        self::assertNotSame([], $rays->json('short'));
        self::assertSame(0, count((array) $rays->json('short')) % 6);
        $this->getJson("/api/deliveries/$id/rays?set=ghost")->assertNotFound();
        // The next delivery has it too; only the bell is another now.
        $next = $this->handInParts($files(1.03));
        $page = $this->whole((int) $next)->assertJsonPath('number', 2)->assertJsonPath('sets.*.byHand', [true, false, false])->assertJsonPath('sets.*.reused', [false, true, true]);
        // Three faces 0.03 further out meet at the far corner, whose ray runs along the diagonal.
        self::assertEqualsWithDelta(0.03 * sqrt(3), $page->json('sets.0.needed.out'), 1e-4);
        self::assertSame($before->json('sets.1.needed'), $page->json('sets.1.needed'));
        // Taken back, the recommended one is in use again.
        $this->postJson("/api/deliveries/$next/reach", ['set' => 'bell', 'out' => null, 'in' => null])->assertNoContent();
        $this->work();
        $page = $this->whole((int) $next)->assertJsonPath('sets.0.byHand', false);
        self::assertNotContains('ray-miss', self::faults($page));
        $this->postJson("/api/deliveries/$next/reach", ['set' => 'ghost', 'out' => 1, 'in' => null])->assertStatus(422);
        $this->postJson("/api/deliveries/$next/reach", ['set' => 'bell', 'out' => -1, 'in' => null])->assertStatus(422);
    }

    public function test_the_gap_of_the_exploded_layout_is_kept_with_the_asset(): void
    {
        $id = $this->handInParts(['davit_low.obj' => self::davit('_low', '%1$s %2$s %3$s', 1), 'davit_high.obj' => self::davit('_high', '%1$s %2$s %3$s', 1)]);
        // Kept apart by the standard, nothing has to move.
        $this->whole((int) $id)->assertJsonPath('explode.byHand', false)->assertJsonPath('explode.moves', []);
        $this->postJson("/api/deliveries/$id/explode", ['clearance' => 0.5, 'all' => true])->assertNoContent();
        $this->work();
        $page = $this->whole((int) $id)->assertJsonPath('explode.byHand', true)->assertJsonPath('explode.all', true)->assertJsonPath('explode.clearance', 0.5)->assertJsonPath('sets.*.reused', [true, true, true]);
        $this->assertFitsAll((string) $page->getContent());
        // Boxes of arm, foot and post, as davit() makes them; moved, each is half a unit from every other.
        $boxes = ['arm' => [[0.5, 2.5, -0.5], [4.5, 3.5, 0.5]], 'foot' => [[-1, -0.5, -1], [1, 0, 2]], 'post' => [[-0.5, 0, -0.5], [0.5, 6, 0.5]]];
        foreach ((array) $page->json('explode.moves') as $move) {
            self::assertIsArray($move);
            foreach ([0, 1] as $end) {
                foreach ([0, 1, 2] as $axis) {
                    $boxes[$move['set']][$end][$axis] += $move['vector'][$axis];
                }
            }
        }
        $gap = static fn (array $a, array $b): float => sqrt(array_sum(array_map(static fn (int $axis): float => max(0.0, $b[0][$axis] - $a[1][$axis], $a[0][$axis] - $b[1][$axis]) ** 2, [0, 1, 2])));
        foreach ([['arm', 'foot'], ['arm', 'post'], ['foot', 'post']] as [$a, $b]) {
            self::assertGreaterThan(0.4999, $gap($boxes[$a], $boxes[$b]));
        }
        $this->postJson("/api/deliveries/$id/explode", ['clearance' => -1, 'all' => true])->assertStatus(422);
        // As usual again.
        $this->postJson("/api/deliveries/$id/explode", ['clearance' => null, 'all' => false])->assertNoContent();
        $this->work();
        $this->whole((int) $id)->assertJsonPath('explode.byHand', false)->assertJsonPath('explode.moves', []);
    }

    public function test_cages_are_fitted_and_handed_out(): void
    {
        $id = $this->handInWinch();
        $this->work();
        $output = $this->postJson("/api/deliveries/$id/outputs", ['kind' => 'cage'])->assertCreated()->json('id');
        $this->work();
        $zip = new ZipArchive;
        $zip->open($this->get('/api/outputs/'.(is_int($output) ? $output : 0))->assertOk()->baseResponse->getFile()->getPathname()); // @phpstan-ignore-line
        self::assertStringContainsString("\no drum_cage\n", (string) $zip->getFromName('winch_cage.obj'));
        // The page says what each did, and the stand gets it beside the one of a single distance; none was handed in.
        $page = $this->whole((int) $id);
        self::assertSame($page->json('sets.*.name'), $page->json('outputs.0.cages.*.set'));
        self::assertTrue($page->json('outputs.0.cages.0.clean'));
        $low = "files/{$this->fileOf($id, 'low')}/mesh";
        $parts = fn (string $which): array => (array) json_decode(substr($bytes = (string) file_get_contents($this->get("/api/deliveries/$id/$which")->assertOk()->baseResponse->getFile()->getPathname()), 4, (unpack('V', $bytes) ?: [1 => 0])[1]), true)['parts']; // @phpstan-ignore-line
        self::assertEqualsCanonicalizing(array_column($parts($low), 'name'), array_column($parts('mesh/fitted'), 'name'));
        self::assertEqualsCanonicalizing(array_column($parts($low), 'vertices'), array_column($parts('mesh/single'), 'vertices'));
        $this->get("/api/deliveries/$id/mesh/other")->assertNotFound();
        // Checked again, it is of another time.
        $this->travel(5)->seconds();
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->work();
        self::assertSame([], $this->whole((int) $id)->json('outputs'));
        $this->get("/api/deliveries/$id/mesh/fitted")->assertNotFound();
    }

    public function test_an_exploded_layout_is_recognised_checked_and_put_back(): void
    {
        $folder = sys_get_temp_dir().'/anvil-feature-'.bin2hex(random_bytes(4));
        $ids = [];
        foreach (self::demoFiles(SignalStation::signalLantern(), $folder) as $name => $path) {
            $ids[] = $this->upload($name, (string) file_get_contents($path));
        }
        \Anvil\Formats\Folder::remove($folder);
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');
        // The lantern is baked all together.
        $standard = Standard::query()->create(['name' => 'lantern', 'rules' => '{"name":"lantern","rays":{"setsKeptApart":false,"count":8192}}', 'changed_by' => 'test']);
        Delivery::query()->findOrFail(is_int($id) ? $id : 0)->asset->update(['standard_id' => $standard->id]);
        $this->work();
        self::assertSame(['sets-bleed', 'sets-bleed'], self::faults($this->whole((int) $id)->assertJsonPath('exploded', null)));
        $output = $this->postJson("/api/deliveries/$id/outputs", ['kind' => 'exploded'])->assertCreated()->json('id');
        $this->work();
        $zip = new ZipArchive;
        $zip->open($this->get('/api/outputs/'.(is_int($output) ? $output : 0))->assertOk()->baseResponse->getFile()->getPathname()); // @phpstan-ignore-line
        $files = [];
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $files[(string) $zip->getNameIndex($i)] = (string) $zip->getFromIndex($i);
        }
        self::assertArrayHasKey('explode.json', $files);
        // By its plan.
        $apart = $this->handInParts($files);
        $page = $this->whole((int) $apart)->assertJsonPath('verdict', 'ready')->assertJsonPath('exploded.of', null)->assertJsonPath('exploded.moves.*.set', ['shutter_left', 'shutter_right']);
        self::assertContains('explode-clash', array_column(array_filter((array) $page->json('checks'), static fn (mixed $check): bool => is_array($check) && $check['state'] === 'passed'), 'code'));
        // Without it, by the delivery that it was made of, and not by the one that is exploded itself.
        unset($files['explode.json']);
        $apart = $this->handInParts($files);
        $page = $this->whole((int) $apart)->assertJsonPath('number', 3)->assertJsonPath('exploded.of', 1)->assertJsonPath('exploded.moves.*.set', ['shutter_left', 'shutter_right']);
        $this->assertFitsAll((string) $page->getContent());
        self::assertContains('explode-drift', array_column(array_filter((array) $page->json('checks'), static fn (mixed $check): bool => is_array($check) && $check['state'] === 'passed'), 'code'));
        // Back where it was, it has the old trouble again, in the same numbers.
        $back = $this->postJson("/api/deliveries/$apart/assemble")->assertCreated()->json('deliveryId');
        $this->work();
        $page = $this->getJson('/api/deliveries/'.(is_int($back) ? $back : 0))->assertJsonPath('exploded', null)->assertJsonPath('madeByWords', 'put back together from delivery 3');
        self::assertSame(['sets-bleed', 'sets-bleed'], self::faults($page));
        $this->postJson("/api/deliveries/$id/assemble")->assertStatus(422);
        // A plan that is none is told as a file that cannot be read.
        $broken = $this->handInParts([...$files, 'explode.json' => '{"sets":[{"set":"pane","vector":[1]}]}']);
        $found = collect((array) $this->whole((int) $broken)->json('findings'))->firstWhere('code', 'file-unreadable');
        self::assertStringContainsString('explode.json', $found['message']);
        self::assertStringContainsString('three numbers', $found['message']);
    }

    public function test_a_cancelled_delivery_stops_and_can_be_checked_again(): void
    {
        $id = $this->handInWinch();
        $this->postJson("/api/deliveries/$id/cancel")->assertNoContent();
        $this->work();
        $this->whole((int) $id)->assertJsonPath('state', 'cancelled')->assertJsonPath('findings', []);
        // Nothing of it had been read: checking again reads it first.
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->work();
        $page = $this->whole((int) $id);
        $page->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'ready');
        self::assertCount(16, (array) $page->json('parts'));
    }

    public function test_the_job_of_a_killed_worker_is_put_back_at_once_and_leaves_no_half_result(): void
    {
        DB::table('measures')->delete();
        $id = $this->handInWinch();
        $job = DB::table('jobs')->orderBy('id')->value('id');
        DB::table('jobs')->where('id', $job)->update(['reserved_at' => time(), 'attempts' => 1]);
        // A worker that is no more held it.
        Worker::query()->create(['machine' => getenv('ANVIL_MACHINE'), 'pid' => 4_000_000, 'born' => 'once', 'job_id' => $job]);
        Artisan::call('anvil-workers:release');
        self::assertNull(DB::table('jobs')->where('id', $job)->value('reserved_at'));
        self::assertSame(0, Worker::query()->count());
        $this->work();
        $first = (string) $this->whole((int) $id)->assertJsonPath('verdict', 'ready')->getContent();
        // Run again, a set's job changes nothing.
        $delivery = Delivery::query()->findOrFail($id);
        $set = $delivery->sets->firstOrFail();
        $kept = Measured::query()->findOrFail($set->key)->stored;
        $task = $delivery->tasks->where('measure', 'rays')->where('subject', $set->name)->firstOrFail();
        $task->update(['state' => 'waiting', 'key' => null]);
        Measured::query()->whereKey($set->key)->delete();
        $set->update(['state' => 'measuring', 'key' => null]);
        // Of a delivery that is done, nothing is measured any more; of one that is not, the same comes out.
        (new Measure($id, $delivery->run, $task->bundle))->handle();
        self::assertNull($set->refresh()->key);
        $delivery->update(['state' => 'measuring', 'step' => 'measure', 'run' => $delivery->run + 1]);
        (new Measure($id, $delivery->run - 1, $task->bundle))->handle();
        self::assertNull($set->refresh()->key, 'a job of an earlier run does nothing');
        (new Measure($id, $delivery->run, $task->bundle))->handle();
        self::assertSame($kept, Measured::query()->findOrFail($set->refresh()->key)->stored);
        self::assertSame([$set->key, false], [$task->refresh()->key, $task->reused]);
        $this->work();
        // The same page, but for when it was checked.
        $same = static fn (string $page): string => (string) preg_replace('/"checkedAt":"[^"]*"|"mark":"\w+"|"id":\d+/', '', $page);
        self::assertTrue($same($first) === $same((string) $this->whole((int) $id)->getContent()), 'the page is another');
    }

    /** The answers that the tests of the screens show are such as the server gives today. */
    public function test_what_the_screens_are_tested_with_fits_the_schema(): void
    {
        foreach (['winch', 'lantern', 'gauge'] as $file) {
            $this->assertFitsAll((string) file_get_contents(resource_path("js/testing/$file.json")));
        }
        foreach (['rack' => 'RackData', 'asset' => 'AssetData'] as $file => $schema) {
            $this->assertFitsSchema($schema, (string) file_get_contents(resource_path("js/testing/$file.json")));
        }
    }

    public function test_the_page_and_unknown_things(): void
    {
        $this->get('/')->assertOk()->assertSee('Yellow Anvil');
        $this->get('/assets/1/deliveries/1/pairing')->assertOk();
        $this->getJson('/api/deliveries/999')->assertNotFound();
        $this->getJson('/api/nothing')->assertNotFound();
    }

    private function fileOf(mixed $delivery, string $role): int
    {
        return (int) \App\Models\File::query()->where('delivery_id', $delivery)->where('kind', 'mesh')->where('name', 'like', "%$role%")->firstOrFail()->id;
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

    /**
     * @param  array<string, string>  $files
     */
    private function handInParts(array $files): int
    {
        $ids = [];
        foreach ($files as $name => $content) {
            $ids[] = $this->upload($name, $content);
        }
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');
        $this->work();

        return is_int($id) ? $id : 0;
    }

    /** Three boxes of a davit as OBJ, each with its eight corners; with a vertex more on one face where they are to differ in triangles. */
    private static function davit(string $suffix, string $axes, float $scale, int $first = 0, bool $denser = false): string
    {
        $out = '';
        $base = $first === 0 ? 0 : 24;
        foreach (['post' => [0, 3, 0, 1, 6, 1], 'arm' => [2.5, 5.5, 0, 4, 1, 1], 'foot' => [0, -0.25, 0.5, 2, 0.5, 3]] as $name => [$x, $y, $z, $w, $h, $d]) {
            $out .= "o $name$suffix\n";
            for ($i = 0; $i < 8; $i++) {
                $at = [$x + $w * (($i & 1) - 0.5), $y + $h * (($i >> 1 & 1) - 0.5), $z + $d * (($i >> 2) - 0.5)];
                // A minus sign before a number that is negative already would not be a number.
                $line = sprintf("v $axes\n", ...array_map(static fn (float $v): string => (string) ($scale * $v), $at));
                $out .= str_replace('--', '', $line);
            }
            foreach ([[1, 3, 4, 2], [5, 6, 8, 7], [1, 2, 6, 5], [3, 7, 8, 4], [1, 5, 7, 3], [2, 4, 8, 6]] as $face) {
                $out .= 'f '.implode(' ', array_map(static fn (int $v): string => (string) ($base + $v), $face))."\n";
            }
            if ($denser) {
                $out .= sprintf("v $axes\nf %4\$d %5\$d -1\n", $x, $y, $z, $base + 1, $base + 2);
            }
            $base += $denser ? 9 : 8;
        }

        return $out;
    }

    /**
     * Codes of what blocks or warns; that parts stand in each other on purpose is a note.
     *
     * @param  \Illuminate\Testing\TestResponse<\Symfony\Component\HttpFoundation\Response>  $page
     * @return list<string>
     */
    private static function faults(\Illuminate\Testing\TestResponse $page): array
    {
        return array_values(array_map(static fn (array $finding): string => (string) $finding['code'], array_filter((array) $page->json('findings'), static fn (mixed $finding): bool => is_array($finding) && $finding['severity'] !== 'note' && $finding['station'] !== 'surface')));
    }

    /** Works the queue until it is empty. */
    /** What is answered of a delivery and its stations, all in one: each key is one of theirs, and fits. */
    private function assertFitsAll(string $json): void
    {
        $schemas = (array) json_decode((string) file_get_contents(base_path('docs/openapi.json')), true, 64, JSON_THROW_ON_ERROR)['components']['schemas'];
        $all = (array) json_decode($json);
        $keys = [];
        foreach (self::OF_A_DELIVERY as $name) {
            $keys += (array) $schemas[$name]['properties'];
            $this->assertFitsSchema($name, (string) json_encode((object) array_intersect_key($all, (array) $schemas[$name]['properties']), JSON_PRESERVE_ZERO_FRACTION));
        }
        self::assertSame([], array_keys(array_diff_key($all, $keys)));
    }

    private function assertFitsSchema(string $name, string $json): void
    {
        $root = json_decode((string) file_get_contents(base_path('docs/openapi.json')));
        self::assertInstanceOf(\stdClass::class, $root);
        foreach ((array) $root->components->schemas as $one) {
            if (! isset($one->properties)) {
                continue;
            }
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
