<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Checks\Catalogue;
use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\Bounds;
use Anvil\Measures\Measures;
use Anvil\Pairing\PlaceCost;
use Anvil\Pairing\RoledPart;
use Anvil\Pairing\Tie;
use Anvil\Pairing\TieKind;
use Anvil\Sets\BakeSet as CoreSet;
use Anvil\Sets\FewestSets;
use Anvil\Standard\Reach;
use Anvil\Standard\Role;
use App\Http\Data\BleedData;
use App\Http\Data\BoardData;
use App\Http\Data\BoundsData;
use App\Http\Data\CageData;
use App\Http\Data\CheckData;
use App\Http\Data\CommonData;
use App\Http\Data\DeliveryData;
use App\Http\Data\ExplodeData;
use App\Http\Data\ExplodedData;
use App\Http\Data\FewestData;
use App\Http\Data\FileData;
use App\Http\Data\FindingData;
use App\Http\Data\IdColorData;
use App\Http\Data\IdProposalData;
use App\Http\Data\IdsData;
use App\Http\Data\MeasureData;
use App\Http\Data\MoveData;
use App\Http\Data\NamedSetData;
use App\Http\Data\OutputData;
use App\Http\Data\PackageData;
use App\Http\Data\PartData;
use App\Http\Data\PlacedMoveData;
use App\Http\Data\PlaceMendData;
use App\Http\Data\ProgressData;
use App\Http\Data\ReachData;
use App\Http\Data\SetData;
use App\Http\Data\SettingData;
use App\Http\Data\ShadeData;
use App\Http\Data\StandardData;
use App\Http\Data\SuffixGuessData;
use App\Http\Data\SuggestionData;
use App\Http\Data\TieData;
use App\Http\Data\WholeData;
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

/**
 * A delivery as the screens want it.
 */
