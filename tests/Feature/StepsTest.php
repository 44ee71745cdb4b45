<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Atlas;
use Anvil\Modelling\Polygons;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\MemorySink;
use App\Models\Delivery;
use App\Models\State\DeliveryState;
use App\Models\State\Step;
use Illuminate\Support\Facades\DB;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * Answers come as they are known: a file's own once it is read, what compares files once all are, a set's once its rays are shot.
 */
final class StepsTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: true);
    }

    public function test_findings_come_in_steps_and_stay(): void
    {
        // A name with a blank, a part without a partner, and a set whose high poly is open.
        $low = ['bitt ring_low' => Shapes::box(1, 1, 1), 'lid_low' => Shapes::box(1, 1, 1)->moved(4, 0, 0), 'peg_low' => Shapes::box(1, 1, 1)->moved(8, 0, 0)];
        $high = ['bitt ring_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2), 'lid_high' => Shapes::sheet(1, 1, 20, 20)->moved(4, 0, 0)];
        $id = $this->handIn(['bitt_low.obj' => self::obj($low), 'bitt_high.obj' => self::obj($high)]);
        $fileId = $this->getJson("/api/deliveries/$id")->json('files.0.id');
        $this->get("/api/deliveries/$id/files/$fileId/mesh")->assertNotFound();
        $this->next('ReadFile');
        // The mesh is there at once, and so is what the file says by itself.
        self::assertGreaterThan(100, (int) filesize($this->get("/api/deliveries/$id/files/$fileId/mesh")->assertOk()->baseResponse->getFile()->getPathname())); // @phpstan-ignore-line
        $page = $this->getJson("/api/deliveries/$id")->assertOk()->assertJsonPath('state', 'reading')->assertJsonPath('verdict', null)->assertJsonPath('progress.waitsFor', '1 of 2 files to be read');
        self::assertSame(['name-unsafe'], $page->json('findings.*.code'));
        $page->assertJsonPath('findings.0.part', 'bitt ring_low')->assertJsonPath('stations.0.state', 'computing')->assertJsonPath('stations.0.cautions', 1)->assertJsonPath('stations.1.state', 'computing');
        $unsafe = $page->json('findings.0.id');
        $this->next('ReadFile');
        $this->next('PairDelivery');
        // Names are judged before a ray is shot.
        $page = $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'measuring')->assertJsonPath('stations.1.state', 'found')->assertJsonPath('stations.1.blockers', 1)->assertJsonPath('stations.7.state', 'computing');
        self::assertContains('pair-no-high', (array) $page->json('findings.*.code'));
        self::assertContains($unsafe, (array) $page->json('findings.*.id'), 'the same finding has the same number');
        self::assertStringContainsString('the rays of', (string) collect((array) $page->json('checks'))->firstWhere('code', 'ray-miss')['reason']);
        // A set is judged before the others are.
        $seen = [];
        for ($i = 0; $i < 30 && Delivery::query()->findOrFail($id)->step === Step::Measure; $i++) {
            DB::table('deliveries')->update(['judge_after' => null]);
            $this->next('Measure');
            $page = $this->getJson("/api/deliveries/$id");
            $seen[] = [$page->json('progress.setsDone'), in_array('ray-miss', (array) $page->json('findings.*.code'), true), collect((array) $page->json('stations'))->firstWhere('key', 'clearance')['state']];
        }
        self::assertContains([2, true, 'computing'], $seen, (string) json_encode($seen));
        $this->work();
        $page = $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'blocked')->assertJsonPath('progress.waitsFor', null);
        self::assertContains($unsafe, (array) $page->json('findings.*.id'));
        self::assertNotContains('waiting', (array) $page->json('checks.*.state'));
        // Both names with a blank are one cause each: of one file each.
        $causes = (array) $page->json('causes');
        self::assertSame(count($causes), count(array_unique((array) $page->json('findings.*.cause'))));
        self::assertSame($page->json('blockers'), count(array_filter($causes, static fn (mixed $one): bool => is_array($one) && $one['severity'] === 'blocker')));
    }

    public function test_a_low_poly_alone_waits_for_its_high_poly_and_is_completed_by_it(): void
    {
        $box = Shapes::box(1, 1, 1);
        $id = $this->handIn(['post_low.obj' => self::obj(['post_low' => $box])]);
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'waiting')->assertJsonPath('blockers', 0)->assertJsonPath('progress.waitsFor', 'the high poly')
            ->assertJsonPath('stations.1.state', 'waiting')->assertJsonPath('stations.1.reason', 'the high poly is still to be handed in')->assertJsonPath('stations.7.reason', 'waiting for the high poly');
        $this->getJson('/api/rack')->assertJsonPath('assets.0.waitsFor', 'high')->assertJson(['blocked' => 0, 'ready' => 0]);
        $this->postJson("/api/deliveries/$id/packages")->assertStatus(422);
        self::assertSame($id, $this->handIn(['post_high.obj' => self::obj(['post_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)])]), 'it is the same delivery');
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'reading')->assertJsonPath('verdict', null);
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('verdict', 'ready')->assertJsonPath('number', 1)->assertJsonCount(2, 'files');
        // It is whole now: the next files are the next delivery.
        self::assertNotSame($id, $this->handIn(['post_high.obj' => self::obj(['post_high' => Shapes::roundedBox(1, 1, 1, 0.06, 2)])]));
    }

    public function test_what_comes_while_the_first_file_is_still_read_joins_it_and_a_second_low_poly_does_not(): void
    {
        $box = Shapes::box(1, 1, 1);
        $id = $this->handIn(['post_low.obj' => self::obj(['post_low' => $box])]);
        self::assertSame($id, $this->handIn(['post_high.obj' => self::obj(['post_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)])]));
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('verdict', 'ready');
        $lone = $this->handIn(['bell_low.obj' => self::obj(['bell_low' => $box])]);
        $this->work();
        self::assertNotSame($lone, $this->handIn(['bell_low.obj' => self::obj(['bell_low' => $box->moved(1, 0, 0)])]), 'a new low poly is a new delivery');
        $this->work();
        $this->getJson('/api/rack')->assertJsonPath('total', 2);
    }

    public function test_a_delivery_that_is_judged_to_its_end_never_changes(): void
    {
        // One file, called a low poly, that holds both sides.
        $both = $this->handIn(['buoy_low.obj' => self::obj(['buoy_low' => Shapes::box(1, 1, 1), 'buoy_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)])]);
        $this->work();
        $this->getJson("/api/deliveries/$both")->assertJsonPath('verdict', 'ready');
        self::assertNotSame($both, $this->handIn(['buoy_high.obj' => self::obj(['buoy_high' => Shapes::roundedBox(1, 1, 1, 0.06, 2)])]));
        $this->getJson("/api/deliveries/$both")->assertJsonPath('verdict', 'ready')->assertJsonCount(1, 'files');
    }

    public function test_a_name_is_mended_while_rays_are_shot_and_that_stops_them(): void
    {
        $box = Shapes::box(1, 1, 1);
        $round = Shapes::roundedBox(1, 1, 1, 0.05, 2);
        $id = $this->handIn(['post_low.obj' => self::obj(['post_low' => $box, 'cap_low' => $box->moved(4, 0, 0)]), 'post_high.obj' => self::obj(['post_high' => $round, 'Cap_high' => $round->moved(4, 0, 0)])]);
        foreach (['ReadFile', 'ReadFile', 'PairDelivery', 'Measure'] as $job) {
            $this->next($job);
        }
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'measuring');
        $file = $this->getJson("/api/deliveries/$id")->json('files.1.id');
        $new = $this->postJson("/api/deliveries/$id/mend", ['renames' => [['fileId' => $file, 'from' => 'Cap_high', 'to' => 'cap_high']]])->assertCreated()->json('deliveryId');
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'cancelled')->assertJsonPath('error', 'Stopped, since delivery 2 was made of it with its files mended.');
        $this->work();
        self::assertIsInt($new);
        $this->getJson("/api/deliveries/$new")->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'ready');
        self::assertSame(DeliveryState::Cancelled, Delivery::query()->findOrFail($id)->state);
    }

    public function test_a_choice_that_is_made_while_it_is_measured_begins_it_anew(): void
    {
        $box = Shapes::box(1, 1, 1);
        $id = $this->handIn(['post_low.obj' => self::obj(['post_low' => $box, 'cap_low' => $box->moved(4, 0, 0)]), 'post_high.obj' => self::obj(['post_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)])]);
        foreach (['ReadFile', 'ReadFile', 'PairDelivery'] as $job) {
            $this->next($job);
        }
        $run = Delivery::query()->findOrFail($id)->run;
        $this->postJson("/api/deliveries/$id/recheck")->assertStatus(422);
        $this->postJson("/api/deliveries/$id/choices", ['base' => 'cap', 'choice' => 'out'])->assertNoContent();
        self::assertSame($run + 1, Delivery::query()->findOrFail($id)->run);
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('verdict', 'ready');
    }

    public function test_what_an_earlier_version_read_is_read_again_when_it_is_checked_again(): void
    {
        $box = Shapes::box(1, 1, 1);
        $id = $this->handIn(['post_low.obj' => self::obj(['post_low' => $box]), 'post_high.obj' => self::obj(['post_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)])]);
        $this->work();
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'measuring');
        $this->work();
        Delivery::query()->findOrFail($id)->update(['core_version' => '0.0.1']);
        $this->postJson("/api/deliveries/$id/recheck")->assertNoContent();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'reading')->assertJsonPath('files.0.state', 'waiting');
        $this->work();
        $this->getJson("/api/deliveries/$id")->assertJsonPath('state', 'done')->assertJsonPath('verdict', 'ready')->assertJsonCount(2, 'parts');
    }

    public function test_what_an_earlier_version_judged_is_told_finding_by_finding(): void
    {
        $box = Shapes::box(1, 1, 1);
        $id = $this->handIn(['a_low.obj' => self::obj(['one x_low' => $box, 'two x_low' => $box->moved(4, 0, 0)])]);
        $this->work();
        self::assertSame([0, 0], $this->getJson("/api/deliveries/$id")->assertJsonCount(1, 'causes')->json('findings.*.cause'));
        $delivery = Delivery::query()->findOrFail($id);
        $delivery->update(['report' => array_diff_key($delivery->report ?? [], ['causes' => 0])]);
        DB::table('findings')->update(['cause' => null, 'key' => null]);
        $page = $this->getJson("/api/deliveries/$id")->assertJsonCount(2, 'causes')->assertJsonPath('stations.0.cautions', 2);
        self::assertSame([0, 1], $page->json('findings.*.cause'));
        self::assertSame($page->json('findings.*.message'), $page->json('causes.*.message'));
    }

    public function test_assets_parts_and_checks_are_found(): void
    {
        $box = Shapes::box(1, 1, 1);
        $id = $this->handIn(['fog_bell_low.obj' => self::obj(['clapper_low' => $box]), 'fog_bell_high.obj' => self::obj(['clapper_high' => Shapes::roundedBox(1, 1, 1, 0.05, 2)])]);
        $this->work();
        $found = $this->getJson('/api/search?find=CLAPPER')->assertOk()->assertJsonPath('assets', [])->assertJsonPath('checks', [])->assertJsonPath('parts.0.deliveryId', $id)->assertJsonPath('parts.0.asset', 'Fog bell');
        self::assertSame(['clapper_high', 'clapper_low'], $found->json('parts.*.name'));
        self::assertSame(['clapper_high', 'clapper_low'], $this->getJson("/api/search?find=clapper&delivery=$id")->json('parts.*.name'));
        $this->getJson('/api/search?find=bell')->assertJsonPath('assets.0.name', 'Fog bell')->assertJsonPath('assets.0.deliveryId', $id);
        self::assertContains('floater-rim', (array) $this->getJson('/api/search?find=dark%20edge')->json('checks.*.code'));
        self::assertContains('ray-lean', (array) $this->getJson('/api/search?find=leaning')->json('checks.*.code'));
        $this->getJson('/api/search?find=%25')->assertJsonPath('parts', []);
        foreach (['', 'find=', 'find='.str_repeat('a', 201), 'find=a&delivery=x'] as $wrong) {
            $this->getJson("/api/search?$wrong")->assertStatus(422);
        }
    }

    /**
     * @param  array<string, string>  $files
     */
    private function handIn(array $files): int
    {
        $ids = [];
        foreach ($files as $name => $content) {
            $ids[] = $this->upload($name, $content);
        }
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');
        self::assertIsInt($id);

        return $id;
    }

    /** Works the next job, which is one of this class. */
    private function next(string $job): void
    {
        self::assertStringContainsString($job, (string) DB::table('jobs')->orderBy('id')->value('payload'));
        $this->work(1);
        self::assertSame(0, DB::table('failed_jobs')->count(), (string) json_encode(DB::table('failed_jobs')->pluck('exception')));
    }

    /**
     * @param  array<string, Polygons>  $parts
     */
    private static function obj(array $parts): string
    {
        $sink = new MemorySink;
        ObjWriter::write(array_map(static fn (string $name, Polygons $shape): Part => new Part($name, \Anvil\Tests\Support\Assets::worn($shape->mesh())), array_keys($parts), array_values(Atlas::packed($parts))), 'x.obj', $sink);

        return $sink->content('x.obj');
    }
}
