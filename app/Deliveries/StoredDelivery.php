<?php

declare(strict_types=1);

namespace App\Deliveries;

use Anvil\Asset\GivenFile;
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

    public function __construct(private readonly Delivery $delivery)
    {
    }

    /**
     * @param  Closure(Part): bool|null  $needsMesh  parts whose mesh is loaded; the others keep only their bounds. Null: all
     */
    public function inspection(?Closure $needsMesh = null): Measures
    {
        $files = [];
        foreach ($this->meshFiles() as $file) {
            $parts = [];
            foreach ($file->parts as $part) {
                $mesh = $needsMesh === null || $needsMesh($part) ? $this->mesh($part) : new Mesh([], []);
                $bounds = $part->bounds === null ? null : Bounds::of(self::vector($part->bounds['min']), self::vector($part->bounds['max']));
                $parts[] = new CorePart($part->name, $mesh, $part->colors, $bounds, PartFacts::ofArray($part->facts ?? []));
            }
            $scene = $file->state === FileState::Read ? new Scene($file->format ?? '', $parts, $file->unit, $file->up_axis, $file->remarks ?? [], $file->extras ?? []) : null;
            $error = $file->state === FileState::Unreadable ? Unreadable::because($file->error ?? 'it cannot be read') : null;
            $files[] = new ReadFile($file->name, $this->role($file), $file->sha256 ?? '', $scene, $error);
        }
        $assembled = null;
        try {
            $assembled = $this->assembled();
        } catch (Unreadable $error) {
            $files[] = new ReadFile(FormatCatalogue::EXPLODE_PLAN, null, '', null, $error);
        }
        $measures = Measures::of($files, $this->delivery->asset->rules(), $this->delivery->asset->decided());

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

        return $original === null ? null : Assembled::ofOriginal((new self($original))->light()->asset);
    }

    /** Names and bounds, without a mesh. */
    public function light(): Measures
    {
        return $this->inspection(static fn (Part $part): bool => false);
    }

    /** All of it, with what its rays met and why others were not shot: what did not run must not be taken for passed. */
    public function measured(): Measures
    {
        $clearances = $notMeasured = [];
        foreach ($this->delivery->sets as $set) {
            $measured = $set->measured();
            if ($measured !== null) {
                $clearances[$set->name] = $measured;
            } elseif ($set->error !== null) {
                $notMeasured[$set->name] = $set->error;
            }
        }

        return $this->inspection()->withClearances($clearances, $notMeasured);
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

    private function mesh(Part $part): Mesh
    {
        return MeshStore::decode(Store::get($part->store) ?? throw new RuntimeException("the geometry store of $part->name is gone"));
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
