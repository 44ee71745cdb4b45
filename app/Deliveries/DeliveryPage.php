<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Catalogue;
use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\Bounds;
use Anvil\Measures\Measures;
use Anvil\Pairing\RoledPart;
use Anvil\Sets\BakeSet as CoreSet;
use Anvil\Standard\Reach;
use Anvil\Standard\Role;
use App\Http\Data\BleedData;
use App\Http\Data\BoundsData;
use App\Http\Data\CageData;
use App\Http\Data\CheckData;
use App\Http\Data\DeliveryData;
use App\Http\Data\ExplodeData;
use App\Http\Data\ExplodedData;
use App\Http\Data\FileData;
use App\Http\Data\FindingData;
use App\Http\Data\MeasureData;
use App\Http\Data\MoveData;
use App\Http\Data\OutputData;
use App\Http\Data\PackageData;
use App\Http\Data\PartData;
use App\Http\Data\PlacedMoveData;
use App\Http\Data\ProgressData;
use App\Http\Data\ReachData;
use App\Http\Data\SetData;
use App\Http\Data\ShadeData;
use App\Http\Data\StandardData;
use App\Models\BakeSet;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Output;
use App\Models\Package;
use App\Models\Part;
use App\Models\State\DeliveryState;
use App\Models\State\FileState;
use App\Models\State\MakingState;
use App\Models\State\SetState;
use App\People\Decisions;

/**
 * A delivery as bar, rail, stand and findings want it; what a station shows beside is in `Stations`.
 */
