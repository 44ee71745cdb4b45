<?php

declare(strict_types=1);

namespace Anvil\Proof;

use Anvil\Cage\CageFit;
use Anvil\Cage\HeldCage;
use Anvil\ColorId\IdColors;
use Anvil\ColorId\LabelsByPlace;
use Anvil\Geometry\Bounds;
use Anvil\Geometry\Mesh;
use Anvil\Pairing\RoledPart;
use Anvil\Rays\SetSurfaces;
use Anvil\Sets\BakeSet;
use Anvil\Standard\Role;
use Closure;
use LogicException;

/**
 * A small bake of one page, so that what a large one will give is seen before (METHODS, "Proof").
 */
final class TrialBake
{
    /** @var array<string, SetSurfaces> by set */
    private array $surfaces = [];

    /** @var array<string, list<float>|null> by set */
    private array $cages = [];

    /** @var array<string, TexelRays|string> by set; why there are none */
    private array $rays = [];

    /** @var array<int, CornerNormals> by mesh */
    private array $normals = [];

    /** @var array<int, list<float>> tangents of corners, xyzw, by mesh */
    private array $tangents = [];

    /** @var array<string, list<string|null>> colors of the high triangles of a set */
    private array $colors = [];

    /** @var array<string, Sky> by set */
    private array $skies = [];

    /** @var array<string, HardEdges> by set */
    private array $hard = [];

    /** @var array<int, array{BakeSet, int}> low part → its set, and its first triangle in the set's surface; by object number */
    private array $setOf = [];

    /** @var array<string, CageFit>|null */
    private ?array $fits = null;

    private ?IdColors $ids = null;

    /** @var array{normal: bool, ao: bool, id: bool, height: bool, hard: bool, rays: bool} */
    private array $wanted = ['normal' => true, 'ao' => true, 'id' => true, 'height' => true, 'hard' => false, 'rays' => false];

    /** Rays that are to be shot, about. */
    private int $count = 65_536;

    public function __construct(private readonly TrialInputs $inputs, private readonly Through $through = Through::InUse, private readonly int $directions = 64, private readonly bool $exploded = false)
    {
        foreach ($inputs->asset->sets as $set) {
            $first = 0;
            foreach ($set->low as $part) {
                $this->setOf[spl_object_id($part)] = [$set, $first];
                $first += $part->part->mesh->triangleCount();
            }
        }
    }

    /**
     * @param  int  $size  texels a side
     * @param  int  $samples  1 or 4 a texel
     * @param  list<string>  $kinds  of TrialMaps::KINDS, and `rays`
     * @param  bool  $marksHard  whether texels near hard edges of the high poly are told
     * @param  Closure(int, int): void|null  $progress  rows done, of all
     */
    public function page(ProofPage $page, int $size, int $samples = 1, array $kinds = TrialMaps::KINDS, bool $marksHard = false, ?Closure $progress = null): TrialMaps
    {
        $owners = PageRaster::owners($page->uvs, $size);
        $fine = $samples === 4 ? PageRaster::owners($page->uvs, 2 * $size) : null;
        $this->wants($kinds, $marksHard, $samples * $size * $size);
        $normal = $height = $ao = $id = $miss = $atHard = $met = [];
        for ($y = 0; $y < $size; $y++) {
            $progress?->__invoke($y, $size);
            for ($x = 0; $x < $size; $x++) {
                $texel = $y * $size + $x;
                $owner = $owners[$texel];
                if ($owner < 0) {
                    continue;
                }
                $worst = $hits = 0;
                [$sx, $sy, $sz, $sh, $sa] = [0.0, 0.0, 0.0, 0.0, 0.0];
                foreach ($fine === null ? [[$owner, ($x + 0.5) / $size, 1.0 - ($y + 0.5) / $size]] : self::inside($page, $fine, $owner, $x, $y, $size) as [$triangle, $u, $v]) {
                    $one = $this->place($page, $triangle, $u, $v);
                    $worst = max($worst, $one['miss']);
                    if ($one['normal'] === null) {
                        continue;
                    }
                    $hits++;
                    $sx += $one['normal'][0];
                    $sy += $one['normal'][1];
                    $sz += $one['normal'][2];
                    $sh += $one['height'];
                    $sa += $one['ao'];
                    if ($one['id'] !== null) {
                        $id[$texel] ??= $one['id'];
                    }
                    if ($this->wanted['rays']) {
                        $met[$texel] ??= $one['ray'];
                    }
                    if ($one['atHard']) {
                        $atHard[$texel] = true;
                    }
                }
                $miss[$texel] = $worst;
                if ($hits === 0) {
                    continue;
                }
                if ($this->wanted['normal']) {
                    $length = sqrt($sx * $sx + $sy * $sy + $sz * $sz);
                    $normal[$texel] = $length > 1e-12 ? [$sx / $length, $sy / $length, $sz / $length] : [0.0, 0.0, 1.0];
                }
                if ($this->wanted['height']) {
                    $height[$texel] = $sh / $hits;
                }
                if ($this->wanted['ao']) {
                    $ao[$texel] = $sa / $hits;
                }
            }
        }

        return new TrialMaps($page, $size, $owners, $normal, $height, $ao, $id, $miss, $atHard, $this->notShot($page), $met);
    }

