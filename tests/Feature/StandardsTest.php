<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use App\Models\Delivery;
use App\Models\Finding;
use App\Models\Standard;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** A studio's rules: what a change of them would do is what it then does; versions; what good assets teach. */
final class StandardsTest extends TestCase
{
    use HandsIn;

    private Standard $standard;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
        $this->standard = Standard::factory()->create(['name' => 'harbor rules', 'rules' => '{"name":"harbor rules","rays":{"count":2048},"mapSize":128,"checks":{"silhouette-loss":{"severity":"off"}}}']);
    }

    public function test_what_a_change_would_do_is_what_it_does(): void
    {
        [$cleat, $bitt] = [$this->deliver('cleat', 0.002), $this->deliver('bitt', 0.0041)];
        // Stricter limits of a value that was measured, one that is known only looser, a severity, and both sides of a limit.
        foreach (['{"off-alignment":{"limit":0.004,"caution":0.001}}', '{"off-alignment":{"limit":0.02,"caution":0.01}}', '{"uv-use":{"severity":"blocker"}}', '{"uv-use":{"limit":0.01}}', '{"off-alignment":{"severity":"off"}}', '{"uv-stretch":{"limit":1.000001}}'] as $checks) {
            $rules = substr_replace($this->standard->refresh()->rules, substr($checks, 1, -1).',', strpos($this->standard->rules, '"silhouette-loss"') ?: 0, 0);
            $before = $this->found([$cleat, $bitt]);
            $blocked = Delivery::query()->where('verdict', 'blocked')->count();
            $effect = $this->effect($rules);
            self::assertSame([2, 0], [$effect['assets'], count($effect['unknownChecks'])], $checks);
            $original = $this->standard->rules;
            $this->putJson("/api/standards/{$this->standard->id}", ['rules' => $rules, 'version' => $this->standard->version, 'recheck' => true])->assertOk()->assertJsonPath('rechecked', 2);
            $this->work();
            $after = $this->found([$cleat, $bitt]);
            $delta = [];
            foreach (array_keys($before + $after) as $key) {
                $delta[$key] = ($after[$key] ?? 0) - ($before[$key] ?? 0);
            }
            $told = [];
            foreach ($effect['codes'] as $one) {
                $told += ["{$one['code']} blocker" => $one['blockers'], "{$one['code']} caution" => $one['cautions'], "{$one['code']} note" => $one['notes']];
            }
            $delta = array_filter($delta);
            $told = array_filter($told);
            ksort($delta);
            ksort($told);
            self::assertSame($delta, $told, $checks);
            self::assertSame($effect['nowBlocked'] - $effect['nowReady'], Delivery::query()->where('verdict', 'blocked')->count() - $blocked, $checks);
            $this->putJson("/api/standards/{$this->standard->id}", ['rules' => $original, 'version' => $this->standard->refresh()->version, 'recheck' => true])->assertOk();
            $this->work();
        }
        // What changes what is measured is told as far as it is known.
        $effect = $this->effect('{"name":"harbor rules","suffixes":{"low":"_lp"},"rays":{"count":2048},"mapSize":128}');
        self::assertContains('pair-no-low', array_column($effect['codes'], 'code'));
    }

    public function test_versions_are_kept_and_two_who_change_at_once_do_not_lose_each_other(): void
    {
        $id = $this->standard->id;
        $rules = '{"name":"harbor rules","mapSize":1024}';
        $this->putJson("/api/standards/$id", ['rules' => $rules, 'version' => 1, 'reason' => 'the new engine'])->assertOk()->assertJsonPath('version', 2);
        $this->putJson("/api/standards/$id", ['rules' => $rules, 'version' => 1])->assertConflict()->assertJsonPath('changes.0.words', 'saved version 2 of the standard "harbor rules": the new engine')->assertJsonPath('changes.0.who', 'Ines Falk')->assertJsonPath('version', 2);
        $page = $this->getJson("/api/standards/$id")->assertJsonPath('versions.0.reason', 'the new engine')->assertJsonPath('versions.0.version', 2)->assertJsonPath('versions.1.version', 1);
        self::assertStringContainsString('"mapSize":128', (string) $page->json('versions.1.rules'));
        self::assertStringContainsString('"mapSize":1024', (string) $page->json('rules'));
        foreach ([['{"mapSize":"large"}', 'mapSize'], ['{"name":"x","checks":{"no-such":{}}}', 'checks.no-such'], ['{', 'no standard'], ['{"name":" "}', 'a name']] as [$wrong, $names]) {
            self::assertStringContainsString($names, (string) $this->putJson("/api/standards/$id", ['rules' => $wrong, 'version' => 2])->assertUnprocessable()->json('message'));
            $this->postJson('/api/standards', ['rules' => $wrong])->assertUnprocessable();
            $this->postJson("/api/standards/$id/effect", ['rules' => $wrong])->assertUnprocessable();
        }
        $copy = $this->postJson('/api/standards', ['rules' => '{"name":"harbor rules, copy","mapSize":1024}'])->assertCreated()->json('id');
        $this->postJson('/api/standards', ['rules' => '{"name":"harbor rules, copy"}'])->assertUnprocessable();
        self::assertSame([[$id, 2, true], [$copy, 1, false]], $this->getJson('/api/standards')->collect()->map(static fn (mixed $one): array => is_array($one) ? [$one['id'], $one['version'], $one['first']] : [])->all());
        $this->deleteJson("/api/standards/$id")->assertUnprocessable();
        // Held to the copy, an asset is judged by it; then the copy stays.
        $delivery = $this->deliver('cleat', 0.002);
        $asset = Delivery::query()->findOrFail($delivery)->asset_id;
        $this->putJson("/api/assets/$asset/standard", ['standard' => $copy])->assertNoContent();
        $this->work();
        $this->getJson("/api/deliveries/$delivery")->assertJsonPath('standard.id', $copy)->assertJsonPath('standard.mapSize', 1024);
        $this->deleteJson("/api/standards/$copy")->assertUnprocessable();
        $this->putJson("/api/assets/$asset/standard", ['standard' => $id])->assertNoContent();
        $this->deleteJson("/api/standards/$copy")->assertNoContent();
        $this->putJson("/api/assets/$asset/standard", ['standard' => $copy])->assertUnprocessable();
    }

    public function test_good_assets_teach_limits_that_they_all_pass(): void
    {
        $ids = [];
        foreach (['cleat' => 0.0031, 'bitt' => 0.0074, 'post' => 0.0] as $name => $shift) {
            $ids[$name] = Delivery::query()->findOrFail($this->deliver($name, $shift))->asset_id;
        }
        $learned = $this->postJson("/api/standards/{$this->standard->id}/learn", ['assets' => array_values($ids)])->assertOk();
        $limits = array_column((array) $learned->json('limits'), null, 'of');
        self::assertSame(['off-alignment', 'Bitt', 'off-alignment', 'Cleat'], [$limits['limit']['code'], $limits['limit']['asset'], $limits['caution']['code'], $limits['caution']['asset']]);
        self::assertEqualsWithDelta(0.0074, $limits['limit']['limit'], 2e-5);
        $this->putJson("/api/standards/{$this->standard->id}", ['rules' => $learned->json('rules'), 'version' => 1, 'recheck' => true])->assertOk();
        $this->work();
        self::assertSame(0, Finding::query()->whereIn('severity', ['blocker', 'caution'])->count());
        $this->postJson("/api/standards/{$this->standard->id}/learn", ['assets' => []])->assertUnprocessable();
    }

    /**
     * @param  list<int>  $deliveries
     * @return array<string, int>
     */
    private function found(array $deliveries): array
    {
        $out = [];
        foreach (Finding::query()->whereIn('delivery_id', $deliveries)->where('waived', false)->get() as $row) {
            $out["$row->code $row->severity"] = ($out["$row->code $row->severity"] ?? 0) + 1;
        }

        return $out;
    }

    /**
     * @return array{assets: int, nowBlocked: int, nowReady: int, unknownChecks: list<string>, codes: list<array{code: string, blockers: int, cautions: int, notes: int}>}
     */
    private function effect(string $rules): array
    {
        /** @var array{assets: int, nowBlocked: int, nowReady: int, unknownChecks: list<string>, codes: list<array{code: string, blockers: int, cautions: int, notes: int}>} */
        return $this->postJson("/api/standards/{$this->standard->id}/effect", ['rules' => $rules])->assertOk()->assertJsonPath('next', null)->json();
    }

    /** A box whose high poly stands beside it by a share of its size. */
    private function deliver(string $base, float $shift): int
    {
        $high = Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(0, $shift * sqrt(14), 0);
        $sink = new MemorySink;
        ObjWriter::write([new Part("{$base}_low", Assets::worn(Shapes::box(3, 2, 1)->mesh()))], "{$base}_low.obj", $sink);
        ObjWriter::write([new Part("{$base}_high", $high->mesh())], "{$base}_high.obj", $sink);
        $id = $this->handIn(array_combine($sink->names(), array_map($sink->content(...), $sink->names())));
        $this->work();

        return $id;
    }
}
