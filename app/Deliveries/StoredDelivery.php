<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Asset\GivenFile;
use Anvil\Asset\GivenMap;
use Anvil\Asset\ReadFile;
use Anvil\Explode\Assembled;
use Anvil\Formats\FileSource;
use Anvil\Formats\FormatCatalogue;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\MeshStore;
use Anvil\Geometry\Part as CorePart;
use Anvil\Geometry\PartFacts;
use Anvil\Geometry\Scene;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use App\Models\Delivery;
use App\Models\File;
use App\Models\Part;
use App\Models\State\FileState;
use Closure;
use RuntimeException;

/**
 * A delivery back from database and geometry store, as the core wants it.
 */
final class StoredDelivery
{
    /** @var array{int, array<string, Closure(): string>}|null side files of the delivery looked at last: name → path; a worker reads file after file of one */
    private static ?array $sides = null;

    private const MOST_OF_PLAN = 16 << 20;

    /** Measures that are small and read by others: got at once. */
    private const READ_BY_OTHERS = ['contents', 'turn', 'seen', 'id-colors'];

    public function __construct(private readonly Delivery $delivery)
    {
    }

    /**
     * @param  Closure(Part): bool|null  $needsMesh  parts whose mesh is loaded; the others keep only their bounds. Null: all
     */
    public function inspection(?Closure $needsMesh = null): Measures
    {
        return $this->with(fn (Part $part): ?Mesh => $needsMesh === null || $needsMesh($part) ? MeshStore::decode($this->bytes($part->store, $part)) : null);
    }

    /**
     * The mesh that the screen shows in place of a part's own.
     */
    public function shown(Part $part): Mesh
    {
        $light = Store::get(self::shownAs($part->store));

        // A file that was read by an earlier version has none yet.
        return $light === null ? DisplayFile::light(MeshStore::decode($this->bytes($part->store, $part)), $part->triangles) : MeshStore::decode($light);
    }

    /** One file by itself, with its meshes; what is measured is kept. */
    public function computingFile(File $file): Measures
    {
        return $this->with(fn (Part $part): Mesh => MeshStore::decode($this->bytes($part->store, $part)), $file)->keptIn(new KeptMeasures, true);
    }

    /**
     * Each file that is read by itself, with what is known of it.
     *
     * @return list<Measures>
     */
    public function readFiles(): array
    {
        $store = new KeptMeasures(true);
        $read = array_values(array_filter($this->meshFiles(), static fn (File $file): bool => ! $file->state->isOpen()));

        return array_map(fn (File $file): Measures => $this->with(static fn (Part $part): ?Mesh => null, $file)->keptIn($store, false), $read);
    }

    /** Where the light mesh of a part lies, by where its own does. */
    public static function shownAs(string $store): string
    {
        return (string) preg_replace('/\.yam$/', '.shown.yam', $store);
    }

    /**
     * @param  Closure(Part): (Mesh|null)  $meshOf  null: it keeps only what is known of it
     * @param  File|null  $only  that file by itself
     * @param  bool  $alone  not held against the delivery before it
     */
    private function with(Closure $meshOf, ?File $only = null, bool $alone = false): Measures
    {
        $files = [];
        foreach ($only === null ? $this->meshFiles() : [$only] as $file) {
            $parts = [];
            foreach ($file->parts as $part) {
                $mesh = $meshOf($part) ?? new Mesh([], [], materials: $part->materials);
                $bounds = $part->bounds === null ? null : Bounds::of(self::vector($part->bounds['min']), self::vector($part->bounds['max']));
                $parts[] = new CorePart($part->name, $mesh, $part->colors, $bounds, PartFacts::ofArray($part->facts ?? []), $part->hash, $part->triangles);
            }
            $scene = $file->state === FileState::Read ? new Scene($file->format ?? '', $parts, $file->unit, $file->up_axis, $file->remarks ?? [], $file->extras ?? []) : null;
            $error = $file->state === FileState::Unreadable ? Unreadable::because($file->error ?? 'it cannot be read') : null;
            $files[] = new ReadFile($file->name, $this->role($file), $file->sha256 ?? '', $scene, $error);
        }
        $assembled = null;
        try {
            $assembled = $only === null ? $this->assembled() : null;
        } catch (Unreadable $error) {
            $files[] = new ReadFile(FormatCatalogue::EXPLODE_PLAN, null, '', null, $error);
        }
        [$clearance, $all] = $this->delivery->asset->layout();
        $measures = Measures::of($files, $this->delivery->asset->rules(), $this->delivery->asset->decided(), $only === null ? $this->maps() : [])->since($only === null && ! $alone ? Since::last($this->delivery) : null)->laidOut($clearance, $all);

        return $assembled === null ? $measures : $measures->exploded($assembled);
    }