    /**
     * Sets of a page whose rays are not shot, and why.
     *
     * @return array<string, string>
     */
    private function notShot(ProofPage $page): array
    {
        $out = [];
        foreach ($page->parts as $part) {
            [$set] = $this->setOf[spl_object_id($part)] ?? [null];
            $rays = $set === null ? 'it is in no set' : $this->raysOf($set, 1);
            if (is_string($rays)) {
                $out[$set->name ?? $part->part->name] = $rays;
            }
        }

        return $out;
    }

    /**
     * What `place` is to find out.
     *
     * @param  list<string>  $kinds  of TrialMaps::KINDS
     * @param  int  $count  places
     */
    public function wants(array $kinds, bool $marksHard, int $count): void
    {
        $this->wanted = ['normal' => in_array('normal', $kinds, true), 'ao' => in_array('ao', $kinds, true), 'id' => in_array('id', $kinds, true), 'height' => in_array('height', $kinds, true), 'hard' => $marksHard, 'rays' => in_array('rays', $kinds, true)];
        $this->count = $count;
    }

    /**
     * What one ray gives, from a place of the page: only what is wanted is worked out.
     *
     * @return array{miss: int, normal: array{float, float, float}|null, height: float, ao: float, id: string|null, atHard: bool, ray: array{float, float, float, float, float, float}} normal null where nothing was met, its green by the standard; ray from the low point to the high point
     */
    public function place(ProofPage $page, int $triangle, float $u, float $v): array
    {
        $none = ['miss' => TexelRays::MISS, 'normal' => null, 'height' => 0.0, 'ao' => 1.0, 'id' => null, 'atHard' => false, 'ray' => [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]];
        $part = $page->parts[$page->partOf[$triangle]];
        $t = $page->triangles[$triangle];
        [$set, $first] = $this->setOf[spl_object_id($part)] ?? [null, 0];
        $rays = $set === null ? '' : $this->raysOf($set, $this->count);
        if ($set === null || is_string($rays)) {
            return $none;
        }
        [$a, $b, $c] = $page->corners($triangle, $u, $v);
        $kind = $rays->shoot($first + $t, $a, $b, $c);
        if ($rays->triangle < 0) {
            return $none;
        }
        [$hx, $hy, $hz] = $this->hitNormal($rays, $rays->corners());
        [$x, $y, $z] = [$rays->px + $rays->t * $rays->nx, $rays->py + $rays->t * $rays->ny, $rays->pz + $rays->t * $rays->nz];
        $normal = [0.0, 0.0, 1.0];
        if ($this->wanted['normal']) {
            $normal = $this->tangentSpace($part->part->mesh, $t, $a, $b, $c, $hx, $hy, $hz);
            if ($this->inputs->asset->standard->greenChannel === '-Y') {
                $normal[1] = -$normal[1];
            }
        }
        $ao = 1.0;
        if ($this->wanted['ao']) {
            $off = 1e-4 * $rays->d;
            $ao = $this->skyOf($set)->seen($x + $off * $hx, $y + $off * $hy, $z + $off * $hz, $hx, $hy, $hz);
        }

        return [
            'miss' => $kind, 'normal' => $normal, 'height' => $rays->t / $rays->full(), 'ao' => $ao,
            'id' => $this->wanted['id'] ? $this->colorsOf($rays->other < 0 ? $set : $this->named($rays->others[$rays->other]->name))[$rays->triangle] ?? null : null,
            'atHard' => $this->wanted['hard'] && $rays->other < 0 && $this->hardOf($set)->isNear($x, $y, $z), 'ray' => [$rays->px, $rays->py, $rays->pz, $x, $y, $z],
        ];
    }

