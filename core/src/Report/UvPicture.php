<?php

declare(strict_types=1);

namespace Anvil\Report;

use Anvil\Formats\Png\PngWriter;
use Anvil\Geometry\Mesh;
use Anvil\Measures\Measures;
use Anvil\Standard\Role;
use Anvil\Surface\LowEdges;
use Anvil\Surface\UvIslands;

/**
 * The UV pages as pictures, side by side: islands filled by texel density, borders, hard edges, overlaps hatched, gaps under the padding with their measure, names.
 */
final class UvPicture
{
    private const PAGE = 1000;

    private const ROOM = 40;

    /** Less dense than usual, usual, denser: told apart in gray as well. */
    private const SCALE = ['#C9A66B', '#D9DDD6', '#6E97A8'];

    /**
     * @param  list<array{int, int, Mesh}>  $where  page, first island and mesh of each low part
     */
    private function __construct(private readonly UvSheet $sheet, private readonly array $where)
    {
    }

    public static function of(Measures $measures): self
    {
        $sheet = UvSheet::of($measures, false);
        $where = [];
        $first = 0;
        $counts = array_count_values(array_column($sheet->islands, 'part'));
        foreach ($measures->asset->judged(Role::Low) as $number => $part) {
            $where[] = [$number, $first, $part->part->mesh];
            $first += $counts[$number] ?? 0;
        }

        return new self($sheet, $where);
    }

    /** Scalable: a group a page, each 1000 units wide. */
    public function svg(): string
    {
        $pages = max(1, count($this->sheet->pages));
        $width = $pages * (self::PAGE + self::ROOM) + self::ROOM;
        $height = self::PAGE + 2 * self::ROOM;
        $out = ["<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 $width $height\" width=\"$width\" height=\"$height\" font-family=\"sans-serif\">"];
        $out[] = '<defs><pattern id="twice" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="3" height="8" fill="#8E2A7B"/></pattern></defs>';
        $out[] = '<rect width="100%" height="100%" fill="#FFFFFF"/>';
        foreach ($this->sheet->pages as $number => $page) {
            $x = self::ROOM + $number * (self::PAGE + self::ROOM);
            $out[] = '<g class="page" data-name="'.self::text($page['name'])."\" transform=\"translate($x ".self::ROOM.')">';
            $out[] = '<text x="0" y="-10" font-size="16">'.self::text($page['name']).'</text>';
            $out[] = '<rect width="1000" height="1000" fill="#F6F3EC" stroke="#22303A"/>';
            foreach ($this->filled($number) as [$island, $path]) {
                $out[] = '<path class="island" data-part="'.self::text($this->sheet->parts[$this->sheet->islands[$island]['part']]).'" d="'.$path.'" fill="'.$this->colorOf($island).'"/>';
            }
            foreach ($this->lines($number) as $kind => $path) {
                $out[] = $path === '' ? '' : "<path class=\"$kind\" d=\"$path\" fill=\"none\" stroke=\"".($kind === 'hard' ? '#B8623B" stroke-width="2.5"' : '#22303A" stroke-width="1"').'/>';
            }
            foreach ($page['regions'] as $outline) {
                $out[] = '<path class="overlap" d="'.self::path($outline).'" fill="url(#twice)"/>';
            }
            foreach ($page['gaps'] as $gap) {
                [$a, $b, $c, $d] = self::placed($gap['ends']);
                $out[] = "<path class=\"gap\" d=\"M$a {$b}L$c $d\" stroke=\"#8E2A7B\" stroke-width=\"3\"/>";
                $out[] = '<text class="gap" x="'.round(($a + $c) / 2 + 5, 2).'" y="'.round(($b + $d) / 2 - 3, 2).'" font-size="11" fill="#8E2A7B">'.round($gap['px'], 1).' px</text>';
            }
            $named = [];
            foreach ($this->sheet->islands as $one) {
                // The largest island of a part bears its name.
                if ($one['page'] === $number && self::spanOf($one['box']) > self::spanOf($named[$one['part']] ?? [0.0, 0.0, 0.0, 0.0])) {
                    $named[$one['part']] = $one['box'];
                }
            }
            foreach ($named as $part => $box) {
                [$a, $b, $c, $d] = self::placed($box);
                $out[] = '<text class="name" x="'.round(($a + $c) / 2, 1).'" y="'.round(($b + $d) / 2 + 4, 1).'" font-size="12" text-anchor="middle">'.self::text($this->sheet->parts[$part]).'</text>';
            }
            $out[] = '</g>';
        }
        $out[] = '</svg>';

        return implode("\n", array_filter($out, static fn (string $line): bool => $line !== ''))."\n";
    }

