<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Geometry\Color;
use Anvil\Pairing\RoledPart;
use Anvil\Standard\Pattern;
use Anvil\Standard\Role;
use Anvil\Unreadable;
use LogicException;

/**
 * The IDs of an asset as they are to be written: which piece of the high poly wears which, and their colors.
 *
 * A sheet that was kept gives its IDs to the pieces that it knows, by key or, where a part was renamed, by shape; other pieces get an ID each.
 * Colors that a studio has for a name come first, then those of the sheet; the rest is spread around them, those that touch furthest apart.
 */
final readonly class IdPlan
{
    /**
     * @param  list<PlannedId>  $ids
     * @param  list<int>  $idOf  of each piece
     * @param  list<array{int, int}>  $touching  IDs that touch
     * @param  float  $leastBefore  ΔE00 between those that touch, had colors been given in order
     */
    private function __construct(private ?PieceCut $pieces, public IdSheet $sheet, public array $ids, public array $idOf, public array $touching, public float $leastBefore)
    {
    }

    /**
     * @throws Unreadable where there are more IDs than can be told apart
     */
    public static function of(Asset $asset, IdSheet $sheet): self
    {
        $cut = PieceCut::of($asset, $sheet->by, $sheet->angle);

        return self::ofPieces($cut->pieces(), self::touching($cut, $asset), $sheet, $cut);
    }

    /**
     * Pieces that touch.
     *
     * @return list<array{int, int}>
     */
    public static function touching(PieceCut $cut, Asset $asset): array
    {
        $bodies = [];
        foreach ($cut->parts as $number => $part) {
            $bodies[] = [$part->part->mesh, $cut->ofPart($number)];
        }

        return TouchGraph::of($bodies, ClosePairs::NEAR * $asset->diagonal());
    }

    /**
     * The same where the high poly was cut before.
     *
     * @param  list<Piece>  $pieces
     * @param  list<array{int, int}>  $touchingPieces
     * @param  PieceCut|null  $cut  needed to write files, and for remarks
     *
     * @throws Unreadable
     */
    public static function ofPieces(array $pieces, array $touchingPieces, IdSheet $sheet, ?PieceCut $cut = null): self
    {
        [$names, $idOf, $kept] = self::named($pieces, $sheet);
        $count = count($names);
        if ($count > Palette::MOST) {
            throw Unreadable::because("by {$sheet->by->value} there are $count IDs, and no more than ".Palette::MOST.' can be told apart; '.match ($sheet->by) {
                By::Region => 'take a larger angle, or give IDs by part', By::Shell => 'give IDs by part or by set', default => 'give IDs by material or by set',
            });
        }
        $touching = [];
        foreach ($touchingPieces as [$one, $two]) {
            [$a, $b] = [min($idOf[$one], $idOf[$two]), max($idOf[$one], $idOf[$two])];
            if ($a !== $b) {
                $touching["$a $b"] = [$a, $b];
            }
        }
        ksort($touching, SORT_NATURAL);
        $touching = array_values($touching);
        $colors = $pinned = [];
        foreach ($names as $id => $name) {
            $colors[$id] = $kept[$id]?->color;
            $pinned[$id] = $kept[$id]->pinned ?? false;
            foreach ($sheet->pins as $pattern => $color) {
                if (Pattern::anyFits([(string) $pattern], $name)) {
                    [$colors[$id], $pinned[$id]] = [$color, true];
                    break;
                }
            }
        }
        $fixed = array_filter($colors, static fn (?Color $color): bool => $color !== null);
        $new = Palette::spread($count - count($fixed), array_values($fixed), $sheet->allEyes);
        $all = [];
        foreach ($colors as $id => $color) {
            $all[$id] = $color ?? array_shift($new) ?? Color::of(0, 0, 0);
        }
        $all = array_values($all);
        $before = Assignment::leastTouching($all, $touching);
        $all = count($fixed) === $count ? $all : Assignment::apart($all, array_fill_keys(array_keys($fixed), true), $touching, $sheet->allEyes);
        $of = array_fill(0, max(1, $count), []);
        foreach ($pieces as $number => $piece) {
            $of[$idOf[$number]][] = $piece;
        }
        $ids = [];
        foreach ($names as $id => $name) {
            $ids[] = new PlannedId($name, $all[$id], $pinned[$id], $of[$id]);
        }

        return new self($cut, $sheet, $ids, $idOf, $touching, $before);
    }

    /** @throws LogicException where it was made of pieces alone */
    public function cut(): PieceCut
    {
        return $this->pieces ?? throw new LogicException('the high poly was not cut for this plan');
    }

    /** The sheet that gives this plan again. */
    public function kept(): IdSheet
    {
        $shapes = [];
        foreach ($this->ids as $id) {
            foreach ($id->pieces as $piece) {
                if ($piece->shape !== null) {
                    $shapes[$piece->key] = $piece->shape;
                }
            }
        }

        return new IdSheet($this->sheet->by, $this->sheet->angle, $this->sheet->allEyes, $this->sheet->pins, array_map(
            static fn (PlannedId $id): SheetId => new SheetId($id->name, $id->color, $id->pinned, array_map(static fn (Piece $piece): string => $piece->key, $id->pieces)), $this->ids,
        ), $shapes);
    }

    /**
     * Of a high part by its number: its ID, or the ID of each triangle.
     *
     * @return int|list<int>
     */
    public function ofPart(int $number): int|array
    {
        $of = $this->cut()->ofPart($number);
        if (is_int($of)) {
            return $this->idOf[$of];
        }
        $ids = array_map(fn (int $piece): int => $this->idOf[$piece], $of);

        return $ids !== [] && count(array_unique($ids)) === 1 ? $ids[0] : $ids;
    }

    /**
     * @return list<Color>
     */
    public function colors(): array
    {
        return array_map(static fn (PlannedId $id): Color => $id->color, $this->ids);
    }

    /** The least ΔE00 between any two; INF for one alone. */
    public function leastDistance(): float
    {
        return Palette::leastDistance($this->colors());
    }

    /** The least ΔE00 between two that touch; INF where none do. */
    public function leastTouching(): float
    {
        return Assignment::leastTouching($this->colors(), $this->touching);
    }

    /**
     * What the material of each ID is called in files: no blanks, none twice.
     *
     * @return list<string>
     */
    public function materialNames(): array
    {
        $out = $taken = [];
        foreach ($this->ids as $id) {
            $wanted = $name = 'id_'.(string) preg_replace('/\s+/', '_', $id->name);
            for ($k = 2; isset($taken[$name]); $k++) {
                $name = "$wanted-$k";
            }
            $taken[$name] = true;
            $out[] = $name;
        }

        return $out;
    }

    /**
     * What whoever gives these IDs should know, in words.
     *
     * @return list<string>
     */
    public function remarks(): array
    {
        $out = [];
        foreach ($this->cut()->coarse() as $part => $cells) {
            $out[] = "$part turns by more than {$this->sheet->angle}° at too many edges: it was cut on a coarser shape of $cells cells along its longest side";
        }
        $byCase = $colors = [];
        foreach ($this->cut()->parts as $part) {
            foreach ($part->part->mesh->materials as $material) {
                $byCase[mb_strtolower($material)][$material] = true;
            }
            foreach ($part->part->colors as $material => $hex) {
                $colors[$material][$hex] ??= $part->path;
            }
        }
        foreach ($this->cut()->by === By::Material ? $byCase : [] as $names) {
            if (count($names) > 1) {
                $out[] = 'the materials '.implode(' and ', array_map(strval(...), array_keys($names))).' differ in letter case only; each has an ID';
            }
        }
        foreach ($this->cut()->by === By::Material || $this->cut()->by === By::Colors ? $colors : [] as $material => $of) {
            if (count($of) > 1) {
                $out[] = "the material $material is ".implode(' and ', array_map(static fn (string $hex, string $path): string => "$hex in $path", array_map(strval(...), array_keys($of)), $of));
            }
        }
        foreach (array_keys($this->sheet->pins) as $pattern) {
            if (array_filter($this->ids, static fn (PlannedId $id): bool => Pattern::anyFits([(string) $pattern], $id->name)) === []) {
                $out[] = "no ID is named $pattern, which a color is fixed for";
            }
        }

        return $out;
    }

    /** What a high part is called in an ID file of its own. */
    public static function idName(RoledPart $part, Asset $asset): string
    {
        return $part->base.$asset->standard->suffixFor(Role::Id);
    }

    /**
     * Which ID each piece has: names of IDs, the ID of each piece, and what was kept of each ID.
     *
     * @param  list<Piece>  $pieces
     * @return array{list<string>, list<int>, list<SheetId|null>}
     */
    private static function named(array $pieces, IdSheet $sheet): array
    {
        $byKey = $byShape = $here = [];
        foreach ($pieces as $piece) {
            $here[$piece->key] = true;
        }
        foreach ($sheet->ids as $id) {
            foreach ($id->pieces as $key) {
                $byKey[$key] = $id;
                // A part that is gone under its name is looked for under another; not where two have one shape.
                $shape = isset($here[$key]) ? null : ($sheet->shapes[$key] ?? null);
                if ($shape !== null) {
                    $byShape[$shape] = isset($byShape[$shape]) ? false : $id;
                }
            }
        }
        $shapes = array_count_values(array_filter(array_map(static fn (Piece $piece): ?string => isset($byKey[$piece->key]) ? null : $piece->shape, $pieces), is_string(...)));
        $numbers = $names = $idOf = $kept = [];
        foreach ($pieces as $piece) {
            $renamed = $piece->shape !== null && ($shapes[$piece->shape] ?? 0) === 1 ? ($byShape[$piece->shape] ?? false) : false;
            $id = $byKey[$piece->key] ?? ($renamed === false ? null : $renamed);
            if ($id !== null && isset($numbers[spl_object_id($id)])) {
                $idOf[] = $numbers[spl_object_id($id)];

                continue;
            }
            $idOf[] = count($names);
            if ($id !== null) {
                $numbers[spl_object_id($id)] = count($names);
            }
            $names[] = $id->name ?? null;
            $kept[] = $id;
        }
        // New ones are called as their piece, apart from all that have a name already.
        $taken = array_fill_keys(array_filter($names, is_string(...)), true);
        foreach ($names as $number => $name) {
            if ($name === null) {
                $wanted = $pieces[(int) array_search($number, $idOf, true)]->name;
                for ($k = 2, $name = $wanted; isset($taken[$name]); $k++) {
                    $name = "$wanted-$k";
                }
                $taken[$name] = true;
                $names[$number] = $name;
            }
        }

        return [array_map(strval(...), $names), $idOf, $kept];
    }
}