    /**
     * The places of a 2×2 grid in a texel that lie on its island.
     *
     * @param  list<int>  $fine  owners at twice the size
     * @return list<array{int, float, float}> triangle of the page, u, v
     */
    private static function inside(ProofPage $page, array $fine, int $owner, int $x, int $y, int $size): array
    {
        $out = [];
        foreach ([[0, 0], [1, 0], [0, 1], [1, 1]] as [$dx, $dy]) {
            $triangle = $fine[(2 * $y + $dy) * 2 * $size + 2 * $x + $dx];
            if ($triangle >= 0 && $page->islands[$triangle] === $page->islands[$owner]) {
                $out[] = [$triangle, (2 * $x + $dx + 0.5) / (2 * $size), 1.0 - (2 * $y + $dy + 0.5) / (2 * $size)];
            }
        }

        // An island so thin that only the centre lies on it.
        return $out === [] ? [[$owner, ($x + 0.5) / $size, 1.0 - ($y + 0.5) / $size]] : $out;
    }

    /** Whose rays are shot from a part; why not, in words. */
    public function raysOf(BakeSet $set, int $count): TexelRays|string
    {
        return $this->rays[$set->name] ??= $this->made($set, $count);
    }

    private function made(BakeSet $set, int $count): TexelRays|string
    {
        if (! $set->isWhole()) {
            return 'it has no high poly';
        }
        $measured = $this->inputs->clearances[$set->name] ?? null;
        if ($measured === null) {
            return $this->inputs->notMeasured[$set->name] ?? 'its rays were not shot';
        }
        $standard = $this->inputs->asset->standard;
        $others = [];
        if (! $standard->rays->setsKeptApart) {
            $near = $set->lowBounds()?->grown($measured->d);
            foreach ($this->inputs->asset->sets as $other) {
                if ($other->name !== $set->name && $other->target() !== [] && $near !== null && RoledPart::boundsOf($other->target())?->meets($near) === true) {
                    $others[] = $this->surfacesOf($other);
                }
            }
        }

        return new TexelRays($this->surfacesOf($set), $others, $standard->rays, $measured->inUse(), $this->cageOf($set), $measured->d, $count);
    }

    private function surfacesOf(BakeSet $set): SetSurfaces
    {
        return $this->surfaces[$set->name] ??= $this->inputs->surfaces[$set->name] ?? SetSurfaces::of($set, $this->inputs->asset->standard->rays->smooth);
    }

    /**
     * @return list<float>|null
     */
    private function cageOf(BakeSet $set): ?array
    {
        if (! array_key_exists($set->name, $this->cages)) {
            $this->cages[$set->name] = match ($this->through) {
                Through::Reach => null,
                Through::InUse => $set->cage === [] ? null : HeldCage::positions($set),
                Through::Fitted => ($this->fits ??= CageFit::ofAll($this->inputs->asset, $this->inputs->clearances))[$set->name]->positions ?? null,
            };
        }

        return $this->cages[$set->name];
    }

    private function named(string $name): BakeSet
    {
        foreach ($this->inputs->asset->sets as $set) {
            if ($set->name === $name) {
                return $set;
            }
        }
        throw new LogicException("there is no set $name");
    }

    private function normalsOf(Mesh $mesh): CornerNormals
    {
        return $this->normals[spl_object_id($mesh)] ??= CornerNormals::of($mesh);
    }

