<?php

declare(strict_types=1);

namespace Anvil\Formats\Obj;

use Anvil\Formats\Reader;
use Anvil\Formats\Source;
use Anvil\Geometry\Bytes;
use Anvil\Geometry\Scene;
use Anvil\Geometry\Triangulation;
use Anvil\Unreadable;

/**
 * Wavefront OBJ: polygons, objects and groups, UVs, normals, materials, vertex colours behind the position.
 *
 * Parts are named by `o`, in a file without any by `g`, else by the file. Free-form curves and surfaces are passed over.
 *
 * Most lines of a large file stand in runs of one form. A regular expression checks a whole run and cuts it out, and one `explode` takes
 * it apart; what is not in such a run is read line by line.
 */
final class ObjReader implements Reader
{
    private const BLOCK = 1 << 20;

    private const LONGEST_LINE = 1 << 20;

    private const NUMBER = '[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?';

    /** Runs of lines of the usual forms, by their first two characters: checked and cut out at once. */
    private const RUNS = [
        'v ' => '/\G(?:v(?: '.self::NUMBER.'){3}\n)++/',
        'vt' => '/\G(?:vt(?: '.self::NUMBER.'){2}\n)++/',
        'vn' => '/\G(?:vn(?: '.self::NUMBER.'){3}\n)++/',
        'f ' => '/\G(?:f(?: \d+\/\d+\/\d+){3}\n)++/',
    ];

    /** @var list<float> */
    private array $positions = [];

    /** @var list<float> */
    private array $uvs = [];

    /** @var list<float> */
    private array $normals = [];

    /** @var array<int, array{float, float, float}> */
    private array $colors = [];

    /** @var list<ObjGroup> */
    private array $groups = [];

    /** @var array<string, ObjGroup> */
    private array $openGroups = [];

    private ObjGroup $group;

    private bool $byObject = false;

    private string $material = '';

    /** Smoothing group in force; null where none has been named. */
    private ?int $smoothing = null;

    /** @var array<string, true> */
    private array $libraries = [];

    /** @var array{int, int} position, UV and normal numbers seen: the largest and the line it stands on */
    private array $maxPosition = [0, 0];

    /** @var array{int, int} */
    private array $maxUv = [0, 0];

    /** @var array{int, int} */
    private array $maxNormal = [0, 0];

    /** @var array<string, true> */
    private array $passedOver = [];

    public function read(Source $source): Scene
    {
        $reader = new self;

        return $reader->run($source);
    }

    private function run(Source $source): Scene
    {
        $this->group = new ObjGroup(pathinfo($source->name(), PATHINFO_FILENAME));
        $this->groups = [$this->group];
        $stream = $source->open();
        try {
            $this->readBlocks($stream);
        } finally {
            fclose($stream);
        }
        $this->checkNumbers();
        $colors = $cutOut = [];
        $remarks = [];
        foreach (array_keys($this->libraries) as $library) {
            $side = $source->side((string) $library);
            if ($side === null) {
                $remarks[] = "the material file $library is not there";
            } else {
                [$ofSide, $cut] = MtlReader::read($side);
                $colors += $ofSide;
                array_push($cutOut, ...$cut);
            }
        }
        foreach (array_keys($this->passedOver) as $keyword) {
            $remarks[] = "$keyword statements are passed over";
        }
        if ($this->groups[0]->triangles !== []) {
            $remarks[] = 'named by the file';
        }
        $parts = (new ObjParts($this->positions, $this->uvs, $this->normals, $this->colors, $this->smoothing !== null))->of($this->groups, $colors, $cutOut);

        return new Scene('obj', $parts, null, null, $remarks);
    }

