<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use App\Deliveries\Waivers;
use App\Models\Delivery;
use App\Models\Letter;
use App\Models\Person;
use App\Models\Waiver;
use App\People\Standing;
use Tests\Support\HandsIn;
use Tests\TestCase;
use ZipArchive;

/** What becomes of findings over deliveries: waived until they get worse, sent back and mended, told as gone, new, better or worse. */
final class FindingsTest extends TestCase
{
    use HandsIn;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
    }

    public function test_a_waiver_goes_along_through_a_rename_and_dies_when_it_gets_worse(): void
    {
        $artist = $this->as(Person::factory()->create(['name' => 'Mara Lind', 'role' => Standing::Artist]));
        $first = $this->deliver(['bollard' => 0.003]);
        $found = $this->found($first, 'off-alignment');
        self::assertSame('caution', $found['severity']);
        $this->postJson("/api/deliveries/$first/waivers", ['findings' => [$found['id']], 'reason' => 'seen from afar'])->assertForbidden();
        $technical = $this->as(Person::factory()->create(['name' => 'Tomas Reed', 'role' => Standing::TechnicalArtist]));
        foreach ([['findings' => [], 'reason' => 'x'], ['findings' => [$found['id']], 'reason' => '  '], ['findings' => [$found['id']], 'reason' => 'x', 'until' => now()->subDay()->toDateString()], ['findings' => [999999], 'reason' => 'x']] as $wrong) {
            $this->postJson("/api/deliveries/$first/waivers", $wrong)->assertUnprocessable();
        }
        $this->postJson("/api/deliveries/$first/waivers", ['findings' => [$found['id']], 'reason' => 'seen from afar <script>'])->assertNoContent();
        $this->work();
        self::assertTrue($this->found($first, 'off-alignment')['waived'], 'at the value that was measured');
        $this->getJson("/api/deliveries/$first/hand-off")->assertJsonPath('waivers.0.state', 'holds')->assertJsonPath('waivers.0.by', 'Tomas Reed')->assertJsonPath('waivers.0.reason', 'seen from afar <script>');
        // In the package, with its name.
        $this->postJson("/api/deliveries/$first/packages")->assertCreated();
        $this->work();
        $package = Delivery::query()->findOrFail($first)->packages->firstOrFail();
        self::assertNull($package->error);
        $zip = new ZipArchive;
        self::assertTrue($zip->open(\App\Deliveries\Store::local((string) $package->path)));
        $ticket = json_decode((string) $zip->getFromName('ticket.json'), true);
        self::assertIsArray($ticket);
        self::assertSame(['off-alignment', 'Tomas Reed', 'seen from afar <script>', null], [$ticket['waivers'][0]['code'] ?? '', $ticket['waivers'][0]['by'] ?? '', $ticket['waivers'][0]['reason'] ?? '', $ticket['waivers'][0]['until'] ?? null]);
        self::assertStringContainsString('seen from afar &lt;script&gt;', (string) $zip->getFromName('ticket.html'));

        // Under another name, no worse: it holds.
        $this->as($artist);
        $second = $this->deliver(['mooring_post' => 0.003]);
        self::assertSame('mooring_post_low', $this->found($second, 'off-alignment')['part']);
        self::assertTrue($this->found($second, 'off-alignment')['waived']);
        $changes = $this->getJson("/api/deliveries/$second/changes")->assertJsonPath('before', 1)->assertJsonPath('isKnown', true);
        self::assertSame([['mooring_post_low', 'bollard_low', ['renamed']], ['mooring_post_high', 'bollard_high', ['renamed']]], $changes->collect('parts')->map(static fn (mixed $one): array => is_array($one) ? [$one['name'], $one['was'], $one['states']] : [])->all());
        self::assertSame([[], [], [], []], [$changes->json('gone'), $changes->json('new'), $changes->json('better'), $changes->json('worse')]);

        // Worse: it dies, and says by how much.
        $third = $this->deliver(['mooring_post' => 0.004]);
        self::assertFalse($this->found($third, 'off-alignment')['waived']);
        $died = $this->found($third, 'waiver-died');
        self::assertStringContainsString('The waiver by Tomas Reed held up to 0.3 %, and it is 0.4 % now', $died['message']);
        $changes = $this->getJson("/api/deliveries/$third/changes")->assertJsonCount(1, 'died')->assertJsonPath('worse.0.code', 'off-alignment')->assertJsonPath('parts.0.states', ['moved']);
        self::assertSame('tie-half-moved', $changes->json('new.0.code'));
        $this->getJson("/api/deliveries/$third/hand-off")->assertJsonPath('waivers.0.state', 'died');
        // Waived anew at its new value, the old one gives way; taken back, nothing holds it.
        $this->as($technical);
        $this->postJson("/api/deliveries/$third/waivers", ['findings' => [$died['id']], 'reason' => 'x'])->assertUnprocessable();
        $this->postJson("/api/deliveries/$third/waivers", ['findings' => [$this->found($third, 'off-alignment')['id']], 'reason' => 'still fine'])->assertNoContent();
        $this->work();
        self::assertTrue($this->found($third, 'off-alignment')['waived']);
        self::assertNull($this->search($third, 'waiver-died'));
        $waiver = Waiver::query()->whereNull('withdrawn_at')->sole();
        $this->deleteJson("/api/deliveries/$third/waivers/$waiver->id")->assertNoContent();
        $this->work();
        self::assertFalse($this->found($third, 'off-alignment')['waived']);
        $this->deleteJson("/api/deliveries/$third/waivers/$waiver->id")->assertNotFound();
        $told = $this->getJson("/api/assets/{$this->asset($third)}/history")->collect('events')->pluck('words')->all();
        self::assertSame(['took back the waiver of off-alignment by Tomas Reed', 'waived 1 finding of off-alignment: still fine', 'handed in 2 files', 'handed in 2 files', 'sealed a package', 'waived 1 finding of off-alignment: seen from afar <script>', 'handed in 2 files'], $told);
    }

    public function test_a_waiver_ends_after_its_last_day(): void
    {
        $id = $this->deliver(['bollard' => 0.003]);
        $this->postJson("/api/deliveries/$id/waivers", ['findings' => [$this->found($id, 'off-alignment')['id']], 'reason' => 'until the fair', 'until' => now()->addDays(2)->toDateString()])->assertNoContent();
        $this->work();
        $this->travel(2)->days();
        Waivers::end();
        $this->work();
        self::assertTrue($this->found($id, 'off-alignment')['waived'], 'on its last day');
        $this->travel(1)->days();
        Waivers::end();
        $this->work();
        self::assertFalse($this->found($id, 'off-alignment')['waived']);
        self::assertNull($this->search($id, 'waiver-died'), 'it ended, and did not die');
        $this->getJson("/api/deliveries/$id/hand-off")->assertJsonPath('waivers.0.state', 'ended');
        $run = Delivery::query()->findOrFail($id)->run;
        Waivers::end();
        self::assertSame($run, Delivery::query()->findOrFail($id)->run, 'once');
    }

    public function test_what_was_sent_back_is_mended_in_the_next_delivery(): void
    {
        $artist = Person::factory()->create(['name' => 'Mara Lind', 'role' => Standing::Artist, 'email' => 'mara@harbor.example']);
        $this->as(Person::factory()->create(['name' => 'Tomas Reed', 'role' => Standing::TechnicalArtist]));
        $first = $this->deliver(['bollard' => 0.0, 'ring' => 0.01, 'cleat' => 0.02]);
        $causes = $this->getJson("/api/deliveries/$first")->collect('causes');
        $number = $causes->search(static fn (mixed $one): bool => is_array($one) && $one['code'] === 'off-alignment');
        self::assertIsInt($number);
        $this->postJson("/api/deliveries/$first/fix-lists", ['causes' => [$number], 'to' => 999999])->assertUnprocessable();
        $this->postJson("/api/deliveries/$first/fix-lists", ['causes' => [12345], 'to' => $artist->id])->assertUnprocessable();
        $this->postJson("/api/deliveries/$first/fix-lists", ['causes' => [], 'to' => $artist->id])->assertUnprocessable();
        $several = $causes->keys()->filter(static fn (mixed $key): bool => is_array($causes[$key]) && $causes[$key]['code'] === 'off-alignment')->values()->all();
        $list = $this->postJson("/api/deliveries/$first/fix-lists", ['causes' => $several, 'to' => $artist->id, 'note' => 'by Friday, please'])->assertCreated()->assertJsonPath('sent', true)->json('id');
        self::assertIsInt($list);
        $letter = Letter::query()->where('to', 'mara@harbor.example')->sole();
        self::assertStringContainsString("/fix-lists/$list", $letter->text);
        self::assertStringContainsString('by Friday, please', $letter->text);
        $this->getJson('/api/rack')->assertJsonPath('assets.0.sentBack.to', 'Mara Lind')->assertJsonPath('assets.0.sentBack.against', null);
        $this->getJson("/api/deliveries/$first")->assertJsonPath('sentBack.id', $list);

        $this->as($artist);
        $this->getJson('/api/session')->assertJsonPath('me.sentBack', 1);
        $this->getJson('/api/me/fix-lists')->assertJsonCount(1)->assertJsonPath('0.mended', 0);
        $open = $this->getJson("/api/fix-lists/$list")->assertOk()->assertJsonPath('to', 'Mara Lind')->assertJsonPath('by', 'Tomas Reed')->assertJsonPath('against', null);
        $findings = $open->collect('causes')->pluck('findings')->flatten(1);
        self::assertSame(['ring_low', 'cleat_low'], $findings->pluck('part')->sort()->reverse()->values()->all());
        self::assertSame(['open'], $findings->pluck('state')->unique()->values()->all());

        $tag = (string) $this->getJson("/api/deliveries/$first")->headers->get('ETag');
        $this->getJson("/api/deliveries/$first", ['If-None-Match' => $tag])->assertStatus(304);
        // One is mended, one renamed and still off.
        $second = $this->deliver(['bollard' => 0.0, 'ring' => 0.0, 'horn' => 0.015], ['horn' => 'cleat']);
        $this->getJson("/api/deliveries/$first", ['If-None-Match' => $tag])->assertOk()->assertJsonPath('sentBack.against', 2);
        $this->getJson("/api/fix-lists/$list")->assertJsonPath('against', 2)->assertJsonPath('againstId', $second);
        $states = $this->getJson("/api/fix-lists/$list")->collect('causes')->pluck('findings')->flatten(1)->pluck('state', 'part')->all();
        self::assertSame('mended', $states['ring_low']);
        self::assertSame('open', $states['cleat_low']);
        $this->getJson('/api/session')->assertJsonPath('me.sentBack', 1);
        $this->getJson("/api/deliveries/$second/changes")->assertJsonPath('better.0.code', 'off-alignment')->assertJsonPath('gone.0.code', 'off-alignment');

        $third = $this->deliver(['bollard' => 0.0, 'ring' => 0.0, 'horn' => 0.0], ['horn' => 'cleat']);
        $this->getJson("/api/fix-lists/$list")->assertJsonPath('against', 3)->assertJsonPath('mended', count($several));
        $this->getJson('/api/session')->assertJsonPath('me.sentBack', 0);
        $this->getJson('/api/me/fix-lists')->assertJsonCount(0);
        $this->getJson("/api/deliveries/$third")->assertJsonPath('sentBack.mended', count($several));
    }

    public function test_a_part_that_is_gone_and_one_side_that_moved_are_told_but_not_of_what_was_made_here(): void
    {
        $first = $this->deliver(['bollard' => 0.0, 'ring' => 0.0]);
        $this->getJson("/api/deliveries/$first/changes")->assertJsonPath('before', null)->assertJsonPath('isKnown', false);
        $second = $this->deliver(['bollard' => 0.0]);
        self::assertSame(['ring_high', 'ring_low'], $this->getJson("/api/deliveries/$second")->collect('findings')->where('code', 'part-gone')->pluck('part')->sort()->values()->all());
        // A delivery that was made here forgot nothing.
        $file = $this->getJson("/api/deliveries/$second")->collect('files')->firstWhere('role', 'low');
        self::assertIsArray($file);
        $made = $this->postJson("/api/deliveries/$second/mend", ['renames' => [['fileId' => $file['id'], 'from' => 'bollard_low', 'to' => 'post_low']]])->json('deliveryId');
        self::assertIsInt($made);
        $this->work();
        $this->getJson("/api/deliveries/$made/changes")->assertJsonPath('isSource', true)->assertJsonPath('parts.0.words.0', 'renamed, was bollard_low');
        self::assertNull($this->search($made, 'part-gone'));
        self::assertSame('not-applicable', $this->getJson("/api/deliveries/$made")->collect('checks')->firstWhere('code', 'part-gone')['state'] ?? null);
        // The newest before it was deleted: it is held against the one that is left.
        $this->deleteJson("/api/deliveries/$made", ['number' => 3])->assertNoContent();
        $this->deleteJson("/api/deliveries/$second", ['number' => 2])->assertNoContent();
        $fourth = $this->deliver(['bollard' => 0.0, 'ring' => 0.005]);
        $this->getJson("/api/deliveries/$fourth/changes")->assertJsonPath('before', 1);
        self::assertSame('ring_low', $this->found($fourth, 'tie-half-moved')['part']);
    }

    public function test_the_headless_changes_say_the_same(): void
    {
        $folder = sys_get_temp_dir().'/anvil-changes-'.bin2hex(random_bytes(4));
        mkdir("$folder/then", 0o700, true);
        mkdir("$folder/now", 0o700, true);
        try {
            foreach (['then' => ['bollard' => 0.003, 'ring' => 0.0], 'now' => ['post' => 0.004]] as $when => $parts) {
                foreach (self::files($parts) as $name => $content) {
                    file_put_contents("$folder/$when/$name", $content);
                }
            }
            $run = static function (string $arguments) use ($folder): array {
                exec('cd '.escapeshellarg($folder).' && '.escapeshellarg(PHP_BINARY).' '.escapeshellarg(base_path('artisan'))." $arguments 2>/dev/null", $out, $code);

                return [$code, implode("\n", $out)];
            };
            [$code, $json] = $run('anvil:changes then/quay_low.obj then/quay_high.obj --with now/quay_low.obj now/quay_high.obj --json');
            self::assertSame(0, $code);
            $said = json_decode($json, true);
            self::assertIsArray($said);
            self::assertSame(['parts', 'findings'], array_keys($said));
            self::assertSame(['gone', 'new', 'better', 'worse', 'same'], array_keys((array) $said['findings']));
            $parts = array_column((array) $said['parts'], null, 'name');
            self::assertSame(['renamed', 'moved'], $parts['post_low']['state'] ?? null);
            self::assertSame('bollard_low', $parts['post_low']['was'] ?? null);
            self::assertSame(['gone'], $parts['ring_high']['state'] ?? null);
            self::assertEqualsWithDelta(0.001 * sqrt(14), $parts['post_low']['measure']['distance'] ?? 0.0, 1e-6);
            self::assertSame(['off-alignment', 0.003], [$said['findings']['worse'][0]['code'] ?? '', round((float) ($said['findings']['worse'][0]['was']['measure']['value'] ?? 0), 5)]);
            self::assertContains('part-gone', array_column((array) $said['findings']['new'], 'code'));
            // In any order of options, and in words.
            [$code, $text] = $run('anvil:changes --rays=4096 then/quay_low.obj then/quay_high.obj --with=now/quay_low.obj --workers 1 now/quay_high.obj');
            self::assertSame(0, $code);
            self::assertStringContainsString('renamed, was bollard_low; moved by 0.00374 units', $text);
            foreach (['then/quay_low.obj then/quay_high.obj' => 'file-missing', 'then/quay_low.obj --with gone.obj' => 'file-missing'] as $arguments => $error) {
                [$code, $json] = $run("anvil:changes $arguments --json");
                self::assertSame([2, $error], [$code, json_decode($json, true)['error']['code'] ?? null]);
            }
        } finally {
            \Anvil\Formats\Folder::remove($folder);
        }
    }

    /**
     * Slabs side by side whose low parts lie off their high parts by a share of their size.
     *
     * @param  array<string, float>  $parts  base → how far off
     * @param  array<string, string>  $places  base → the one in whose place it stands
     * @return array<string, string>
     */
    private static function files(array $parts, array $places = []): array
    {
        $order = ['bollard' => 0, 'mooring_post' => 0, 'post' => 0, 'ring' => 1, 'cleat' => 2];
        $low = $high = [];
        foreach ($parts as $base => $off) {
            $at = $order[$places[$base] ?? $base] ?? 3;
            $low[] = new Part("{$base}_low", Assets::worn(Shapes::box(3, 2, 1)->moved(5.0 * $at, $off * sqrt(14), 0)->placed(0.34 * $at, 0.02, 0.3)->mesh()));
            $high[] = new Part("{$base}_high", Assets::worn(Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(5.0 * $at, 0, 0)->mesh()));
        }
        $sink = new MemorySink;
        ObjWriter::write($low, 'quay_low.obj', $sink);
        ObjWriter::write($high, 'quay_high.obj', $sink);

        return ['quay_low.obj' => $sink->content('quay_low.obj'), 'quay_high.obj' => $sink->content('quay_high.obj')];
    }

    /**
     * @param  array<string, float>  $parts
     * @param  array<string, string>  $places
     */
    private function deliver(array $parts, array $places = []): int
    {
        $id = $this->handIn(self::files($parts, $places));
        $this->work();

        return $id;
    }

    /**
     * @return array{id: int, part: string, severity: string, waived: bool, message: string}
     */
    private function found(int $delivery, string $code): array
    {
        $one = $this->search($delivery, $code);
        self::assertNotNull($one, "$code is not found");

        /** @var array{id: int, part: string, severity: string, waived: bool, message: string} */
        return $one;
    }

    /**
     * @return array<mixed>|null
     */
    private function search(int $delivery, string $code): ?array
    {
        $one = $this->getJson("/api/deliveries/$delivery")->assertOk()->assertJsonPath('state', 'done')->collect('findings')->firstWhere('code', $code);

        return is_array($one) ? $one : null;
    }

    private function asset(int $delivery): int
    {
        return Delivery::query()->findOrFail($delivery)->asset_id;
    }
}