final readonly class DeliveryPage
{
    /** Lone parts for which the nearest on the other side is looked for, of those that place and size give none. */
    private const SEARCHED = 100;

    private Measures $measures;

    /** @var array<string, CoreSet> */
    private array $setsByName;

    /** @var array<string, list<RoledPart>> */
    private array $partsByFile;

    /** @var array<string, mixed> decoded once: it is large */
    private array $report;

    public function __construct(private Delivery $delivery)
    {
        $delivery->loadMissing(['asset.standard', 'files.parts', 'sets.kept', 'findings', 'outputs', 'packages']);
        // Names and bounds are enough for what is shown; no mesh is loaded.
        $this->measures = (new StoredDelivery($delivery))->light();
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
            $d->id, $d->number, $d->asset_id, $d->asset->name, $d->state, $d->error, $d->verdict, $d->blockers, $d->cautions, $d->notes,
            $d->created_at->toIso8601String(), $d->handed_in_by, $d->checked_at?->toIso8601String(),
            $d->derived_from === null ? null : Delivery::query()->find($d->derived_from)?->number, $d->made_by_words,
            self::progress($d),
            new StandardData($standard->id, $standard->name, $standard->version, $rules->rays->setsKeptApart, $rules->whole, $rules->mapSize, $rules->limitInForce('sets-bleed'), $rules->suffixFor(Role::Low), $rules->suffixFor(Role::High), $standard->rules),
            StationStates::of($d),
            array_values($d->files->map(fn (File $file): FileData => $this->file($file))->all()),
            $this->parts(),
            $this->ties(),
            $this->suggestions(),
            array_values($d->sets->map(fn (BakeSet $set): SetData => $this->set($set))->all()),
            $this->common(),
            array_values($d->findings->map(static fn ($finding): FindingData => new FindingData(
                $finding->id, $finding->code, $finding->station, $finding->severity, $finding->message, $finding->remedy,
                $finding->subject['file'] ?? null, $finding->subject['part'] ?? null, $finding->subject['set'] ?? null, $finding->subject['other'] ?? null,
                $finding->measure === null ? null : new MeasureData((float) $finding->measure['value'], (float) $finding->measure['limit'], $finding->measure['unit']),
                $finding->texels, $finding->count, array_merge(...$finding->where), $finding->waived,
            ))->all()),
            $this->checks(),
            $this->ids(),
            $this->explode(),
            // What was written before the last check is of other sets or reaches.
            array_values($d->outputs->filter(static fn (Output $o): bool => $d->checked_at === null || $o->created_at >= $d->checked_at)->map(static fn (Output $o): OutputData => self::output($o))->all()),
            array_values($d->packages->map(static fn (Package $p): PackageData => new PackageData($p->id, $p->state, $p->error, $p->name, $p->bytes, $p->sha256, $p->created_at->toIso8601String(), $p->sealed_by))->all()),
            $this->settings(),
            $this->place(), $this->suffixGuess(), $this->wholeBake(), $this->board(), $this->fewest(), $this->exploded(),
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

        return new ProgressData($files->count(), $filesDone, $sets->count(), $setsDone, $doing);
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
            $file->remarks ?? [], $file->extras ?? [], FormatCatalogue::lacks($file->format ?? ''), array_map(strval(...), array_keys($roles)),
        );
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

    /**
     * @return list<TieData>
     */
    private function ties(): array
    {
        $out = [];
        $searched = 0;
        $placeIsMute = $this->measures->asset->pairing->saysNothingOfPlace($this->measures->asset->standard);
        foreach ($this->measures->asset->pairing->ties as $tie) {
            [$candidate, $cost] = [$tie->better === [] ? null : $tie->better[0]->part->name, $tie->betterCost];
            // For the rest the nearest of all, as far as a person will look at them one by one.
            if ($candidate === null && $tie->kind === TieKind::Open && $searched++ < self::SEARCHED) {
                [$candidate, $cost] = $this->candidate($tie);
            }
            $finite = static fn (?float $value): ?float => $value !== null && is_finite($value) ? $value : null;
            $out[] = new TieData($tie->base, $tie->kind->value, $tie->troubles, RoledPart::names($tie->low), RoledPart::names($tie->high), $placeIsMute ? null : $finite($tie->cost), $candidate, $finite($cost), ! $placeIsMute && $tie->isApart() ? $finite($tie->gap()) : null);
        }

        return $out;
    }

    /**
     * The part on the other side that fits a lone one best by place and size.
     *
     * @return array{string|null, float|null}
     */
    private function candidate(Tie $tie): array
    {
        $own = ($tie->low[0] ?? $tie->high[0] ?? null)?->part->bounds();
        $best = [null, null];
        foreach ($this->measures->asset->judged($tie->low === [] ? Role::Low : Role::High) as $other) {
            $box = $other->part->bounds();
            if ($own === null || $box === null) {
                continue;
            }
            $cost = $tie->low === [] ? PlaceCost::of($box, $own) : PlaceCost::of($own, $box);
            if (is_finite($cost) && ($best[1] === null || $cost < $best[1])) {
                $best = [$other->part->name, $cost];
            }
        }

        return $best;
    }

    /**
     * @return list<SuggestionData>
     */
    private function suggestions(): array
    {
        $ids = array_values($this->delivery->files->where('kind', 'mesh')->pluck('id')->all());

        return array_map(static fn ($s): SuggestionData => new SuggestionData($s->part->path, is_int($ids[$s->part->file]) ? $ids[$s->part->file] : 0, $s->part->part->name, $s->rename, $s->reason, $s->confidence), $this->measures->asset->pairing->suggestions);
    }

    private function set(BakeSet $row): SetData
    {
        $c = $row->measured();
        $set = $this->setsByName[$row->name] ?? null;
        $low = $set === null ? [] : RoledPart::names($set->low);
        $high = $set === null ? [] : RoledPart::names($set->target());
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

    private function common(): CommonData
    {
        $serves = $of = 0;
        foreach ($this->delivery->sets as $set) {
            $c = $set->measured();
            if ($c !== null) {
                $of++;
                $usual = 0.01 * $c->d;
                $serves += $usual >= $c->needed->out && $usual < ($c->firstWrong['out'] ?? INF) ? 1 : 0;
            }
        }
        /** @var array{out?: list<float>|null, in?: list<float>|null} $common */
        $common = $this->report['common'] ?? [];
        // An open end is kept as −1: JSON has no infinity, and null already says that there is no common reach.
        $open = static function (?array $span): ?array {
            return $span === null ? null : array_map(static fn (mixed $end): float => is_numeric($end) ? (float) $end : -1.0, array_values($span));
        };

        return new CommonData($open($common['out'] ?? null), $open($common['in'] ?? null), $serves, $of);
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
                $out[] = new CheckData($a->code, $a->title, $a->station->value, $state, $reason, $a->afterBake);
            }
        }

        return $out;
    }

    private function ids(): ?IdsData
    {
        /** @var array{source: string, colors: list<array{hex: string, name: string, names: list<string>, parts: list<string>, nearest: float|null, nearestName: string|null}>, missing: list<string>, least: float|null, proposal: list<array{name: string, hex: string, parts: list<string>}>, proposalLeast: float|null}|null $ids */
        $ids = $this->report['ids'] ?? null;

        return $ids === null ? null : new IdsData(
            $ids['source'],
            array_map(static fn (array $c): IdColorData => new IdColorData($c['hex'], $c['name'], $c['names'], $c['parts'], $c['nearest'], $c['nearestName']), $ids['colors']),
            $ids['missing'], $ids['least'],
            array_map(static fn (array $p): IdProposalData => new IdProposalData($p['name'], $p['hex'], $p['parts']), $ids['proposal']),
            $ids['proposalLeast'],
        );
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

    /**
     * @return list<SettingData>
     */
    private function settings(): array
    {
        /** @var list<array{setting: string, value: string, reason: string}> $settings */
        $settings = $this->report['settings'] ?? [];

        return array_map(static fn (array $row): SettingData => new SettingData($row['setting'], $row['value'], $row['reason']), $settings);
    }

    private function place(): ?PlaceMendData
    {
        /** @var array{factor: float|int|null, turn: string|null, words: string, matrix: list<float|int>, stuck: list<string>}|null $place */
        $place = $this->report['place'] ?? null;

        return $place === null ? null : new PlaceMendData($place['factor'] === null ? null : (float) $place['factor'], $place['turn'], $place['words'], array_map(floatval(...), $place['matrix']), $place['stuck'][0] ?? null);
    }

    private function suffixGuess(): ?SuffixGuessData
    {
        /** @var array{suffixes: array<string, list<string>>, pairs: int, bases: int, ofFiles: bool}|null $guess */
        $guess = $this->report['suffixes'] ?? null;

        return $guess === null ? null : new SuffixGuessData($guess['suffixes']['low'][0] ?? '', $guess['suffixes']['high'][0] ?? '', $guess['suffixes']['id'][0] ?? null, $guess['pairs'], $guess['bases'], $guess['ofFiles']);
    }

    private function wholeBake(): ?WholeData
    {
        /** @var array{clean: bool, out: float|int, in: float|int}|null $whole */
        $whole = $this->report['whole'] ?? null;

        return $whole === null ? null : new WholeData($whole['clean'], (float) $whole['out'], (float) $whole['in']);
    }

    private function board(): BoardData
    {
        $choices = $this->measures->asset->choices;
        $sets = [];
        foreach ($choices->sets as $name => $patterns) {
            $sets[] = new NamedSetData((string) $name, $patterns);
        }

        $shading = [];
        foreach (is_array($choices->occlusion) ? $choices->occlusion : [] as $name => $others) {
            $shading[] = new NamedSetData((string) $name, $others);
        }

        return new BoardData($sets, $choices->leftOut, $choices->bakedOnItself, $choices->detachable, is_array($choices->occlusion) ? 'named' : $choices->occlusion, $shading);
    }

    private function fewest(): ?FewestData
    {
        $limit = $this->delivery->asset->rules()->limitInForce('sets-bleed');
        $names = $conflicts = [];
        foreach ($this->delivery->sets as $set) {
            $measured = $set->measured();
            if ($measured === null) {
                continue;
            }
            $names[] = $set->name;
            foreach ($measured->bleeds as $bleed) {
                if ($bleed->share > $limit) {
                    $conflicts[] = [$set->name, $bleed->other];
                }
            }
        }
        if (count($names) < 2 || $this->delivery->state !== DeliveryState::Done) {
            return null;
        }
        $fewest = FewestSets::of($names, $conflicts);

        return new FewestData($fewest->groups, $fewest->isExact);
    }
}