    /**
     * @param  resource  $stream
     */
    private function readBlocks($stream): void
    {
        $rest = '';
        $line = 0;
        $offset = 0;
        while (! feof($stream)) {
            $read = fread($stream, self::BLOCK);
            if ($read === false) {
                throw Unreadable::atByte($offset, 'the file cannot be read further');
            }
            $zero = strpos($read, "\0");
            if ($zero !== false) {
                throw Unreadable::atByte($offset + $zero, 'a zero byte: this is not an OBJ text file in an eight-bit encoding (UTF-16 has to be saved as UTF-8)');
            }
            $offset += strlen($read);
            $block = $rest.$read;
            $end = strrpos($block, "\n");
            if ($end === false && strpos($block, "\r") !== false && ! str_ends_with($block, "\r")) {
                $end = strrpos($block, "\r");
            }
            // A line that goes on with a backslash stays whole.
            while ($end !== false && $end > 0 && substr(rtrim(substr($block, 0, $end), "\r"), -1) === '\\') {
                $end = strrpos(substr($block, 0, $end), "\n");
            }
            if ($end === false) {
                $rest = $block;
                if (strlen($rest) > self::LONGEST_LINE) {
                    throw Unreadable::onLine($line + 1, 'is over 1 MiB long; no exporter writes that, so the file is damaged or not an OBJ file');
                }

                continue;
            }
            $rest = substr($block, $end + 1);
            if (strlen($rest) > self::LONGEST_LINE) {
                throw Unreadable::onLine($line + substr_count($block, "\n", 0, $end + 1) + 1, 'is over 1 MiB long; no exporter writes that, so the file is damaged or not an OBJ file');
            }
            $line = $this->readLines(substr($block, 0, $end), $line);
        }
        if ($rest !== '') {
            $this->readLines($rest, $line);
        }
    }

    private function readLines(string $block, int $line): int
    {
        if (strpos($block, "\r") !== false) {
            $block = str_replace(["\r\n", "\r"], "\n", $block);
        }
        if (strpos($block, "\\\n") !== false) {
            // The joined line is followed by as many empty ones, so that line numbers stay true.
            $block = (string) preg_replace_callback('/^(?:[^\n]*\\\\\n)+[^\n]*/m', static fn (array $m): string => str_replace("\\\n", ' ', $m[0]).str_repeat("\n", substr_count($m[0], "\n")), $block);
        }
        if (strpos($block, "\t") !== false) {
            $block = str_replace("\t", ' ', $block);
        }
        if (strpos($block, '#') !== false) {
            $block = (string) preg_replace('/(^|[ \d])#[^\n]*/m', '$1', $block);
        }
        if (strpos($block, '  ') !== false) {
            $block = (string) preg_replace('/ {2,}/', ' ', $block);
        }
        if (strpos($block, " \n") !== false || strpos($block, "\n ") !== false || ($block[0] ?? '') === ' ' || str_ends_with($block, ' ')) {
            $block = (string) preg_replace('/^ | $/m', '', $block);
        }
        if (stripos($block, 'nan') !== false || stripos($block, 'inf') !== false || strpos($block, '1.#') !== false) {
            // A normal that is no number is kept as zero, and told of by a check; a place that is none is an error.
            $block = (string) preg_replace('/^vn (?=.*(?:nan|inf|#))(?:(?:'.self::NUMBER.'|[-+]?(?:nan(?:\(\w*\))?|inf(?:inity)?|1\.#\w+)) ?){3}$/mi', 'vn 0 0 0', $block);
        }
        $block .= "\n";
        $at = 0;
        $length = strlen($block);
        while ($at < $length) {
            $first = $block[$at];
            if ($first === "\n") {
                $at++;
                $line++;

                continue;
            }
            if (($first === 'v' || $first === 'f') && preg_match(self::RUNS[$first.($block[$at + 1] ?? '')] ?? '/\G$^/', $block, $found, 0, $at) === 1) {
                $run = $found[0];
                $lines = substr_count($run, "\n");
                match ($block[$at + 1]) {
                    't' => $this->uvRun($run),
                    'n' => $this->normalRun($run),
                    default => $first === 'v' ? $this->positionRun($run) : $this->triangleRun($run, $line + 1, $line + $lines),
                };
                $at += strlen($run);
                $line += $lines;

                continue;
            }
            $end = (int) strpos($block, "\n", $at);
            $text = substr($block, $at, $end - $at);
            $line++;
            $at = $end + 1;
            if ($first === 'v' || $first === 'f') {
                $this->checkLines($text, $line - 1);
            }
            if ($first === 'f') {
                $this->face($text, $line);
            } elseif ($first === 'v') {
                $this->vertex($text);
            } else {
                $this->statement($text, $line);
            }
        }

        return $line;
    }

