<?php

declare(strict_types=1);

namespace Anvil\ColorId;

use Anvil\Asset\Asset;
use Anvil\Formats\Sink;
use Anvil\Geometry\Color;
use Anvil\Pairing\RoledPart;

/**
 * What tells which color stands for what: JSON, CSV, a GPL palette, and a PNG sheet to print and pick from.
 */
final readonly class Legend
{
    /**
     * @param  list<array{name: string, color: Color, parts: list<string>, material: string|null}>  $rows
     */
    private function __construct(private array $rows)
    {
    }

    /** @param  bool  $onto  parts keep their names */
    public static function ofPlan(IdPlan $plan, Asset $asset, bool $onto = false): self
    {
        $written = [];
        foreach ($plan->cut()->parts as $part) {
            $written[$part->part->name] = $onto ? $part->part->name : IdPlan::idName($part, $asset);
        }

        return new self(array_map(static fn (PlannedId $id): array => [
            'name' => $id->name, 'color' => $id->color, 'parts' => array_values(array_unique(array_map(static fn (string $part): string => $written[$part], $id->parts()))),
            'material' => $plan->sheet->by === By::Material ? $id->name : null,
        ], $plan->ids));
    }

    /** Of the IDs that were handed in; null where there are none, or too many to be flat ones. */
    public static function ofColors(IdColors $ids): ?self
    {
        return $ids->colors === [] || count($ids->colors) > ClosePairs::MOST ? null : new self(array_map(static fn (IdColor $id): array => [
            'name' => $id->name(), 'color' => $id->color, 'parts' => array_map(static fn (RoledPart $part): string => $part->part->name, $id->parts),
            'material' => $ids->source === 'materials' ? $id->name() : null,
        ], array_values($ids->colors)));
    }

    /**
     * As `legend.json` has it.
     *
     * @return array{leastDeltaE00: float|null, ids: list<array{name: string, hex: string, parts: list<string>, material?: string}>}
     */
    public function toArray(): array
    {
        $least = Palette::leastDistance(array_column($this->rows, 'color'));

        return ['leastDeltaE00' => is_finite($least) ? round($least, 4) : null, 'ids' => array_map(
            static fn (array $row): array => ['name' => $row['name'], 'hex' => $row['color']->hex(), 'parts' => $row['parts'], ...($row['material'] === null ? [] : ['material' => $row['material']])], $this->rows,
        )];
    }

    public function csv(): string
    {
        $out = "name,hex,parts\n";
        foreach ($this->toArray()['ids'] as $id) {
            $out .= implode(',', array_map(self::cell(...), [$id['name'], $id['hex'], implode(' ', $id['parts'])]))."\n";
        }

        return $out;
    }

    /** What a spreadsheet would take for a formula is text: an apostrophe stands before it. Source: OWASP, CSV Injection. */
    private static function cell(string $cell): string
    {
        $text = preg_match('/^[=+\-@\t\r]/', $cell) === 1 ? "'$cell" : $cell;

        return preg_match('/[",\n\r\t]/', $text) === 1 ? '"'.str_replace('"', '""', $text).'"' : $text;
    }

    /** The palette as GPL, a text format that several painting programs read. */
    public function gpl(): string
    {
        $out = "GIMP Palette\nName: Color IDs\nColumns: 8\n#\n";
        foreach ($this->rows as $row) {
            $out .= sprintf("%3d %3d %3d\t%s\n", $row['color']->red, $row['color']->green, $row['color']->blue, str_replace(["\r", "\n"], ' ', $row['name']));
        }

        return $out;
    }

    /** A sheet of swatches with names, to print and to pick from. */
    public function png(): string
    {
        return LegendSheet::of(array_map(static fn (array $row): array => [$row['color'], $row['name'], implode(', ', $row['parts'])], $this->rows));
    }

    /**
     * @return array<string, string> file name → content
     */
    public function files(): array
    {
        $json = json_encode($this->toArray(), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR)."\n";

        return ['legend.json' => $json, 'legend.csv' => $this->csv(), 'palette.gpl' => $this->gpl(), 'legend.png' => $this->png()];
    }

    public function write(Sink $sink): void
    {
        foreach ($this->files() as $name => $content) {
            $stream = $sink->open($name);
            fwrite($stream, $content);
            fclose($stream);
        }
    }
}