    /**
     * The interpolated normal of what the last ray met, unit.
     *
     * @param  array{float, float, float}  $at
     * @return array{float, float, float}
     */
    private function hitNormal(TexelRays $rays, array $at): array
    {
        [$mesh, $t] = self::meshOf($rays->other < 0 ? $rays->set : $rays->others[$rays->other], $rays->triangle);
        [$x, $y, $z] = $this->normalsOf($mesh)->at($t, ...$at);
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, 1.0];
    }

    /**
     * The mesh that a triangle of a high surface is of, and its number there.
     *
     * @return array{Mesh, int}
     */
    private static function meshOf(SetSurfaces $surfaces, int $triangle): array
    {
        $high = $surfaces->high();
        $part = count($high->parts) > 1 ? $high->partOf($triangle) : 0;

        return [$surfaces->highMeshes()[$part], $triangle - $high->parts[$part]];
    }

    /**
     * A world normal in the tangent space of a low triangle: `x·t + y·b + z·n` made unit is it again, with t, b = w·(n×t) and n interpolated from the corners.
     *
     * @return array{float, float, float} unit
     */
    private function tangentSpace(Mesh $mesh, int $t, float $u, float $v, float $w, float $hx, float $hy, float $hz): array
    {
        $id = spl_object_id($mesh);
        $normals = $this->normalsOf($mesh);
        $tangents = $this->tangents[$id] ??= Tangents::of($mesh, $normals);
        [$nx, $ny, $nz, $tx, $ty, $tz, $bx, $by, $bz] = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $i = 12 * $t;
        foreach ([$u, $v, $w] as $k => $share) {
            [$x, $y, $z] = $normals->corner($t, $k);
            [$p, $q, $r, $s] = [$tangents[$i], $tangents[$i + 1], $tangents[$i + 2], $share * $tangents[$i + 3]];
            $i += 4;
            $nx += $share * $x;
            $ny += $share * $y;
            $nz += $share * $z;
            $tx += $share * $p;
            $ty += $share * $q;
            $tz += $share * $r;
            $bx += $s * ($y * $r - $z * $q);
            $by += $s * ($z * $p - $x * $r);
            $bz += $s * ($x * $q - $y * $p);
        }
        // Cramer: N·(b×n), N·(n×t), N·(t×b) over the determinant.
        [$cx, $cy, $cz] = [$by * $nz - $bz * $ny, $bz * $nx - $bx * $nz, $bx * $ny - $by * $nx];
        $det = $tx * $cx + $ty * $cy + $tz * $cz;
        if (abs($det) < 1e-12) {
            return [0.0, 0.0, 1.0];
        }
        $x = ($hx * $cx + $hy * $cy + $hz * $cz) / $det;
        $y = ($hx * ($ny * $tz - $nz * $ty) + $hy * ($nz * $tx - $nx * $tz) + $hz * ($nx * $ty - $ny * $tx)) / $det;
        $z = ($hx * ($ty * $bz - $tz * $by) + $hy * ($tz * $bx - $tx * $bz) + $hz * ($tx * $by - $ty * $bx)) / $det;
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$x / $length, $y / $length, $z / $length] : [0.0, 0.0, 1.0];
    }

    /**
     * The flat ID color of each triangle of a set's high surface.
     *
     * @return list<string|null>
     */
    private function colorsOf(BakeSet $set): array
    {
        if (isset($this->colors[$set->name])) {
            return $this->colors[$set->name];
        }
        $this->ids ??= ($this->inputs->ids)();
        $hexes = array_map(strval(...), array_keys($this->ids->colors));
        $byBase = [];
        foreach ($this->ids->source === 'id file' ? $this->inputs->asset->judged(Role::Id) : [] as $part) {
            $byBase[$part->base][] = $part;
        }
        $out = [];
        foreach ($set->target() as $part) {
            if ($this->ids->source === 'id file') {
                $copies = [];
                foreach ($byBase[$part->base] ?? [] as $id) {
                    $labels = $this->ids->labels($id);
                    if ($labels !== null) {
                        $copies[] = [$id->part->mesh, $labels[0]];
                    }
                }
                $labels = LabelsByPlace::of($part->part->mesh, $copies);
            } else {
                $labels = ($this->ids->source === 'none' ? null : $this->ids->labels($part))[0] ?? array_fill(0, $part->part->mesh->triangleCount(), -1);
            }
            foreach ($labels as $label) {
                $out[] = $hexes[$label] ?? null;
            }
        }

        return $this->colors[$set->name] = $out;
    }

    /** What shades a set: its own high poly, all, or that of the sets that the choices name. */
    private function skyOf(BakeSet $set): Sky
    {
        if (isset($this->skies[$set->name])) {
            return $this->skies[$set->name];
        }
        $vectors = $this->exploded ? ($this->inputs->vectors)() : [];
        $own = $vectors[$set->name] ?? [0.0, 0.0, 0.0];
        $casters = $bounds = [];
        foreach ($this->inputs->asset->sets as $other) {
            if ($other->target() === [] || ($other->name !== $set->name && ! $this->shades($other, $set))) {
                continue;
            }
            $move = $vectors[$other->name] ?? [0.0, 0.0, 0.0];
            $by = [$move[0] - $own[0], $move[1] - $own[1], $move[2] - $own[2]];
            $surfaces = $this->surfacesOf($other);
            $casters[] = [$surfaces->high()->treeFor(intdiv($this->directions * $this->count, 2)), $by];
            $bounds[] = $surfaces->highBounds()?->moved($by);
        }

        return $this->skies[$set->name] = new Sky($casters, Bounds::union($bounds), $this->directions);
    }

    private function shades(BakeSet $other, BakeSet $set): bool
    {
        $choice = $this->inputs->asset->choices->occlusion;

        return $choice === 'all' || (is_array($choice) && in_array($other->name, $choice[$set->name] ?? [], true));
    }

    private function hardOf(BakeSet $set): HardEdges
    {
        return $this->hard[$set->name] ??= HardEdges::of($set->target(), 0.01 * ($set->lowBounds()?->diagonal() ?? 0.0));
    }
}