    /** A vertex line of any form. */
    private function vertex(string $text): void
    {
        $kind = $text[1] ?? '';
        $p = explode(' ', $text);
        if ($kind === ' ') {
            array_push($this->positions, (float) $p[1], (float) $p[2], (float) $p[3]);
            if (isset($p[6])) {
                $this->colors[intdiv(count($this->positions), 3) - 1] = [(float) $p[4], (float) $p[5], (float) $p[6]];
            }
        } elseif ($kind === 't') {
            array_push($this->uvs, (float) $p[1], (float) ($p[2] ?? 0.0));
        } elseif ($kind === 'n') {
            array_push($this->normals, (float) $p[1], (float) $p[2], (float) $p[3]);
        } else {
            $this->passedOver['free-form (vp)'] = true;
        }
    }

    /** Lines `v x y z`. */
    private function positionRun(string $run): void
    {
        // Taken out of the object while it grows: a property is looked up anew at every step.
        $out = $this->positions;
        $this->positions = [];
        $q = explode(' ', strtr($run, "\n", ' '));
        for ($i = 1, $n = count($q); $i + 2 < $n; $i += 4) {
            $out[] = (float) $q[$i];
            $out[] = (float) $q[$i + 1];
            $out[] = (float) $q[$i + 2];
        }
        $this->positions = $out;
    }

    /** Lines `vn x y z`. */
    private function normalRun(string $run): void
    {
        $out = $this->normals;
        $this->normals = [];
        $q = explode(' ', strtr($run, "\n", ' '));
        for ($i = 1, $n = count($q); $i + 2 < $n; $i += 4) {
            $out[] = (float) $q[$i];
            $out[] = (float) $q[$i + 1];
            $out[] = (float) $q[$i + 2];
        }
        $this->normals = $out;
    }

    /** Lines `vt u v`. */
    private function uvRun(string $run): void
    {
        $out = $this->uvs;
        $this->uvs = [];
        $q = explode(' ', strtr($run, "\n", ' '));
        for ($i = 1, $n = count($q); $i + 1 < $n; $i += 3) {
            $out[] = (float) $q[$i];
            $out[] = (float) $q[$i + 1];
        }
        $this->uvs = $out;
    }

    /** Lines `f v/vt/vn v/vt/vn v/vt/vn`, counted from 1. */
    private function triangleRun(string $run, int $firstLine, int $lastLine): void
    {
        $group = $this->group;
        if ($this->material !== $group->lastMaterial) {
            $group->useMaterial($this->material);
        }
        if ($this->smoothing !== $group->lastSmoothing) {
            $group->smoothBy($this->smoothing ?? 0);
        }
        $vs = $group->triangles;
        $ts = $group->triUvs;
        $ns = $group->triNormals;
        $group->triangles = $group->triUvs = $group->triNormals = [];
        $before = count($vs);
        $q = explode('/', strtr($run, " \n", '//'));
        $count = count($q);
        for ($i = 1; $i + 8 < $count; $i += 10) {
            $vs[] = (int) $q[$i] - 1;
            $ts[] = (int) $q[$i + 1] - 1;
            $ns[] = (int) $q[$i + 2] - 1;
            $vs[] = (int) $q[$i + 3] - 1;
            $ts[] = (int) $q[$i + 4] - 1;
            $ns[] = (int) $q[$i + 5] - 1;
            $vs[] = (int) $q[$i + 6] - 1;
            $ts[] = (int) $q[$i + 7] - 1;
            $ns[] = (int) $q[$i + 8] - 1;
        }
        foreach ([[&$this->maxPosition, array_slice($vs, $before)], [&$this->maxUv, array_slice($ts, $before)], [&$this->maxNormal, array_slice($ns, $before)]] as [&$seen, $new]) {
            if ($new !== [] && min($new) < 0) {
                throw Unreadable::onLine($firstLine, "a face between this line and line $lastLine counts from 0; faces count from 1");
            }
            if ($new !== [] && max($new) + 1 > $seen[0]) {
                $seen = [max($new) + 1, $lastLine];
            }
        }
        unset($seen);
        $group->triangles = $vs;
        $group->triUvs = $ts;
        $group->triNormals = $ns;
        $group->countTriangles(intdiv($count, 10));
    }