final readonly class DeliveryPage
{
    private Measures $measures;

    /** @var array<string, CoreSet> */
    private array $setsByName;

    /** @var array<string, list<RoledPart>> */
    private array $partsByFile;

    private int $version;

    /** @var array<string, mixed> decoded once: it is large */
    private array $report;

    /** @param  string  $mark  of what it is made of */
    public function __construct(private Delivery $delivery, private string $mark)
    {
        // From before anything is read: what is decided meanwhile is newer than what is shown.
        $this->version = Decisions::version($delivery->asset_id);
        $delivery->loadMissing(['asset.standard', 'files.parts', 'sets.kept', 'findings', 'outputs', 'packages']);
        // Names and bounds are enough for what is shown; no mesh is loaded.
        $this->measures = (new StoredDelivery($delivery))->alone();
        $byName = [];
        foreach ($this->measures->asset->sets as $set) {
            $byName[$set->name] = $set;
        }
        $this->setsByName = $byName;
        $byFile = [];
        foreach ($this->measures->asset->parts as $part) {
            $byFile[$part->path][] = $part;
        }
        $this->partsByFile = $byFile;
        $this->report = $delivery->report ?? [];
    }

    public function data(): DeliveryData
    {
        $d = $this->delivery;
        $standard = $d->asset->standard;
        $rules = $d->asset->rules();

        return new DeliveryData(
            $this->mark, $this->version, $d->id, $d->number, $d->asset_id, $d->asset->name, $d->state, $d->error, $d->verdict, $d->blockers, $d->cautions, $d->notes,
            $d->created_at->toIso8601String(), $d->handed_in_by, $d->checked_at?->toIso8601String(),
            $d->derived_from === null ? null : Delivery::query()->find($d->derived_from)?->number, $d->made_by_words,
            self::progress($d),
            new StandardData($standard->id, $standard->name, $standard->version, $rules->rays->setsKeptApart, $rules->whole, $rules->mapSize, $rules->limitInForce('sets-bleed'), $rules->suffixFor(Role::Low), $rules->suffixFor(Role::High), $standard->rules),
            $this->measures->asset->unit(),
            StationStates::of($d),
            array_values($d->files->map(fn (File $file): FileData => $this->file($file))->all()),
            $this->parts(),
            array_values($d->sets->map(fn (BakeSet $set): SetData => $this->set($set))->all()),
            array_values($d->findings->values()->map(fn ($finding, int $number): FindingData => new FindingData(
                $finding->id, $finding->code, $finding->station, $finding->severity, $finding->message, $finding->remedy,
                $finding->subject['file'] ?? null, $finding->subject['part'] ?? null, $finding->subject['set'] ?? null, $finding->subject['other'] ?? null,
                $finding->measure === null ? null : new MeasureData((float) $finding->measure['value'], (float) $finding->measure['limit'], $finding->measure['unit']),
                $finding->texels, $finding->count, array_merge(...$finding->where), $finding->waived, $finding->cause ?? (isset($this->report['causes']) ? null : $number),
            ))->all()),
            StationStates::causes($d),
            $this->checks(),
            $this->explode(),
            // What was written before the last check is of other sets or reaches.
            array_values($d->outputs->filter(static fn (Output $o): bool => $d->checked_at === null || $o->created_at >= $d->checked_at)->map(static fn (Output $o): OutputData => self::output($o))->all()),
            array_values($d->packages->map(static fn (Package $p): PackageData => new PackageData($p->id, $p->state, $p->error, $p->name, $p->bytes, $p->sha256, $p->created_at->toIso8601String(), $p->sealed_by, $p->with ?? [], Stale::words($p, $d)))->all()),
            $this->exploded(),
            FixLists::state($d->asset_id),
            $d->standard_version,
        );
    }

    public static function progress(Delivery $delivery): ProgressData
    {
        $files = $delivery->files->where('kind', 'mesh');
        $filesDone = $files->filter(static fn (File $file): bool => ! $file->state->isOpen())->count();
        $sets = $delivery->sets;
        $setsDone = $sets->filter(static fn (BakeSet $set): bool => ! $set->state->isOpen())->count();
        $reading = $files->firstWhere('state', FileState::Reading) ?? $files->firstWhere('state', FileState::Waiting);
        $measuring = $sets->firstWhere('state', SetState::Measuring) ?? $sets->firstWhere('state', SetState::Waiting);
        $doing = match ($delivery->state) {
            DeliveryState::Writing => 'writing the mended files',
            DeliveryState::Reading => $reading === null ? 'pairing' : "reading $reading->name",
            DeliveryState::Measuring => $measuring === null ? 'shooting rays' : "shooting rays of $measuring->name",
            DeliveryState::Checking => 'checking',
            default => null,
        };

        $waitsFor = match (true) {
            $delivery->isOver() => Judging::waitsFor($delivery->waits_for) === null ? null : "the $delivery->waits_for poly",
            $filesDone < $files->count() => self::some($files->count() - $filesDone, $files->count(), 'file').' to be read',
            $setsDone < $sets->count() => 'the rays of '.self::some($sets->count() - $setsDone, $sets->count(), 'set'),
            default => 'the last checks',
        };

        return new ProgressData($files->count(), $filesDone, $sets->count(), $setsDone, $doing, $waitsFor);
    }

    /** `3 of 20 sets`, `1 set`. */
    private static function some(int $some, int $all, string $noun): string
    {
        return ($some === $all ? number_format($all) : number_format($some).' of '.number_format($all))." $noun".($all === 1 ? '' : 's');
    }

    private function file(File $file): FileData
    {
        $ofName = RoledPart::roleOfFile($file->name, $this->measures->asset->standard)?->value;
        $bounds = Bounds::union($file->parts->map(static fn (Part $part): ?Bounds => self::bounds($part))->all());
        $materials = array_values(array_unique(array_merge(...array_values($file->parts->map(static fn (Part $part): array => $part->materials)->all()))));

        $placed = $roles = [];
        foreach ($this->partsByFile[$file->name] ?? [] as $part) {
            $placed[] = $part->part->bounds();
            $roles[$part->role->value ?? 'none'] = true;
        }
        $inFrame = Bounds::union($placed);

        return new FileData(
            $file->id, $file->name, $file->kind, $file->role ?? $ofName, $file->role !== null ? 'chosen' : ($ofName !== null ? 'name' : null),
            $file->bytes, $file->state, $file->error, $file->error_line, $file->error_offset, $file->sha256, $file->format, $file->unit, $file->up_axis,
            $file->parts->count(), array_sum($file->parts->map(static fn (Part $part): int => $part->triangles)->all()), array_sum($file->parts->map(static fn (Part $part): int => $part->vertices)->all()), $materials,
            $bounds === null ? null : new BoundsData($bounds->min, $bounds->max), $inFrame === null ? null : new BoundsData($inFrame->min, $inFrame->max),
            $file->remarks ?? [], $file->extras ?? [], FormatCatalogue::lacks($file->format ?? ''), array_map(strval(...), array_keys($roles)), $this->frame($file),
        );
    }

    /**
     * @return list<float>|null
     */
    private function frame(File $file): ?array
    {
        foreach ($this->measures->asset->files as $number => $one) {
            if ($one->path === $file->name) {
                $matrix = $this->measures->asset->frames[$number];

                return $matrix->isIdentity() ? null : $matrix->m;
            }
        }

        return null;
    }

    private static function bounds(Part $part): ?Bounds
    {
        if ($part->bounds === null) {
            return null;
        }
        [$a, $b] = [array_map(floatval(...), $part->bounds['min']), array_map(floatval(...), $part->bounds['max'])];

        return Bounds::of([$a[0], $a[1], $a[2]], [$b[0], $b[1], $b[2]]);
    }

    /**
     * @return list<PartData>
     */
    private function parts(): array
    {
        $setOf = [];
        foreach ($this->measures->asset->sets as $set) {
            foreach ([...$set->low, ...$set->high, ...$set->id, ...$set->cage] as $part) {
                $setOf[spl_object_id($part)] = $set->name;
            }
        }
        $rows = [];
        foreach ($this->delivery->files->where('kind', 'mesh') as $file) {
            foreach ($file->parts as $part) {
                $rows[] = [$file, $part];
            }
        }
        $out = [];
        foreach ($this->measures->asset->parts as $i => $part) {
            [$file, $row] = $rows[$i];
            $out[] = new PartData($part->part->name, $part->path, $file->id, $part->role?->value, $part->base, $row->triangles, $row->vertices, $row->materials, $setOf[spl_object_id($part)] ?? null, $row->has_normals, $row->has_uvs);
        }

        return $out;
    }

    private function set(BakeSet $row): SetData
    {
        $c = $row->measured();
        $set = $this->setsByName[$row->name] ?? null;
        $low = $set === null ? [] : RoledPart::names($set->low);
        $high = $set === null ? [] : RoledPart::names($set->target());
        $bounds = $set?->bounds();
        $reach = static fn (?Reach $reach): ReachData => new ReachData($reach?->out, $reach?->in);

        return new SetData(
            $row->name, $row->state, $row->error, $low, $high, $c?->d, $c->samples ?? 0,
            $reach($c?->needed), new ReachData($c->firstWrong['out'] ?? null, $c->firstWrong['in'] ?? null), $reach($c?->recommended),
            $c?->set === null ? null : $reach($c->set), $reach($c?->inUse()), $c?->missShare,
            array_map(static fn ($bleed): BleedData => new BleedData($bleed->other, $bleed->share, $bleed->unseenShare), $c->bleeds ?? []),
            $c?->overhang, $c->highest ?? [],
            $set === null ? [] : array_values(array_unique(array_map(static fn (RoledPart $part): string => $part->base, [...$set->low, ...$set->high]))), $set->onItself ?? false, $c->details->wrongShare ?? 0.0,
            $c->details->curve['top'] ?? 0.0, $c->details->curve['miss'] ?? [], $c->details->curve['wrong'] ?? [],
            $this->shades($row->name), isset($this->delivery->asset->reaches[$row->name]), $row->reused,
            $bounds === null ? null : new BoundsData($bounds->min, $bounds->max),
        );
    }

    /**
     * @return list<ShadeData>
     */
    private function shades(string $set): array
    {
        /** @var array<string, list<array{other: string, share: float|int}>> $all */
        $all = $this->report['shades'] ?? [];

        return array_map(static fn (array $one): ShadeData => new ShadeData($one['other'], (float) $one['share']), $all[$set] ?? []);
    }

    /**
     * @return list<CheckData>
     */
    private function checks(): array
    {
        $about = Catalogue::about();
        /** @var list<array{code: string, state: string, reason?: string}> $checks */
        $checks = $this->report['checks'] ?? [];
        $out = [];
        foreach ($checks as $check) {
            $a = $about[$check['code']] ?? null;
            if ($a !== null) {
                [$state, $reason] = [$check['state'], $check['reason'] ?? null];
                if ($a->code === 'package-readback') {
                    $sealed = $this->delivery->packages->where('state', MakingState::Done)->isNotEmpty();
                    [$state, $reason] = $sealed ? ['passed', null] : ['not-applicable', 'no package is sealed yet'];
                }
                $out[] = new CheckData($a->code, $a->title, $a->station->value, $state, $reason, $a->afterBake, $a->limitWords);
            }
        }

        return $out;
    }

    private function explode(): ?ExplodeData
    {
        /** @var array{clearance: float|int, sets: list<array{set: string, vector: list<float>, occlusionBefore: float|null, occlusionAfter: float|null}>, bleedBefore: float|int, bleedAfter: float|int, conflicts: array<string, list<string>>, before: array<string, float>, after: array<string, float>, proved: bool, samples: int}|null $plan */
        $plan = $this->report['explode'] ?? null;
        if ($plan === null) {
            return null;
        }
        $moves = [];
        foreach ($plan['sets'] as $set) {
            $meets = $plan['conflicts'][$set['set']] ?? [];
            if ($meets !== [] || array_filter($set['vector']) !== []) {
                $moves[] = new MoveData($set['set'], array_map(floatval(...), $set['vector']), $meets, (float) ($plan['before'][$set['set']] ?? 0), (float) ($plan['after'][$set['set']] ?? 0), $set['occlusionBefore'], $set['occlusionAfter']);
            }
        }

        return new ExplodeData((float) $plan['clearance'], $moves, $plan['proved'], (float) $plan['bleedBefore'], (float) $plan['bleedAfter'], $plan['samples'], $this->delivery->asset->explode['all'] ?? false, ($this->delivery->asset->explode['clearance'] ?? null) !== null);
    }

    private function exploded(): ?ExplodedData
    {
        $assembled = $this->measures->assembled;
        if ($assembled === null) {
            return null;
        }
        $moves = [];
        foreach ($assembled->movesOf($this->measures->asset) as $set => $vector) {
            $moves[] = new PlacedMoveData((string) $set, $vector);
        }
        $of = $this->delivery->exploded_from === null ? null : Delivery::query()->find($this->delivery->exploded_from)?->number;

        return new ExplodedData($of, $moves);
    }

    private static function output(Output $output): OutputData
    {
        /** @var list<array{set: string, vertices: int, more: int, less: int, wrongShare: float|int, outsideBy: float|int, clean: bool}> $cages */
        $cages = $output->kind === 'cage' ? $output->detail['sets'] ?? [] : [];

        return new OutputData($output->id, $output->kind, $output->state, $output->error, $output->name, $output->bytes, $output->created_at->toIso8601String(), $output->made_by,
            array_map(static fn (array $cage): CageData => new CageData($cage['set'], $cage['vertices'], $cage['more'], $cage['less'], (float) $cage['wrongShare'], (float) $cage['outsideBy'], $cage['clean']), $cages));
    }
}
