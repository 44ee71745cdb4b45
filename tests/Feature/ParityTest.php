<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Asset\GivenFile;
use Anvil\Formats\FileSource;
use Anvil\Formats\Folder;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Inspection\Inspector;
use Anvil\Modelling\Polygons;
use Anvil\Tests\Figures\FigureAssets;
use Anvil\Tests\Support\SharedMeasures;
use App\Models\Asset;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\Finding;
use App\Models\Standard;
use App\Models\State\DeliveryState;
use Demo\SignalStation;
use PHPUnit\Framework\Attributes\DataProvider;
use Tests\Support\HandsIn;
use Tests\TestCase;

/**
 * The command line and the queue measure by one plan: the same files give the same bytes, whichever of them was asked.
 */
final class ParityTest extends TestCase
{
    use HandsIn;

    /** Between them they bring every measure about, over several sets, and blockers of all stations: both sides compute all of these. */
    private const COMPUTED = ['demo 1', 'demo 2', 'a hundred times too large and turned', 'a corner and its fillet', 'names in disorder', 'ID colours', 'many ties in few sets'];

    private string $folder;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied(measures: true);
        $this->folder = sys_get_temp_dir().'/anvil-feature-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
        parent::tearDown();
    }

    /**
     * @return iterable<string, array{array<string, array<string, Polygons|Mesh|Part>>|int, string, string}> files → parts, or the number of a demo asset; standard, choices
     */
    public static function assets(): iterable
    {
        foreach (array_keys(SignalStation::all()) as $number) {
            yield "demo $number" => [(int) $number, '{}', '{}'];
        }
        foreach (FigureAssets::all() as $name => $asset) {
            yield $name => [['x_low.obj' => $asset[0], 'x_high.obj' => $asset[1], ...(isset($asset[4]) ? ['x_id.obj' => $asset[4]] : [])], $asset[2] ?? '{}', $asset[3] ?? '{}'];
        }
        $many = [];
        foreach (['low', 'high'] as $side) {
            for ($i = 0; $i < 40; $i++) {
                $block = FigureAssets::block();
                $many["x_$side.obj"]["stone{$i}_$side"] = ($side === 'low' ? $block : $block->scaled(1 + 0.0004 * $i, 1.0, 1.0))->moved(5.0 * ($i % 8), 0.0, 5.0 * intdiv($i, 8));
            }
        }
        yield 'many ties in few sets' => [$many, '{}', '{"sets":{"left":["stone1*","stone2*"],"right":["stone3*"]}}'];
    }

    /**
     * @param  array<string, array<string, Polygons|Mesh|Part>>|int  $files
     */
    #[DataProvider('assets')]
    public function test_the_queue_gives_what_the_command_line_gives(array|int $files, string $standard, string $choices): void
    {
        $computed = in_array($this->dataName(), self::COMPUTED, true);
        config(['anvil.measures' => $computed ? null : (getenv('ANVIL_MEASURES') ?: null)]);
        if (is_int($files)) {
            self::demoFiles(array_values(SignalStation::all())[$files], $this->folder);
        } else {
            $this->write($files);
        }
        $rules = (array) json_decode($standard, true);
        $rules['rays'] = [...(array) ($rules['rays'] ?? []), 'count' => 4096];
        Standard::query()->create(['name' => 'parity', 'rules' => (string) json_encode((object) $rules), 'changed_by' => 'test']);

        $delivery = $this->throughTheQueue((array) json_decode($choices, true));
        $given = array_map(fn (string $name): GivenFile => new GivenFile($name, null, new FileSource("$this->folder/$name")), $delivery->files->where('kind', 'mesh')->pluck('name')->map(strval(...))->values()->all());
        $report = Inspector::inspect($given, $delivery->asset->rules(), $delivery->asset->decided(), workers: 2, store: $computed ? null : SharedMeasures::ofThisRun());

        $measured = [];
        foreach ($report->measures->clearances() as $name => $clearance) {
            $measured[$name] = $clearance->toArray();
        }
        $stored = $delivery->sets->mapWithKeys(static fn (BakeSet $set): array => [$set->name => $set->measured()?->toArray()])->filter()->all();
        ksort($measured);
        ksort($stored);
        self::assertSame(self::written($measured), self::written($stored));
        self::assertSame(
            self::written(array_map(static fn (\Anvil\Checks\Finding $f): array => [$f->code, $f->severity->value, $f->message, $f->remedy, $f->subject, $f->measure?->toArray(), $f->texels, $f->count, $f->where], $report->findings())),
            self::written($delivery->findings->map(static fn (Finding $f): array => [$f->code, $f->severity, $f->message, $f->remedy, $f->subject, $f->measure === null ? null : array_diff_key($f->measure, ['least' => 0]), $f->texels, $f->count, $f->where])->all()),
        );
        $array = $report->toArray();
        self::assertSame([$report->isReady() ? 'ready' : 'blocked', self::written($array['sets']), self::written($array['common'])], [$delivery->verdict, self::written($delivery->report['sets'] ?? null), self::written($delivery->report['common'] ?? null)]);
        $ended = static fn (mixed $checks): array => array_map(static fn (mixed $check): array => is_array($check) ? [$check['code'] ?? '', $check['state'] ?? '', $check['reason'] ?? null] : [], is_array($checks) ? $checks : []);
        self::assertSame($ended($array['checks']), $ended($delivery->report['checks'] ?? null));
    }

    /** Renaming shoots no ray: what was measured comes back under the new names, the same as if it had been shot. */
    public function test_a_part_that_was_only_renamed_is_not_measured_again(): void
    {
        $row = [];
        foreach (FigureAssets::all() as $name => $asset) {
            if (str_starts_with($name, 'neighbours in') || str_starts_with($name, 'a copy that hides')) {
                $row[$name] = $asset;
            }
        }
        self::assertCount(2, $row);
        foreach ($row as [$low, $high, $standard]) {
            $this->emptied(measures: true);
            $rules = (array) json_decode($standard, true);
            $rules['rays'] = [...(array) ($rules['rays'] ?? []), 'count' => 4096];
            Standard::query()->create(['name' => 'parity', 'rules' => (string) json_encode((object) $rules), 'changed_by' => 'test']);
            $this->write(['x_low.obj' => $low, 'x_high.obj' => $high]);
            $first = $this->throughTheQueue([]);
            self::assertNotContains(true, $first->sets->pluck('reused')->all());
            $renamed = static fn (array $parts): array => array_combine(array_map(static fn (string $name): string => (string) preg_replace('/^([a-z]+)/', '$1_new', $name), array_keys($parts)), $parts);
            $this->write(['x_low.obj' => $renamed($low), 'x_high.obj' => $renamed($high)]);
            $second = $this->throughTheQueue([]);
            self::assertSame([$first->asset_id, 2], [$second->asset_id, $second->number]);
            self::assertNotContains(false, $second->sets->pluck('reused')->all(), 'no ray was shot');
            $given = array_map(fn (string $name): GivenFile => new GivenFile($name, null, new FileSource("$this->folder/$name")), ['x_high.obj', 'x_low.obj']);
            $fresh = Inspector::inspect($given, $second->asset->rules(), $second->asset->decided());
            $measured = array_map(static fn (\Anvil\Clearance\SetClearance $one): array => $one->toArray(), $fresh->measures->clearances());
            $stored = $second->sets->mapWithKeys(static fn (BakeSet $set): array => [$set->name => $set->measured()?->toArray()])->all();
            ksort($measured);
            ksort($stored);
            self::assertSame(self::written($measured), self::written($stored));
            self::assertStringContainsString('_new', self::written($stored));
            self::assertSame(array_map(static fn (\Anvil\Checks\Finding $f): string => $f->message, $fresh->findings()), $second->findings->pluck('message')->all());
        }
    }

    /**
     * @param  array<string, array<string, Polygons|Mesh|Part>>  $files
     */
    private function write(array $files): void
    {
        $sink = new FolderSink($this->folder, true);
        foreach ($files as $name => $parts) {
            $written = [];
            foreach ($parts as $part => $shape) {
                $written[] = $shape instanceof Part ? $shape : new Part($part, $shape instanceof Polygons ? $shape->mesh() : $shape);
            }
            ObjWriter::write($written, $name, $sink);
        }
        $sink->commit();
    }

    /**
     * @param  array<array-key, mixed>  $choices
     */
    private function throughTheQueue(array $choices): Delivery
    {
        $names = array_values(array_diff(scandir($this->folder) ?: [], ['.', '..']));
        $ids = array_map(fn (string $name): string => $this->upload($name, (string) file_get_contents("$this->folder/$name")), $names);
        $id = $this->postJson('/api/deliveries', ['uploads' => $ids])->assertCreated()->json('deliveryId');
        $delivery = Delivery::query()->findOrFail($id);
        Asset::query()->whereKey($delivery->asset_id)->update(['choices' => json_encode((object) $choices)]);
        $this->work();
        $delivery->refresh();
        self::assertSame(DeliveryState::Done, $delivery->state, (string) $delivery->error);

        return $delivery;
    }

    private static function written(mixed $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT);
    }
}