    /**
     * What an exploded layout was before: by the plan that was handed in with it, or the earlier delivery that it was recognised from.
     *
     * @throws Unreadable when the plan is none
     */
    public function assembled(): ?Assembled
    {
        $plan = $this->delivery->files->firstWhere('kind', 'plan');
        if ($plan !== null) {
            return $plan->bytes > self::MOST_OF_PLAN ? throw Unreadable::because('it is over 16 MiB, which no plan of an exploded layout is') : Assembled::ofPlan((string) Store::get($plan->path));
        }
        $original = $this->delivery->exploded_from === null ? null : Delivery::query()->find($this->delivery->exploded_from);

        return $original === null ? null : Assembled::ofOriginal((new self($original))->alone()->asset);
    }

    /** The plan that was handed in with an exploded layout; null where none was. */
    public function plan(): ?string
    {
        $plan = $this->delivery->files->firstWhere('kind', 'plan');

        return $plan === null || $plan->bytes > self::MOST_OF_PLAN ? null : Store::get($plan->path);
    }

    /**
     * Names, bounds and counts, without a mesh; nothing is computed.
     *
     * @param  KeptMeasures|null  $store  where what was measured is looked for
     */
    public function light(?KeptMeasures $store = null): Measures
    {
        $measures = $this->inspection(static fn (Part $part): bool => false);

        return $store === null ? $measures : $measures->keptIn($store, false);
    }

    /** The same, not held against the delivery before it. */
    public function alone(): Measures
    {
        return $this->with(static fn (Part $part): ?Mesh => null, null, true);
    }

    public function meshOf(Part $part): Mesh
    {
        return MeshStore::decode($this->bytes($part->store, $part));
    }

    /**
     * With meshes: what is not known is computed, and kept.
     *
     * @param  Closure(Part): bool|null  $needsMesh  null: all
     */
    public function computing(?Closure $needsMesh = null): Measures
    {
        $store = new KeptMeasures;
        $store->fetch($this->keys(self::READ_BY_OTHERS));

        return $this->inspection($needsMesh)->keptIn($store, true);
    }

    /** What was measured of it, without a mesh. */
    public function measured(): Measures
    {
        $store = new KeptMeasures(true);
        $store->fetch($this->keys());

        return $this->light($store);
    }

    /**
     * @param  list<string>|null  $measures  names; null: all
     * @return list<string> keys of what was measured of it
     */
    private function keys(?array $measures = null): array
    {
        $tasks = $this->delivery->tasks()->whereNotNull('key');

        return array_values(array_filter(($measures === null ? $tasks : $tasks->whereIn('measure', $measures))->pluck('key')->all(), is_string(...)));
    }

    /**
     * The rows of its parts, in the order of the asset's.
     *
     * @return list<Part>
     */
    public function parts(): array
    {
        return array_merge(...array_map(static fn (File $file): array => array_values($file->parts->all()), $this->meshFiles()));
    }

    /**
     * The files as handed in, for rewriting and packing.
     *
     * @return list<GivenFile>
     */
    public function givenFiles(): array
    {
        return array_map(fn (File $file): GivenFile => new GivenFile($file->name, $this->role($file), $this->source($file)), $this->meshFiles());
    }

    /**
     * Maps that came back from a baker.
     *
     * @return list<GivenMap>
     */
    public function maps(): array
    {
        return array_values($this->delivery->files->where('kind', 'map')->map(static function (File $file): GivenMap {
            $read = GivenMap::read($file->name);

            return new GivenMap($file->name, $file->role ?? $read[0] ?? null, $file->page ?? $read[1] ?? null, $file->page !== null, $file->sha256 ?? '', new StoredSource($file->path, $file->name, $file->bytes));
        })->all());
    }

    public function source(File $file): FileSource
    {
        $sides = [];
        // Out of a zip a file may lie in a folder, and names its side files from there.
        $folder = dirname($file->name) === '.' ? '' : dirname($file->name).'/';
        if (self::$sides === null || self::$sides[0] !== $this->delivery->id) {
            $all = [];
            foreach (File::query()->where('delivery_id', $this->delivery->id)->where('kind', 'side')->get(['name', 'path']) as $side) {
                $path = $side->path;
                $all[$side->name] = static fn (): string => Store::local($path);
            }
            self::$sides = [$this->delivery->id, $all];
        }
        foreach (self::$sides[1] as $name => $path) {
            $name = (string) $name;
            $sides[$folder !== '' && str_starts_with($name, $folder) ? substr($name, strlen($folder)) : $name] = $path;
        }

        return new FileSource(Store::local($file->path), $file->name, $sides);
    }

    /**
     * @return list<File>
     */
    public function meshFiles(): array
    {
        return array_values($this->delivery->files->where('kind', 'mesh')->all());
    }

    private function role(File $file): ?Role
    {
        return $file->role === null ? null : Role::from($file->role);
    }

    private function bytes(string $path, Part $part): string
    {
        return Store::get($path) ?? throw new RuntimeException("the geometry store of $part->name is gone");
    }

    /**
     * @param  array{float|int, float|int, float|int}  $v
     * @return array{float, float, float}
     */
    private static function vector(array $v): array
    {
        return [(float) $v[0], (float) $v[1], (float) $v[2]];
    }
}
