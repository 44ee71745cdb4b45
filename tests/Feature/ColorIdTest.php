<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use App\Deliveries\Cleaning;
use App\Deliveries\Store;
use App\Models\Asset;
use App\Models\Delivery;
use Illuminate\Support\Facades\Storage;
use Tests\Support\HandsIn;
use Tests\TestCase;
use ZipArchive;

/**
 * IDs given through the API: cut, decided on, kept, written, handed in and found good; the same in the next delivery.
 */
final class ColorIdTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    public function test_regions_are_given_one_id_spread_written_and_pass_as_a_delivery(): void
    {
        $id = $this->handIn($this->posts(['post' => 0.0, 'beam' => 3.0]));
        $this->work();
        $this->whole($id)->assertJsonPath('sheet', null)->assertJsonPath('ids.source', 'none')->assertJsonPath('ids.canGive', true)->assertJsonPath('verdict', 'ready');
        $cut = $this->postJson("/api/deliveries/$id/id-cut", ['by' => 'region', 'angle' => 60])->assertCreated()->json('id');
        $this->getJson("/api/deliveries/$id/color-id")->assertJsonPath('sheet.state', 'waiting')->assertJsonPath('sheet.by', 'region');
        $this->work();
        $sheet = (array) $this->getJson("/api/deliveries/$id/color-id")->assertJsonPath('sheet.state', 'done')->json('sheet');
        self::assertSame(['region', 60, 6 + 3, 6 + 3], [$sheet['by'], $sheet['angle'], count((array) $sheet['ids']), count((array) $sheet['pieces'])]);
        self::assertGreaterThan((float) $sheet['leastBefore'] - 1e-9, $sheet['leastTouching']);
        self::assertSame(['beam 2', 'beam 3'], [$sheet['ids'][1]['name'], $sheet['ids'][2]['name']]);
        self::assertContains('beam 3', $sheet['ids'][0]['touches']);
        // The pieces for the screen: one mesh each, under its number.
        $mesh = $this->get("/api/deliveries/$id/pieces/$cut")->assertOk()->baseResponse->getFile()->getContent(); // @phpstan-ignore-line
        $head = json_decode(substr($mesh, 4, unpack('V', $mesh)[1] ?? 0), true);
        self::assertEqualsCanonicalizing(range(0, 8), array_column($head['parts'] ?? [], 'piece'));

        // Cut anew, the old pieces are gone; a clean-up leaves the new ones.
        $newer = $this->postJson("/api/deliveries/$id/id-cut", ['by' => 'region', 'angle' => 60])->json('id');
        $this->work();
        $this->get("/api/deliveries/$id/pieces/$cut")->assertNotFound();
        touch(Storage::path(Delivery::query()->findOrFail($id)->folder()."/display/cut-$newer.bin"), time() - 40 * 86400);
        Cleaning::run();
        $this->get("/api/deliveries/$id/pieces/$newer")->assertOk();
        $cut = $newer;

        // All sides of the beam under one ID, the post's top fixed.
        $ids = [['name' => 'beam', 'hex' => null, 'pinned' => false, 'pieces' => array_values(array_filter(array_column((array) $sheet['pieces'], 'key'), static fn (string $key): bool => str_starts_with($key, 'beam')))]];
        foreach (array_slice((array) $sheet['ids'], 6) as $n => $one) {
            $ids[] = ['name' => $n === 0 ? 'top' : $one['name'], 'hex' => $n === 0 ? '#12AB34' : $one['hex'], 'pinned' => $n === 0, 'pieces' => $one['pieces']];
        }
        $kept = $this->postJson("/api/deliveries/$id/id-sheet", ['cut' => $cut, 'act' => 'spread', 'allEyes' => false, 'pins' => ['post*' => '#0000FF'], 'ids' => $ids])->assertOk();
        $kept->assertJsonCount(4, 'ids')->assertJsonPath('ids.0.name', 'beam')->assertJsonPath('ids.1.hex', '#12AB34')->assertJsonPath('ids.2.hex', '#0000FF')->assertJsonPath('version', 3);
        self::assertSame($kept->json('ids'), $this->getJson("/api/deliveries/$id/color-id")->json('sheet.ids'), 'kept at once');

        $made = (array) $this->postJson("/api/deliveries/$id/id-files", ['kind' => 'ids', 'onto' => 'copy', 'as' => 'materials'])->assertCreated()->json();
        $this->work();
        $next = $this->whole((int) $made['deliveryId']);
        $next->assertJsonPath('verdict', 'ready')->assertJsonPath('ids.source', 'id file')->assertJsonPath('ids.missing', [])->assertJsonPath('derivedFrom', 1)->assertJsonPath('madeByWords', 'color IDs written from delivery 1');
        self::assertEqualsCanonicalizing(['#12AB34', '#0000FF', $kept->json('ids.0.hex')], array_column((array) $next->json('ids.colors'), 'hex'), 'two that are fixed to one color are one');
        self::assertSame([], array_values(array_filter((array) $next->json('findings'), static fn (array $f): bool => str_starts_with($f['code'], 'id-') && $f['severity'] !== 'note')));
        self::assertSame(['post_high.mtl', 'post_high.obj', 'post_id.mtl', 'post_id.obj', 'post_low.mtl', 'post_low.obj'], Delivery::query()->findOrFail($made['deliveryId'])->files->pluck('name')->sort()->values()->all());
        // Written once more, the new ID file comes in the place of the old one.
        $again = (array) $this->postJson("/api/deliveries/{$made['deliveryId']}/id-files", ['kind' => 'ids', 'onto' => 'high', 'as' => 'vertex-colors'])->assertCreated()->json();
        $this->work();
        $this->whole((int) $again['deliveryId'])->assertJsonPath('verdict', 'ready')->assertJsonPath('ids.source', 'id file');
        self::assertStringContainsString('v ', (string) Store::get(Delivery::query()->findOrFail($again['deliveryId'])->files->firstWhere('name', 'post_high.obj')->path ?? ''));
        self::assertMatchesRegularExpression('/^v \S+ \S+ \S+ 0\.\d{6} /m', (string) Store::get(Delivery::query()->findOrFail($again['deliveryId'])->files->firstWhere('name', 'post_high.obj')->path ?? ''));

        // What is sealed has its legend with it.
        $package = $this->postJson("/api/deliveries/{$made['deliveryId']}/packages")->assertCreated()->json('id');
        $this->work();
        $zip = new ZipArchive;
        $zip->open($this->get("/api/packages/$package")->assertOk()->baseResponse->getFile()->getPathname()); // @phpstan-ignore-line
        self::assertNotFalse($zip->locateName('legend/legend.png'));
        self::assertStringContainsString('legend/legend.json', (string) $zip->getFromName('SHA256SUMS'));
    }

    public function test_ids_hold_over_deliveries_and_fixed_colors_too(): void
    {
        $first = $this->handIn($this->posts(['post' => 0.0, 'beam' => 3.0]));
        $this->work();
        $cut = $this->postJson("/api/deliveries/$first/id-cut", ['by' => 'part', 'angle' => 30])->json('id');
        $this->work();
        $sheet = (array) $this->getJson("/api/deliveries/$first/color-id")->json('sheet');
        $kept = (array) $this->postJson("/api/deliveries/$first/id-sheet", ['cut' => $cut, 'act' => 'keep', 'allEyes' => false, 'pins' => ['post' => '#E8112D'], 'ids' => array_map(static fn (array $one): array => array_intersect_key($one, array_flip(['name', 'hex', 'pinned', 'pieces'])), (array) $sheet['ids'])])->assertOk()->json('ids');
        self::assertSame(['beam', 'post'], array_column($kept, 'name'));
        // The beam under another name, and one more.
        $second = $this->handIn($this->posts(['cap' => 8.0, 'post' => 0.0, 'girder' => 3.0]));
        $this->work();
        $this->postJson("/api/deliveries/$second/id-cut", ['by' => 'part', 'angle' => 30])->assertCreated();
        $this->work();
        $ids = array_column((array) $this->getJson("/api/deliveries/$second/color-id")->json('sheet.ids'), null, 'name');
        self::assertSame([$kept[0]['hex'], ['girder_high'], '#E8112D'], [$ids['beam']['hex'], $ids['beam']['parts'], $ids['post']['hex']]);
        self::assertNotContains($ids['cap']['hex'], [$kept[0]['hex'], '#E8112D']);
        // Without fixed colors, and with none whose shape is known, a sheet is kept as well.
        $cut = $this->postJson("/api/deliveries/$second/id-cut", ['by' => 'material', 'angle' => 30])->json('id');
        $this->work();
        $this->postJson("/api/deliveries/$second/id-sheet", ['cut' => $cut, 'act' => 'keep', 'allEyes' => true, 'pins' => [], 'ids' => [['name' => 'hull', 'hex' => '#123456', 'pinned' => false, 'pieces' => ['steel']]]])->assertOk();
        $this->getJson("/api/deliveries/$second/color-id")->assertJsonPath('sheet.ids.0.name', 'hull')->assertJsonPath('sheet.ids.0.hex', '#123456')->assertJsonPath('sheet.allEyes', true)->assertJsonPath('sheet.by', 'material');
        // Cut by parts once more, what was decided there is there again.
        $this->postJson("/api/deliveries/$second/id-cut", ['by' => 'part', 'angle' => 30])->assertCreated();
        $this->work();
        self::assertSame($ids['cap']['hex'], array_column((array) $this->getJson("/api/deliveries/$second/color-id")->assertJsonPath('sheet.allEyes', true)->json('sheet.ids'), 'hex', 'name')['cap']);
        // What was kept by another version is no obstacle.
        Asset::query()->update(['color_ids' => ['shape' => 'other']]);
        $this->getJson("/api/deliveries/$second/color-id")->assertOk()->assertJsonPath('sheet.state', 'done');
    }

    public function test_what_is_wrong_is_refused_in_words_and_nothing_is_kept(): void
    {
        $id = $this->handIn($this->posts(['post' => 0.0]));
        $this->postJson("/api/deliveries/$id/id-cut", ['by' => 'part', 'angle' => 30])->assertStatus(422)->assertJsonPath('message', 'the delivery is still being checked');
        $this->work();
        foreach ([['by' => 'face', 'angle' => 30], ['by' => 'part', 'angle' => 0], ['by' => 'part']] as $wrong) {
            $this->postJson("/api/deliveries/$id/id-cut", $wrong)->assertStatus(422);
        }
        $sheet = ['cut' => 0, 'act' => 'keep', 'allEyes' => false, 'pins' => [], 'ids' => []];
        $this->postJson("/api/deliveries/$id/id-sheet", $sheet)->assertStatus(422)->assertJsonPath('message', 'the high poly is not cut yet, or was cut anew meanwhile; wait a moment and try it again');
        $cut = $this->postJson("/api/deliveries/$id/id-cut", ['by' => 'part', 'angle' => 30])->json('id');
        $this->work();
        $one = ['name' => 'post', 'hex' => '#FF0000', 'pinned' => false, 'pieces' => ['post']];
        foreach ([['pins' => ['a' => 'red']], ['ids' => [['hex' => 'red'] + $one]], ['ids' => [$one, $one]], ['act' => 'look'], ['ids' => [['name' => ''] + $one]]] as $wrong) {
            $this->postJson("/api/deliveries/$id/id-sheet", [...$sheet, 'cut' => $cut, ...$wrong])->assertStatus(422);
        }
        self::assertSame(1, Delivery::query()->findOrFail($id)->asset->color_ids_version, 'only the cut was kept');
        $this->postJson("/api/deliveries/$id/outputs", ['kind' => 'ids', 'as' => 'paint'])->assertStatus(422);
        // More shells than IDs can be told apart: the cut says so.
        $many = $this->handIn(self::obj('many', array_merge(...array_map(static fn (int $k): array => ["chain $k" => Shapes::box(0.1, 0.1, 0.1)->moved(0.2 * $k, 0, 0)], range(0, 500)))));
        $this->work();
        $this->postJson("/api/deliveries/$many/id-cut", ['by' => 'part', 'angle' => 30])->assertCreated();
        $this->work();
        self::assertStringContainsString('501 IDs', (string) $this->getJson("/api/deliveries/$many/color-id")->assertJsonPath('sheet.state', 'failed')->json('sheet.error'));
        $this->get("/api/deliveries/$many/pieces/$cut")->assertNotFound();
    }

    /**
     * A beam (a box) and everything else (cylinders), low and high.
     *
     * @param  array<string, float>  $parts  name → where it stands
     * @return array<string, string>
     */
    private function posts(array $parts): array
    {
        $files = [];
        foreach (['low', 'high'] as $role) {
            $shapes = [];
            foreach ($parts as $name => $x) {
                // By place, so that a part keeps its shape under another name.
                $shape = $x === 3.0 ? Shapes::box(1, 1, 1, $role === 'high' ? 6 : 1) : Shapes::cylinder(0.5, 1, 24);
                $shapes["{$name}_$role"] = $shape->placed($x / 12, 0, 1 / 4)->moved($x, 0, 0);
            }
            $files += self::obj("post_$role", $shapes);
        }

        return $files;
    }

    /**
     * @param  array<string, \Anvil\Modelling\Polygons>  $shapes
     * @return array<string, string>
     */
    private static function obj(string $name, array $shapes): array
    {
        $folder = sys_get_temp_dir().'/anvil-posts-'.bin2hex(random_bytes(4));
        $sink = new FolderSink($folder);
        $suffix = str_contains($name, '_') ? '' : '_high';
        $parts = [];
        foreach ($shapes as $part => $shape) {
            $parts[] = new Part(str_replace(' ', '_', (string) $part).$suffix, $shape->mesh(40, [[0, 'steel']]), []);
        }
        ObjWriter::write($parts, "$name$suffix.obj", $sink);
        $sink->commit();
        $out = [];
        foreach ($sink->names() as $file) {
            $out[$file] = (string) file_get_contents("$folder/$file");
        }
        \Anvil\Formats\Folder::remove($folder);

        return $out;
    }
}
