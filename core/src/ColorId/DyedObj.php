<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\ReadFile;
use Anvil\Formats\Sink;
use Anvil\Formats\Source;
use Anvil\Geometry\Part;

/**
 * Writes IDs into the text of an OBJ file: a `usemtl` before each run of faces and an MTL beside it, or colors behind the vertices, each of
 * which stands once for each ID that it is in. Every other word stays.
 *
 * @internal
 */
final class DyedObj
{
    /** @var array<int, list<int>> vertex → the IDs that it is in */
    private array $idsOf = [];

    /**
     * @param  list<WornPart>  $worn
     */
    public function __construct(private readonly IdPlan $plan, private readonly array $worn, private readonly bool $asVertexColors)
    {
    }

    public function write(Source $source, ReadFile $file, string $name, Sink $sink): bool
    {
        /** @var list<Part> $parts */
        $parts = $file->scene->parts ?? [];
        $ofGroup = $this->groups($source, $parts);
        if ($ofGroup === null) {
            return false;
        }
        if ($this->asVertexColors) {
            $this->usedBy($source, $ofGroup);
        }
        $library = pathinfo($name, PATHINFO_FILENAME).'.mtl';
        $out = $sink->open($name);
        if (! $this->asVertexColors) {
            fwrite($out, "mtllib $library\n");
        }
        $this->rewrite($source, $ofGroup, $out);
        fclose($out);
        if (! $this->asVertexColors) {
            $out = $sink->open($library);
            foreach ($this->plan->materialNames() as $number => $material) {
                $id = $this->plan->ids[$number];
                fwrite($out, sprintf("newmtl %s\nKd %.9F %.9F %.9F\n\n", $material, $id->color->red / 255, $id->color->green / 255, $id->color->blue / 255));
            }
            fclose($out);
        }

        return true;
    }

    /**
     * What each group of the file wears, in the order in which groups begin.
     *
     * @param  list<Part>  $parts
     * @return array<int, WornPart|null>|null null where groups and parts do not go together
     */
    private function groups(Source $source, array $parts): ?array
    {
        $walk = new ObjWalk($source);
        $hasFaces = [];
        foreach ($walk->lines() as [$kind]) {
            if ($kind === 'f') {
                $hasFaces[$walk->group] = true;
            }
        }
        ksort($hasFaces);
        if (count($hasFaces) !== count($parts)) {
            return null;
        }

        return $parts === [] ? [] : array_combine(array_keys($hasFaces), WornParts::inOrder($parts, $this->worn));
    }

    /**
     * @param  array<int, WornPart|null>  $ofGroup
     */
    private function usedBy(Source $source, array $ofGroup): void
    {
        $walk = new ObjWalk($source);
        $ids = array_map(static fn (?WornPart $one): int|array => $one?->ofFaces() ?? -1, $ofGroup);
        foreach ($walk->lines() as [$kind, $line]) {
            if ($kind !== 'f') {
                continue;
            }
            $of = $ids[$walk->group];
            $id = is_int($of) ? $of : ($of[$walk->face] ?? -1);
            foreach (self::corners($line) as $corner) {
                $v = (int) $corner;
                $v = $v < 0 ? $walk->vertices + $v : $v - 1;
                if (! isset($this->idsOf[$v])) {
                    $this->idsOf[$v] = [$id];
                } elseif (! in_array($id, $this->idsOf[$v], true)) {
                    $this->idsOf[$v][] = $id;
                }
            }
        }
    }

    /**
     * @param  array<int, WornPart|null>  $ofGroup
     * @param  resource  $out
     */
    private function rewrite(Source $source, array $ofGroup, $out): void
    {
        $ids = array_map(static fn (?WornPart $one): int|array => $one?->ofFaces() ?? -1, $ofGroup);
        $names = $this->plan->materialNames();
        $colors = array_map(static fn (PlannedId $id): string => sprintf(' %.6F %.6F %.6F', $id->color->red / 255, $id->color->green / 255, $id->color->blue / 255), $this->plan->ids);
        $first = $this->firsts();
        $wears = -1;
        $walk = new ObjWalk($source);
        foreach ($walk->lines() as [$kind, $line]) {
            $of = $ids[$walk->group] ?? -1;
            if ($kind === 'f') {
                $id = is_int($of) ? $of : ($of[$walk->face] ?? -1);
                if ($this->asVertexColors) {
                    $line = $this->face($line, $id, $walk->vertices, $first);
                } elseif ($id >= 0 && $id !== $wears) {
                    fwrite($out, "usemtl $names[$id]\n");
                    $wears = $id;
                }
            } elseif ($kind === 'v') {
                // Colors that were there would be taken before materials.
                $bare = (string) preg_replace('/^(\s*v(?:\s+\S+){3})(?:\s+\S+){3}(\s*)$/s', '$1$2', $line);
                $line = $bare;
                if ($this->asVertexColors) {
                    $line = '';
                    foreach ($this->idsOf[$walk->vertices - 1] ?? [-1] as $id) {
                        $line .= $id < 0 ? $bare : rtrim($bare)."$colors[$id]\n";
                    }
                }
            } elseif ($kind === 'o' || $kind === 'g') {
                $one = $ofGroup[$walk->group] ?? null;
                if ($walk->names && $one !== null) {
                    $line = (string) preg_replace_callback('/^(\s*[og]\s+)(.*?)(\s*)$/s', static fn (array $found): string => $found[1].$one->name.$found[3], $line);
                }
            } elseif (! $this->asVertexColors && ($kind === 'mtllib' || $kind === 'usemtl')) {
                continue;
            }
            fwrite($out, $line);
        }
    }

    /**
     * The number that a vertex gets, by how many there are before it now.
     *
     * @return list<int> from 1
     */
    private function firsts(): array
    {
        $out = [];
        if ($this->asVertexColors) {
            $next = 1;
            for ($v = 0, $last = $this->idsOf === [] ? -1 : max(array_keys($this->idsOf)); $v <= $last; $v++) {
                $out[] = $next;
                $next += count($this->idsOf[$v] ?? [-1]);
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $first
     */
    private function face(string $line, int $id, int $vertices, array $first): string
    {
        return 'f '.implode(' ', array_map(function (string $corner) use ($id, $vertices, $first): string {
            [$v, $rest] = [(int) $corner, (string) strstr($corner, '/')];
            $v = $v < 0 ? $vertices + $v : $v - 1;

            return ($first[$v] + (int) array_search($id, $this->idsOf[$v], true)).$rest;
        }, self::corners($line)))."\n";
    }

    /**
     * @return list<string>
     */
    private static function corners(string $line): array
    {
        $hash = strpos($line, '#');

        return array_slice(preg_split('/[\s\\\\]+/', $hash === false ? $line : substr($line, 0, $hash), -1, PREG_SPLIT_NO_EMPTY) ?: [], 1);
    }
}
