<?php

declare(strict_types=1);

namespace Anvil\Pairing;

use Anvil\Inspection\Inspection;
use Anvil\Standard\Role;

/**
 * Which parts get which new names, why, and what stands in the way.
 */
final readonly class RenamePlan
{
    /**
     * @param  list<array{file: string, number: int, from: string, to: string, reason: string}>  $rows
     * @param  list<string>  $clashes  in words
     */
    private function __construct(public array $rows, public array $clashes)
    {
    }

    /** What would mend the ties. */
    public static function suggested(Inspection $inspection): self
    {
        $rows = [];
        foreach ($inspection->pairing->suggestions as $suggestion) {
            $rows[] = [$suggestion->part, $suggestion->rename, $suggestion->reason];
        }

        return self::of($inspection, $rows);
    }

    public static function replacing(Inspection $inspection, string $find, string $replace): self
    {
        $rows = [];
        foreach ($inspection->parts as $part) {
            if (str_contains($part->part->name, $find)) {
                $rows[] = [$part, str_replace($find, $replace, $part->part->name), "$find replaced by $replace"];
            }
        }

        return self::of($inspection, $rows);
    }

    public static function addingSuffixes(Inspection $inspection): self
    {
        $rows = [];
        foreach ($inspection->judged() as $part) {
            if (($part->role === Role::Low || $part->role === Role::High) && $part->suffixState() !== SuffixState::Exact) {
                $rows[] = [$part, $part->base.$inspection->standard->suffixFor($part->role), "the {$part->role->value} suffix added"];
            }
        }

        return self::of($inspection, $rows);
    }

    /**
     * Renames by hand.
     *
     * @param  array<int, array<string, string>>  $renames  file number → part → new name
     */
    public static function byHand(Inspection $inspection, array $renames): self
    {
        $rows = [];
        foreach ($inspection->parts as $part) {
            $new = $renames[$part->file][$part->part->name] ?? null;
            if ($new !== null && $new !== $part->part->name) {
                $rows[] = [$part, $new, 'by hand'];
            }
        }

        return self::of($inspection, $rows);
    }

    /**
     * @return array<string, string> old → new, of one file
     */
    public function namesIn(int $file): array
    {
        $out = [];
        foreach ($this->rows as $row) {
            if ($row['number'] === $file) {
                $out[$row['from']] = $row['to'];
            }
        }

        return $out;
    }

    /**
     * @return array{plan: list<array{file: string, from: string, to: string, reason: string}>, clashes: list<string>}
     */
    public function toArray(): array
    {
        return [
            'plan' => array_map(static fn (array $row): array => ['file' => $row['file'], 'from' => $row['from'], 'to' => $row['to'], 'reason' => $row['reason']], $this->rows),
            'clashes' => $this->clashes,
        ];
    }

    /**
     * @param  list<array{RoledPart, string, string}>  $wanted
     */
    private static function of(Inspection $inspection, array $wanted): self
    {
        $rows = [];
        $clashes = [];
        $new = [];
        foreach ($wanted as [$part, $to, $reason]) {
            $rows[] = ['file' => $part->path, 'number' => $part->file, 'from' => $part->part->name, 'to' => $to, 'reason' => $reason];
            $new[$part->file][$part->part->name] = $to;
            if ($to === '' || preg_match('/[\x00-\x1f\x7f]|^\s|\s$/', $to) === 1 || strlen($to) > 255) {
                $clashes[] = "\"$to\" cannot be a name: it is empty, too long, or holds control characters or blanks at its ends";
            }
            if ($part->part->name === pathinfo($part->path, PATHINFO_FILENAME) && self::isNamedByFile($inspection, $part)) {
                $clashes[] = "{$part->part->name} is named by its file, which holds no object name; rename the file instead";
            }
        }
        $seen = [];
        foreach ($inspection->parts as $part) {
            $name = $new[$part->file][$part->part->name] ?? $part->part->name;
            $key = $part->file.' '.$name;
            if (isset($seen[$key]) && ($seen[$key] !== $part->part->name)) {
                $clashes[] = "$name would be the name of both {$seen[$key]} and {$part->part->name} in ".basename($part->path);
            }
            $seen[$key] = $part->part->name;
        }

        return new self($rows, $clashes);
    }

    private static function isNamedByFile(Inspection $inspection, RoledPart $part): bool
    {
        return in_array('named by the file', $inspection->files[$part->file]->scene->remarks ?? [], true);
    }
}