    /** Finds the first `v`, `vt`, `vn` or `f` line that is not what it should be. */
    private function checkLines(string $block, int $line): void
    {
        $number = self::NUMBER;
        $corner = '-?\d+(?:\/(?:-?\d+)?(?:\/(?:-?\d+)?)?)?';
        $bad = "/^(?:v(?! $number(?: $number){2,6}$|t $number(?: $number){0,2}$|n $number(?: $number){2}$|p )|f(?! $corner(?: $corner){2,}$|o ))/m";
        $found = preg_match($bad, $block, $at, PREG_OFFSET_CAPTURE);
        if ($found === false) {
            throw Unreadable::onLine($line + 1, 'the lines from here on cannot be read as OBJ text');
        }
        if ($found === 1) {
            $where = $at[0][1];
            $text = substr($block, $where, (strpos($block, "\n", $where) ?: strlen($block)) - $where);
            $number = $line + substr_count($block, "\n", 0, $where) + 1;
            throw Unreadable::onLine($number, 'is not a valid '.($text[0] === 'f' ? 'face (at least three corners of whole numbers)' : 'vertex line (numbers, none of them NaN or infinite)').': "'.mb_strimwidth(mb_scrub($text), 0, 60, '…').'"');
        }
    }

    private function face(string $text, int $line): void
    {
        $corners = substr_count($text, ' ');
        $slots = explode('/', strtr(substr($text, 2), ' ', '/'));
        $stride = intdiv(count($slots), $corners);
        if ($stride * $corners !== count($slots) || $stride > 3) {
            [$slots, $stride] = [$this->spread($text), 3];
        }
        $vs = [];
        $ts = [];
        $ns = [];
        $positionCount = intdiv(count($this->positions), 3);
        for ($i = 0; $i < $corners; $i++) {
            $v = (int) $slots[$stride * $i];
            if ($v < 0) {
                $v += $positionCount + 1;
            }
            if ($v < 1) {
                throw Unreadable::onLine($line, "a face counts vertices from 1, or back from the last with −1; {$slots[$stride * $i]} leads nowhere");
            }
            if ($v > $this->maxPosition[0]) {
                $this->maxPosition = [$v, $line];
            }
            $vs[] = $v - 1;
            $t = $stride > 1 ? (int) $slots[$stride * $i + 1] : 0;
            if ($t < 0) {
                $t += intdiv(count($this->uvs), 2) + 1;
                if ($t < 1) {
                    throw Unreadable::onLine($line, 'a face counts UVs back past the first');
                }
            }
            if ($t > $this->maxUv[0]) {
                $this->maxUv = [$t, $line];
            }
            $ts[] = $t - 1;
            $n = $stride > 2 ? (int) $slots[$stride * $i + 2] : 0;
            if ($n < 0) {
                $n += intdiv(count($this->normals), 3) + 1;
                if ($n < 1) {
                    throw Unreadable::onLine($line, 'a face counts normals back past the first');
                }
            }
            if ($n > $this->maxNormal[0]) {
                $this->maxNormal = [$n, $line];
            }
            $ns[] = $n - 1;
        }
        $group = $this->group;
        if ($this->material !== $group->lastMaterial) {
            $group->useMaterial($this->material);
        }
        if ($this->smoothing !== $group->lastSmoothing) {
            $group->smoothBy($this->smoothing ?? 0);
        }
        if ($corners === 3) {
            array_push($group->triangles, $vs[0], $vs[1], $vs[2]);
            array_push($group->triUvs, $ts[0], $ts[1], $ts[2]);
            array_push($group->triNormals, $ns[0], $ns[1], $ns[2]);
            $group->countTriangles(1);

            return;
        }
        $xyz = [];
        foreach ($vs as $v) {
            if ($v >= $positionCount) {
                // A vertex that comes later in the file: no place is known yet.
                $xyz = array_fill(0, 3 * $corners, 0.0);
                break;
            }
            $xyz[] = $this->positions[3 * $v];
            $xyz[] = $this->positions[3 * $v + 1];
            $xyz[] = $this->positions[3 * $v + 2];
        }
        $cut = Triangulation::of($xyz);
        foreach ($cut as $corner) {
            $group->triangles[] = $vs[$corner];
            $group->triUvs[] = $ts[$corner];
            $group->triNormals[] = $ns[$corner];
        }
        $group->countPolygon(intdiv(count($cut), 3));
    }

