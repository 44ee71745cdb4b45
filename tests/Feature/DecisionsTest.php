<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use App\Models\Asset;
use App\Models\Delivery;
use App\Models\Person;
use App\Models\Standard;
use App\Models\State\DeliveryState;
use App\People\Standing;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\HttpFoundation\Response;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** Two people decide on one asset: who decides on what was loaded before the other did is asked, nothing is lost, and the history has it from what to what. */
final class DecisionsTest extends TestCase
{
    use HandsIn;

    private int $delivery;

    private Person $ines;

    private Person $tomas;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
        $this->delivery = $this->handIn(self::files());
        $this->work();
        $this->ines = Person::factory()->create(['name' => 'Ines Holm', 'role' => Standing::Lead]);
        $this->tomas = Person::factory()->create(['name' => 'Tomas Reed', 'role' => Standing::TechnicalArtist]);
    }

    /**
     * Two bollards, of which the second's low poly lies a little off its high poly.
     *
     * @return array<string, string>
     */
    private static function files(float $off = 0.004): array
    {
        $files = [];
        foreach (['low' => 0.0, 'high' => $off] as $role => $by) {
            $sink = new MemorySink;
            ObjWriter::write([new Part("bollard_$role", Assets::worn(Shapes::box(1, 1, 1)->mesh())), new Part("cleat_$role", Assets::worn(Shapes::box(1, 1, 1)->moved(3 + $by, 0, 0)->mesh()))], "quay_$role.obj", $sink);
            $files["quay_$role.obj"] = $sink->content("quay_$role.obj");
        }

        return $files;
    }

    /**
     * @param  array<string, mixed>  $body
     * @return TestResponse<Response>
     */
    private function ask(string $path, array $body, ?int $version = null, string $method = 'POST'): TestResponse
    {
        return $this->json($method, str_starts_with($path, '/') ? $path : "/api/deliveries/$this->delivery/$path", $body, $version === null ? [] : ['X-Anvil-Version' => (string) $version]);
    }

    private function version(): int
    {
        $version = $this->getJson("/api/deliveries/$this->delivery")->assertOk()->json('version');
        self::assertIsInt($version);

        return $version;
    }

    /**
     * @return list<array{who: string, words: string}>
     */
    private function history(): array
    {
        $asset = Delivery::query()->findOrFail($this->delivery)->asset_id;
        $events = $this->getJson("/api/assets/$asset/history")->assertOk()->collect('events')->map(static fn (mixed $one): array => is_array($one) ? ['who' => (string) $one['who'], 'words' => (string) $one['words']] : ['who' => '', 'words' => '']);

        return array_values($events->all());
    }

    /** @return iterable<string, array{string, array<string, mixed>, array<string, mixed>, string, string}> */
    public static function decisions(): iterable
    {
        $board = ['sets' => [], 'leftOut' => [], 'bakedOnItself' => [], 'detachable' => [], 'occlusion' => 'own', 'shading' => []];
        yield 'sets' => ['board', [...$board, 'sets' => [['name' => 'quay', 'patterns' => ['bollard', 'cleat']]]], [...$board, 'leftOut' => ['cleat']], 'moved bollard, cleat from sets of their own to quay', 'moved bollard, cleat from quay into sets of their own; left out cleat'];
        yield 'reach' => ['reach', ['set' => 'cleat', 'out' => 0.05, 'in' => null], ['set' => 'cleat', 'out' => 0.07, 'in' => 0.02], 'set the reach of cleat out from as recommended to 0.05', 'set the reach of cleat out from 0.05 to 0.07, in from as recommended to 0.02'];
        yield 'layout' => ['explode', ['clearance' => 0.5, 'all' => false], ['clearance' => null, 'all' => true], 'changed the exploded layout from sets in conflict apart by the usual gap to sets in conflict apart by 0.5', 'changed the exploded layout from sets in conflict apart by 0.5 to all sets apart by the usual gap'];
        yield 'choices' => ['choices', ['base' => 'cleat', 'choice' => 'out'], ['base' => 'bollard', 'choice' => 'self'], 'left out cleat', 'marked bollard baked on itself'];
    }

    /**
     * @param  array<string, mixed>  $first
     * @param  array<string, mixed>  $second
     */
    #[DataProvider('decisions')]
    public function test_who_decides_on_what_another_changed_meanwhile_is_asked_first(string $path, array $first, array $second, string $words, string $then): void
    {
        $this->as($this->tomas);
        $loaded = $this->version();
        $this->as($this->ines);
        $this->ask($path, $first, $loaded)->assertNoContent();
        $this->work();
        $now = $this->version();
        self::assertGreaterThan($loaded, $now);
        // Her own last decision stands in nobody's way.
        $this->as($this->tomas);
        $before = Asset::query()->firstOrFail()->getAttributes();
        $refused = $this->ask($path, $second, $loaded)->assertConflict()->assertJsonPath('changes.0.who', 'Ines Holm')->assertJsonPath('changes.0.words', $words)->assertJsonPath('version', $now)->assertJsonCount(1, 'changes');
        self::assertSame("Ines Holm changed this after you loaded it: $words. Your change is not saved yet: send it again on top of version $now, or load the page again", $refused->json('message'));
        self::assertMatchesRegularExpression('/^\d{4}-\d\d-\d\dT/', (string) $refused->json('changes.0.when'));
        self::assertSame($before, Asset::query()->firstOrFail()->getAttributes(), 'nothing is changed');
        self::assertSame(DeliveryState::Done, Delivery::query()->findOrFail($this->delivery)->state, 'nothing is checked anew');
        $this->ask($path, $second, $now)->assertNoContent();
        $this->work();
        self::assertSame([['who' => 'Tomas Reed', 'words' => $then], ['who' => 'Ines Holm', 'words' => $words]], array_slice($this->history(), 0, 2));
        // The same once more changes nothing, and is no event.
        $count = count($this->history());
        $this->ask($path, $second, $this->version())->assertNoContent();
        self::assertCount($count, $this->history());
    }

    public function test_what_does_not_touch_each_other_and_what_is_ones_own_needs_no_question(): void
    {
        $loaded = $this->version();
        $this->as($this->ines);
        $this->ask('reach', ['set' => 'bollard', 'out' => 0.05, 'in' => null], $loaded)->assertNoContent();
        $this->ask('reach', ['set' => 'bollard', 'out' => 0.06, 'in' => null], $loaded)->assertNoContent();
        $this->as($this->tomas);
        $this->ask('reach', ['set' => 'cleat', 'out' => 0.05, 'in' => null], $loaded)->assertNoContent();
        $this->ask('explode', ['clearance' => 0.5, 'all' => false], $loaded)->assertNoContent();
        // Who says no version, as scripts do, decides last.
        $this->ask('reach', ['set' => 'bollard', 'out' => 0.07, 'in' => null])->assertNoContent();
        self::assertSame(['cleat' => ['out' => 0.05, 'in' => null], 'bollard' => ['out' => 0.07, 'in' => null]], Asset::query()->firstOrFail()->reaches);
        // What is no number is none.
        foreach (['x', '-1', '1.5', str_repeat('9', 30)] as $odd) {
            $this->json('POST', "/api/deliveries/$this->delivery/reach", ['set' => 'bollard', 'out' => 0.08, 'in' => null], ['X-Anvil-Version' => $odd])->assertNoContent();
        }
        $this->work();
    }

    public function test_a_set_may_be_called_by_a_number(): void
    {
        $this->delivery = $this->handIn(array_combine(['pier_low.obj', 'pier_high.obj'], array_map(static fn (string $text): string => str_replace('cleat', '7', $text), array_values(self::files()))));
        $this->work();
        $this->ask('reach', ['set' => '7', 'out' => 0.05, 'in' => null])->assertNoContent();
        $this->work();
        $this->ask('reach', ['set' => '7', 'out' => 0.06, 'in' => null])->assertNoContent();
        $this->work();
        self::assertSame(['set the reach of 7 out from 0.05 to 0.06', 'set the reach of 7 out from as recommended to 0.05'], array_slice(array_column($this->history(), 'words'), 0, 2));
    }

    public function test_two_who_waive_or_send_back_the_same_do_it_once(): void
    {
        $page = $this->getJson("/api/deliveries/$this->delivery")->assertOk();
        $finding = $page->collect('findings')->firstWhere('code', 'off-alignment');
        $cause = $page->collect('causes')->search(static fn (mixed $one): bool => is_array($one) && $one['code'] === 'off-alignment');
        self::assertIsArray($finding);
        self::assertIsInt($cause);
        $loaded = $this->version();
        $this->as($this->ines);
        $this->ask('fix-lists', ['causes' => [$cause], 'to' => $this->tomas->id, 'note' => null], $loaded)->assertCreated();
        $this->as($this->tomas);
        $this->ask('fix-lists', ['causes' => [$cause], 'to' => $this->ines->id, 'note' => null], $loaded)->assertConflict()->assertJsonPath('changes.0.words', 'sent 1 cause back to Tomas Reed');
        self::assertSame(1, \App\Models\FixList::query()->count());
        $this->ask('waivers', ['findings' => [$finding['id']], 'reason' => 'seen from afar'], $loaded)->assertNoContent();
        $this->work();
        $again = $this->getJson("/api/deliveries/$this->delivery")->collect('findings')->firstWhere('code', 'off-alignment');
        self::assertIsArray($again);
        $this->as($this->ines);
        $this->ask('waivers', ['findings' => [$again['id']], 'reason' => 'mine'], $loaded)->assertConflict()->assertJsonPath('changes.0.words', 'waived 1 finding of off-alignment: seen from afar');
        $waiver = \App\Models\Waiver::query()->firstOrFail();
        self::assertSame(['seen from afar', null], [$waiver->reason, $waiver->withdrawn_at]);
        $this->ask("waivers/$waiver->id", [], $loaded, 'DELETE')->assertConflict();
        self::assertNull($waiver->refresh()->withdrawn_at);
        $this->ask("waivers/$waiver->id", [], $this->version(), 'DELETE')->assertNoContent();
        $this->work();
        $this->ask("waivers/$waiver->id", [], null, 'DELETE')->assertNotFound();
    }

    public function test_the_same_files_asked_for_twice_are_one_delivery(): void
    {
        $file = Delivery::query()->findOrFail($this->delivery)->files->firstOrFail();
        $rename = static fn (string $to): array => ['renames' => [['fileId' => $file->id, 'from' => 'cleat_low', 'to' => $to]]];
        $loaded = $this->version();
        $this->as($this->ines);
        $first = $this->ask('mend', $rename('horn_low'), $loaded)->assertCreated()->assertJsonPath('known', false)->json('deliveryId');
        $this->as($this->tomas);
        // Before it is written, and after.
        $this->ask('mend', $rename('horn_low'), $loaded)->assertCreated()->assertJsonPath('known', true)->assertJsonPath('deliveryId', $first);
        $this->work();
        $this->ask('mend', $rename('horn_low'), $loaded)->assertCreated()->assertJsonPath('known', true)->assertJsonPath('deliveryId', $first);
        // Other names on what was loaded before: asked.
        $this->ask('mend', $rename('post_low'), $loaded)->assertConflict()->assertJsonPath('changes.0.words', 'wrote files as a new delivery: 1 name mended from delivery 1');
        $this->ask('mend', $rename('post_low'), $this->version())->assertCreated()->assertJsonPath('known', false)->assertJsonPath('number', 3);
        $this->work();
        self::assertSame(3, Delivery::query()->count());
    }

    public function test_what_two_watches_see_is_handed_in_once(): void
    {
        $ids = static fn (self $test): array => array_map(static fn (string $name, string $content): string => $test->upload($name, $content), array_keys(self::files(0.005)), array_values(self::files(0.005)));
        [$one, $two] = [$ids($this), $ids($this)];
        $first = $this->postJson('/api/deliveries', ['uploads' => $one, 'once' => true])->assertCreated()->assertJsonPath('known', false)->assertJsonPath('number', 2)->json('deliveryId');
        // While it is being read, and when it is judged.
        $this->postJson('/api/deliveries', ['uploads' => $two, 'once' => true])->assertCreated()->assertJsonPath('known', true)->assertJsonPath('deliveryId', $first);
        $this->work();
        $this->postJson('/api/deliveries', ['uploads' => $two, 'once' => true])->assertCreated()->assertJsonPath('known', true)->assertJsonPath('deliveryId', $first);
        // A person who uploads them again means it.
        $this->postJson('/api/deliveries', ['uploads' => $two])->assertCreated()->assertJsonPath('known', false)->assertJsonPath('number', 3);
        $this->work();
        // Back to what an older one has is a change.
        $old = array_map($this->upload(...), array_keys(self::files()), array_values(self::files()));
        $this->postJson('/api/deliveries', ['uploads' => $old, 'once' => true])->assertCreated()->assertJsonPath('known', false)->assertJsonPath('number', 4);
        $this->work();
    }

    public function test_ids_and_another_standard_are_told_from_what_to_what(): void
    {
        $this->as($this->tomas);
        $other = Standard::factory()->create(['name' => 'harbor rules']);
        $asset = Delivery::query()->findOrFail($this->delivery)->asset;
        $was = $asset->standard->name;
        $this->ask("/api/assets/$asset->id/standard", ['standard' => $other->id], null, 'PUT')->assertNoContent();
        $this->work();
        self::assertSame(['who' => 'Tomas Reed', 'words' => "changed the standard from \"$was\" to \"harbor rules\""], $this->history()[0]);
        $file = Delivery::query()->findOrFail($this->delivery)->files->firstOrFail();
        $this->ask("files/$file->id/role", ['role' => 'cage'])->assertNoContent();
        $this->work();
        self::assertSame("changed the role of $file->name from what its name says to cage", $this->history()[0]['words']);
        $this->ask("files/$file->id/role", ['role' => null])->assertNoContent();
        $this->work();
        $this->ask('id-cut', ['by' => 'part', 'angle' => 30])->assertCreated();
        $this->work();
        $sheet = $this->getJson("/api/deliveries/$this->delivery/color-id")->assertOk()->json('sheet');
        self::assertIsArray($sheet);
        $loaded = $this->version();
        $draft = static fn (string $hex): array => ['cut' => $sheet['cut'], 'act' => 'keep', 'allEyes' => false, 'pins' => [], 'ids' => array_map(static fn (array $one): array => ['name' => $one['name'], 'hex' => $one['name'] === 'cleat' ? $hex : $one['hex'], 'pinned' => $one['pinned'], 'pieces' => $one['pieces']], $sheet['ids'])];
        $this->as($this->ines);
        $this->ask('id-sheet', $draft('#00AA10'), $loaded)->assertOk();
        self::assertMatchesRegularExpression('/^changed the color IDs: cleat from #[0-9A-F]{6} of .* to #00AA10 of /', $this->history()[0]['words']);
        $this->as($this->tomas);
        $this->ask('id-sheet', $draft('#AA0010'), $loaded)->assertConflict()->assertJsonPath('changes.0.who', 'Ines Holm');
        self::assertStringContainsString('#00AA10', (string) json_encode($asset->refresh()->color_ids));
        $this->ask('id-sheet', $draft('#AA0010'), $this->version())->assertOk();
        self::assertStringContainsString('#AA0010', (string) json_encode($asset->refresh()->color_ids));
    }
}