    /**
     * Pixels: each page a square of a size, side by side. Names and measures are left to the scalable one.
     *
     * @param  int  $size  px, 64 to 8192
     */
    public function png(int $size): string
    {
        $pages = max(1, count($this->sheet->pages));
        $rows = array_fill(0, $size, str_repeat("\xF6\xF3\xEC", $pages * $size));
        foreach ($this->sheet->pages as $number => $page) {
            $left = $number * $size;
            foreach ($this->triangles($number) as [$island, $uv]) {
                self::fill($rows, $uv, $size, $left, self::rgb($this->colorOf($island)), false);
            }
            foreach ($page['regions'] as $outline) {
                for ($k = 2; $k + 3 < count($outline); $k += 2) {
                    self::fill($rows, [$outline[0], $outline[1], $outline[$k], $outline[$k + 1], $outline[$k + 2], $outline[$k + 3]], $size, $left, self::rgb('#8E2A7B'), true);
                }
            }
            foreach ($this->segments($number) as [$isHard, $ends]) {
                self::line($rows, $ends, $size, $left, self::rgb($isHard ? '#B8623B' : '#22303A'));
            }
            foreach ($page['gaps'] as $gap) {
                self::line($rows, $gap['ends'], $size, $left, self::rgb('#8E2A7B'));
            }
        }

        return PngWriter::rgb($pages * $size, $size, $rows);
    }

    private function colorOf(int $island): string
    {
        $density = $this->sheet->islands[$island]['density'];
        $at = $this->sheet->reference > 0.0 && $density > 0.0 ? max(-1.0, min(1.0, log($density / $this->sheet->reference, 2))) : 0.0;
        $from = self::rgb(self::SCALE[1]);
        $to = self::rgb(self::SCALE[$at < 0.0 ? 0 : 2]);

        return sprintf('#%02X%02X%02X', ...array_map(static fn (int $k): int => (int) round(ord($from[$k]) + abs($at) * (ord($to[$k]) - ord($from[$k]))), [0, 1, 2]));
    }

    private static function rgb(string $hex): string
    {
        return (string) hex2bin(substr($hex, 1));
    }

    /**
     * @return iterable<array{int, list<float>}> island and six coordinates, moved into the tile at the origin
     */
    private function triangles(int $page): iterable
    {
        foreach ($this->where as [, $first, $mesh]) {
            foreach (UvIslands::of($mesh)->of as $t => $i) {
                if ($i < 0 || $this->sheet->islands[$first + $i]['page'] !== $page) {
                    continue;
                }
                [$u, $v] = $this->tile($first + $i);
                $uv = [];
                for ($k = 0; $k < 3; $k++) {
                    $at = 2 * $mesh->triUvs[3 * $t + $k];
                    $uv[] = $mesh->uvs[$at] - $u;
                    $uv[] = $mesh->uvs[$at + 1] - $v;
                }
                yield [$first + $i, $uv];
            }
        }
    }

    /**
     * @return array{float, float}
     */
    private function tile(int $island): array
    {
        $box = $this->sheet->islands[$island]['box'];

        return [floor(($box[0] + $box[2]) / 2), floor(($box[1] + $box[3]) / 2)];
    }

    /**
     * @return list<array{int, string}> island and its triangles as one path
     */
    private function filled(int $page): array
    {
        $paths = [];
        foreach ($this->triangles($page) as [$island, $uv]) {
            $paths[$island] = ($paths[$island] ?? '').self::path($uv);
        }
        $out = [];
        foreach ($paths as $island => $path) {
            $out[] = [$island, $path];
        }

        return $out;
    }

    /**
     * @return array{border: string, hard: string}
     */
    private function lines(int $page): array
    {
        $out = ['border' => '', 'hard' => ''];
        foreach ($this->segments($page) as [$isHard, $ends]) {
            [$a, $b, $c, $d] = self::placed($ends);
            $out[$isHard ? 'hard' : 'border'] .= "M$a {$b}L$c $d";
        }

        return $out;
    }

    /**
     * Borders of islands, and hard edges inside them.
     *
     * @return iterable<array{bool, array{float, float, float, float}}>
     */
    private function segments(int $page): iterable
    {
        foreach ($this->where as [, $first, $mesh]) {
            $edges = LowEdges::of($mesh);
            foreach (UvIslands::of($mesh)->of as $t => $i) {
                if ($i < 0 || $this->sheet->islands[$first + $i]['page'] !== $page) {
                    continue;
                }
                [$u, $v] = $this->tile($first + $i);
                for ($half = 3 * $t; $half < 3 * $t + 3; $half++) {
                    $isHard = ! $edges->seams[$half] && ($edges->hard[$half] ?? false);
                    if ($edges->seams[$half] || $isHard) {
                        $a = 2 * $mesh->triUvs[$half];
                        $b = 2 * $mesh->triUvs[LowEdges::after($half)];
                        yield [$isHard, [$mesh->uvs[$a] - $u, $mesh->uvs[$a + 1] - $v, $mesh->uvs[$b] - $u, $mesh->uvs[$b + 1] - $v]];
                    }
                }
            }
        }
    }