    /**
     * A face whose corners are not all written alike, three slots a corner.
     *
     * @return list<string>
     */
    private function spread(string $text): array
    {
        $slots = [];
        foreach (explode(' ', substr($text, 2)) as $corner) {
            $p = explode('/', $corner);
            array_push($slots, $p[0], $p[1] ?? '', $p[2] ?? '');
        }

        return $slots;
    }

    private function statement(string $text, int $line): void
    {
        $blank = strpos($text, ' ');
        $keyword = $blank === false ? $text : substr($text, 0, $blank);
        $rest = $blank === false ? '' : mb_scrub(trim(substr($text, $blank + 1)));
        switch ($keyword) {
            case 'o':
                $this->byObject = true;
                $this->start(new ObjGroup($rest !== '' ? $rest : 'unnamed', intdiv(count($this->positions), 3)));
                break;
            case 'g':
                if (! $this->byObject) {
                    $name = $rest !== '' ? $rest : 'default';
                    if (isset($this->openGroups[$name])) {
                        $this->group = $this->openGroups[$name];
                    } else {
                        $this->start(new ObjGroup($name, intdiv(count($this->positions), 3)));
                        $this->openGroups[$name] = $this->group;
                    }
                }
                break;
            case 'usemtl':
                $this->material = $rest;
                break;
            case 'mtllib':
                // One library or several; a name may hold blanks, so the whole is tried where it ends in .mtl only once.
                $names = substr_count(strtolower($rest), '.mtl') > 1 ? explode(' ', $rest) : [$rest];
                foreach ($names as $name) {
                    $this->libraries[$name] = true;
                }
                break;
            case 's':
                $this->smoothing = $rest === 'off' ? 0 : max(0, (int) $rest);
                break;
            case 'l':
            case 'p':
            case 'curv':
            case 'surf':
            case 'cstype':
                $this->passedOver[$keyword] = true;
                break;
            default:
                if (preg_match('/[^\x20-\x7e]/', $keyword) === 1 || strlen($keyword) > 32) {
                    throw Unreadable::onLine($line, 'is not OBJ text');
                }
                $this->passedOver[$keyword] = true;
        }
        if (count($this->passedOver) > 200) {
            throw Unreadable::onLine($line, 'the file is full of words that OBJ does not know; it is another format');
        }
    }

    private function start(ObjGroup $group): void
    {
        $this->group = $group;
        $this->groups[] = $group;
    }

    private function checkNumbers(): void
    {
        foreach ([['vertex', $this->maxPosition, intdiv(count($this->positions), 3)], ['UV', $this->maxUv, intdiv(count($this->uvs), 2)], ['normal', $this->maxNormal, intdiv(count($this->normals), 3)]] as [$what, [$largest, $line], $have]) {
            if ($largest > $have) {
                throw Unreadable::onLine($line, "a face names $what $largest, and the file has $have; it may be cut short");
            }
        }
        $this->positions = Bytes::toFloat32($this->positions);
        // A sum is finite only where every number is.
        foreach (is_finite(array_sum($this->positions)) ? [] : $this->positions as $i => $value) {
            if (! is_finite($value)) {
                throw Unreadable::because('vertex '.(intdiv($i, 3) + 1).' is too far out for a 32-bit number');
            }
        }
    }
}
