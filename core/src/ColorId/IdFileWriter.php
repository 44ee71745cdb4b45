<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Asset\Frames;
use Anvil\Asset\ReadFile;
use Anvil\Formats\FolderSink;
use Anvil\Formats\Gltf\GlbWriter;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Color;
use Anvil\Geometry\Mesh;
use Anvil\Geometry\Part;
use Anvil\Standard\Role;
use Anvil\Unreadable;

/**
 * Writes IDs into high files: as copies with ID names, or onto the files themselves; as flat materials, or as vertex colors that are split
 * where two IDs meet, so that nothing blends. Geometry, UVs, normals and the order of faces stay as they were; where materials of a glTF part
 * into several primitives, the order within each.
 */
final readonly class IdFileWriter
{
    /**
     * @param  bool  $onto  the high file keeps its name and those of its parts
     * @param  bool  $asVertexColors  else as materials
     */
    public function __construct(private Asset $asset, private IdPlan $plan, private bool $onto = false, private bool $asVertexColors = false)
    {
    }

    /**
     * @param  int  $number  of the file in the inspection
     * @return string the written file's name
     *
     * @throws Unreadable where this format cannot take them
     */
    public function write(int $number, Source $source, Sink $sink): string
    {
        $worn = [];
        foreach ($this->plan->cut()->parts as $i => $part) {
            if ($part->file === $number) {
                $worn[] = new WornPart($part, $this->onto ? $part->part->name : IdPlan::idName($part, $this->asset), $this->plan->ofPart($i));
            }
        }
        $file = $this->asset->files[$number];
        $ending = strtolower(pathinfo($source->name(), PATHINFO_EXTENSION));
        $takes = match ($ending) {
            'obj', 'glb', 'gltf' => true,
            'ply' => $this->asVertexColors,
            default => false,
        };
        if ($this->onto && ! $takes) {
            throw Unreadable::because($ending === 'ply' ? "$file->path cannot carry materials; write vertex colors onto it, or a copy" : "IDs are not written onto .$ending files; write a copy, which is a GLB");
        }
        $name = $this->onto ? basename($file->path) : $this->copyName($file, $takes ? $ending : 'glb');
        if ($sink instanceof FolderSink && $sink->has($name)) {
            throw Unreadable::because("two high files would both be written as $name; give one of them another name");
        }
        $isWritten = match ($takes ? $ending : '') {
            'obj' => (new DyedObj($this->plan, $worn, $this->asVertexColors))->write($source, $file, $name, $sink),
            'glb', 'gltf' => (new DyedGltf($this->plan, $worn, $this->asVertexColors))->write($source, $file, $name, $sink, $this->onto),
            'ply' => DyedPly::write($this->plan, $worn[0], $source, $name, $sink),
            default => false,
        };
        if (! $isWritten) {
            if ($this->onto) {
                throw Unreadable::because("IDs cannot be written onto $file->path as it is built; write a copy");
            }
            $name = $this->copyName($file, 'glb');
            $this->fresh($worn, $name, $sink);
        }

        return $name;
    }

    private function copyName(ReadFile $file, string $ending): string
    {
        $stem = pathinfo($file->path, PATHINFO_FILENAME);
        $high = $this->asset->standard->suffixFor(Role::High);
        if (str_ends_with(strtolower($stem), strtolower($high))) {
            $stem = substr($stem, 0, -strlen($high));
        }

        return $stem.$this->asset->standard->suffixFor(Role::Id).'.'.$ending;
    }

    /**
     * Formats that cannot carry them, or are not written, give a binary glTF that lies where the high poly lies.
     *
     * @param  list<WornPart>  $worn
     */
    private function fresh(array $worn, string $name, Sink $sink): void
    {
        $toGlb = Frames::toGlb($this->asset->files, $this->asset->standard);
        $names = $this->plan->materialNames();
        $colors = array_combine($names, array_map(static fn (Color $color): string => $color->hex(), $this->plan->colors()));
        $parts = [];
        foreach ($worn as $one) {
            $mesh = $one->part->part->mesh;
            $mesh = $this->asVertexColors ? $this->painted($mesh, $one) : $mesh->wearing($names, $one->runs());
            $parts[] = (new Part($one->name, $mesh, $colors))->placedBy($toGlb);
        }
        GlbWriter::write($parts, $name, $sink, true);
    }

    /** With a color at each vertex; those where several IDs meet stand there once for each. */
    private function painted(Mesh $mesh, WornPart $worn): Mesh
    {
        $rgb = array_map(static fn (Color $color): array => [$color->red / 255, $color->green / 255, $color->blue / 255], $this->plan->colors());
        $number = $positions = $colors = $triangles = [];
        foreach ($mesh->triangles as $corner => $v) {
            $id = $worn->id(intdiv($corner, 3));
            $key = $v << 16 | $id;
            if (! isset($number[$key])) {
                $number[$key] = count($number);
                array_push($positions, $mesh->positions[3 * $v], $mesh->positions[3 * $v + 1], $mesh->positions[3 * $v + 2]);
                array_push($colors, ...$rgb[$id]);
            }
            $triangles[] = $number[$key];
        }

        return new Mesh($positions, $triangles, $mesh->uvs, $mesh->triUvs, $mesh->normals, $mesh->triNormals, $colors);
    }
}