    /**
     * @param  list<float>  $uv
     */
    private static function path(array $uv): string
    {
        $out = '';
        for ($k = 0; $k + 1 < count($uv); $k += 2) {
            $out .= ($k === 0 ? 'M' : 'L').round(self::PAGE * self::inPage($uv[$k]), 2).' '.round(self::PAGE * (1 - self::inPage($uv[$k + 1])), 2);
        }

        return $out.'Z';
    }

    /** Coordinates are drawn as they are; a layout a million pages off would make a picture of nothing. */
    private static function inPage(float $x): float
    {
        return max(-10.0, min(11.0, $x));
    }

    /**
     * @param  array{float, float, float, float}  $ends
     * @return array{float, float, float, float}
     */
    private static function placed(array $ends): array
    {
        $u = floor(($ends[0] + $ends[2]) / 2);
        $v = floor(($ends[1] + $ends[3]) / 2);

        return [round(self::PAGE * self::inPage($ends[0] - $u), 2), round(self::PAGE * (1 - self::inPage($ends[1] - $v)), 2), round(self::PAGE * self::inPage($ends[2] - $u), 2), round(self::PAGE * (1 - self::inPage($ends[3] - $v)), 2)];
    }

    /**
     * @param  array{float, float, float, float}  $box
     */
    private static function spanOf(array $box): float
    {
        return ($box[2] - $box[0]) * ($box[3] - $box[1]);
    }

    private static function text(string $text): string
    {
        return htmlspecialchars($text, ENT_XML1 | ENT_QUOTES | ENT_SUBSTITUTE);
    }

    /**
     * Fills a triangle: pixels whose middles lie in it; hatched ones every other diagonal.
     *
     * @param  array<int, string>  $rows
     * @param  list<float>  $uv
     */
    private static function fill(array &$rows, array $uv, int $size, int $left, string $rgb, bool $hatched): void
    {
        $x = [$uv[0] * $size, $uv[2] * $size, $uv[4] * $size];
        $y = [(1 - $uv[1]) * $size, (1 - $uv[3]) * $size, (1 - $uv[5]) * $size];
        for ($row = (int) max(0, ceil(min($y) - 0.5)), $last = (int) min($size - 1, floor(max($y) - 0.5)); $row <= $last; $row++) {
            $at = $row + 0.5;
            $from = INF;
            $to = -INF;
            for ($k = 0; $k < 3; $k++) {
                $n = ($k + 1) % 3;
                if (($y[$k] <= $at) !== ($y[$n] <= $at)) {
                    $cross = $x[$k] + ($at - $y[$k]) / ($y[$n] - $y[$k]) * ($x[$n] - $x[$k]);
                    $from = min($from, $cross);
                    $to = max($to, $cross);
                }
            }
            $a = (int) max(0, ceil($from - 0.5));
            $b = (int) min($size - 1, floor($to - 0.5));
            if ($b < $a) {
                continue;
            }
            if ($hatched) {
                for ($column = $a; $column <= $b; $column++) {
                    if (($column + $row) % 6 < 3) {
                        $rows[$row] = substr_replace($rows[$row], $rgb, 3 * ($left + $column), 3);
                    }
                }
            } else {
                $rows[$row] = substr_replace($rows[$row], str_repeat($rgb, $b - $a + 1), 3 * ($left + $a), 3 * ($b - $a + 1));
            }
        }
    }

    /**
     * @param  array<int, string>  $rows
     * @param  array{float, float, float, float}  $ends
     */
    private static function line(array &$rows, array $ends, int $size, int $left, string $rgb): void
    {
        $steps = (int) min(4 * $size, max(1.0, ceil(max(abs($ends[2] - $ends[0]), abs($ends[3] - $ends[1])) * $size)));
        for ($k = 0; $k <= $steps; $k++) {
            $column = (int) floor(($ends[0] + $k / $steps * ($ends[2] - $ends[0])) * $size);
            $row = (int) floor((1 - $ends[1] - $k / $steps * ($ends[3] - $ends[1])) * $size);
            if ($column >= 0 && $row >= 0 && $column < $size && $row < $size) {
                $rows[$row] = substr_replace($rows[$row], $rgb, 3 * ($left + $column), 3);
            }
        }
    }
}
